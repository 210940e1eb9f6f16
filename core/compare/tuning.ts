/** How a card was set for a run, by hand; null where nobody said. Stock is 0 and 100 %. */
export interface Tuning {
  coreOffsetMHz: number | null;
  memoryOffsetMHz: number | null;
  undervoltMv: number | null;
  powerLimitPct: number | null;
  frameCapFps: number | null;
}

export interface TuningDifference {
  what: keyof Tuning;
  before: number | null;
  after: number | null;
  /** What it does to the answer, and what to do about it. */
  means: string;
}

/** Settings that are stock when nobody says otherwise. */
const STOCK: Record<keyof Tuning, number | null> = {
  coreOffsetMHz: 0,
  memoryOffsetMHz: 0,
  undervoltMv: 0,
  powerLimitPct: 100,
  frameCapFps: null,
};

const MEANS: Record<keyof Tuning, string> = {
  coreOffsetMHz:
    "Kelvins are brought to equal power, but a clock or frame rate that rose is the setting’s, not the work’s.",
  memoryOffsetMHz:
    "Memory heats itself more at a higher clock: its change is not the work’s alone, and watts do not tell how much.",
  undervoltMv:
    "Less voltage is less heat. Kelvins are brought to equal power where it was logged; clock and frame rate are not the work’s.",
  powerLimitPct:
    "Kelvins are brought to equal power where it was logged; clock and frame rate follow the limit, not the work.",
  frameCapFps:
    "A cap holds the load down: the card may never have been as warm as without it, and its frame rate says nothing. Run both with the same cap, or with none.",
};

/** Where the settings of two runs differ, and what that does to the answer. */
export function tuningDifferences(before: Partial<Tuning>, after: Partial<Tuning>): TuningDifference[] {
  return (Object.keys(STOCK) as Array<keyof Tuning>).flatMap((what): TuningDifference[] => {
    const was = before[what] ?? null;
    const is = after[what] ?? null;
    return (was ?? STOCK[what]) === (is ?? STOCK[what]) ? [] : [{ what, before: was, after: is, means: MEANS[what] }];
  });
}
