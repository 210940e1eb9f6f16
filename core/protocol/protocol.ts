/** What a test bench is told to do, step by step. */
export type FanSetting = number | "automatic";

export interface SoakStep {
  kind: "soak";
  label: string;
  /** Fan duty in %, or the card's own curve. */
  fan: FanSetting;
  /** Power limit in % of the card's own. */
  powerPct: number;
  /** Longest time under load, minutes. */
  minutes: number;
  /** Stop as soon as the answer is known to ± 0.5 K. */
  early: boolean;
  /** Sound level to match first by stepping the fan, dBA; undefined for none. */
  matchDb?: number | undefined;
}

export interface CyclesStep {
  kind: "cycles";
  label: string;
  count: number;
  loadMinutes: number;
  idleMinutes: number;
  fan: FanSetting;
}

export type ProtocolStep = SoakStep | CyclesStep;

export interface Protocol {
  name: string;
  about: string;
  steps: ProtocolStep[];
}

const soak = (label: string, fan: FanSetting, minutes: number, more: Partial<SoakStep> = {}): SoakStep => ({
  kind: "soak",
  label,
  fan,
  powerPct: 100,
  minutes,
  early: true,
  ...more,
});

/**
 * The usual protocols. Times, 62 % fixed fan, three speeds and 40 dBA are common practice of the trade, no published source.
 */
export const PROTOCOLS: readonly Protocol[] = [
  {
    name: "Fixed fan",
    about: "The run to compare with: fan fixed at 62 %, until the answer is known.",
    steps: [soak("Fixed fan 62 %", 62, 25)],
  },
  {
    name: "Automatic fan",
    about: "What the owner hears: the card's own fan curve.",
    steps: [soak("Automatic fan", "automatic", 30)],
  },
  {
    name: "Quick look",
    about: "Seven minutes: does it work, is it far off? Too short to prove a small change.",
    steps: [soak("Quick look", 62, 7)],
  },
  {
    name: "Fan sweep",
    about: "Three fan settings, one soak each: teaches how this card follows its fan.",
    steps: [40, 60, 80].map((fan) => soak(`Fan ${fan} %`, fan, 20)),
  },
  {
    name: "Full fan",
    about: "All the air there is: compound and contact alone decide.",
    steps: [soak("Full fan", 100, 20)],
  },
  {
    name: "Matched noise",
    about: "Steps the fan until the sound level meets 40 dBA, then soaks: coolers compared at equal noise.",
    steps: [soak("At 40 dBA", 50, 25, { matchDb: 40 })],
  },
  {
    name: "Overclock and undervolt pair",
    about: "Power limit at 110 % and at 80 %, same fan.",
    steps: [soak("Power 110 %", 70, 20, { powerPct: 110 }), soak("Power 80 %", 70, 20, { powerPct: 80 })],
  },
  {
    name: "Long soak",
    about: "An hour at the card's own fan, to the end: shows what creeps.",
    steps: [soak("Long soak", "automatic", 60, { early: false })],
  },
  {
    name: "Repeat runs",
    about: "The same run three times without touching anything: this bench's own scatter.",
    steps: [1, 2, 3].map((turn) => soak(`Repeat ${turn}`, 62, 20)),
  },
  {
    name: "Heat cycles",
    about: "For phase-change sheets: six cycles of load and rest, then the measuring run.",
    steps: [
      { kind: "cycles", label: "Heat cycles", count: 6, loadMinutes: 8, idleMinutes: 4, fan: "automatic" },
      soak("Fixed fan 62 %", 62, 25),
    ],
  },
];

/** How a run was made, as far as it can be made again. */
export interface RunMade {
  name: string;
  fanMode: "fixed" | "automatic" | "unknown";
  fanPct: number | null;
  powerLimitPct: number | null;
  /** Time under load, minutes. */
  loadMinutes: number;
}

const SHORTEST_AGAIN_MIN = 10;
const LONGEST_AGAIN_MIN = 60;
const MOST_AGAIN = 6;

/**
 * The runs before the work once more: same fan, same power limit, same time under load at the most.
 * @returns undefined where of no run it is known how its fan was driven
 * @example
 * ```ts
 * asBefore([{ name: "", fanMode: "fixed", fanPct: 65, powerLimitPct: null, loadMinutes: 18.2 }]).steps[0].fan // => 65
 * ```
 */
export function asBefore(runs: readonly RunMade[]): Protocol | undefined {
  const steps = runs.flatMap(({ name, fanMode, fanPct, powerLimitPct, loadMinutes }): SoakStep[] => {
    const fan = fanMode === "automatic" ? "automatic" : fanMode === "fixed" ? fanPct : null;
    if (fan === null) return [];
    const minutes = Math.min(LONGEST_AGAIN_MIN, Math.max(SHORTEST_AGAIN_MIN, Math.ceil(loadMinutes)));
    return [
      soak(name || (fan === "automatic" ? "Automatic fan" : `Fixed fan ${fan} %`), fan, minutes, {
        powerPct: powerLimitPct ?? 100,
      }),
    ];
  });
  if (steps.length === 0) return undefined;
  const words = steps.map(
    ({ fan, minutes }) => `${fan === "automatic" ? "automatic fan" : `fan ${fan} %`}, ${minutes} min`,
  );
  return {
    name: "As before the work",
    about: `The same again: ${words.slice(0, MOST_AGAIN).join("; ")}.`,
    steps: steps.slice(0, MOST_AGAIN),
  };
}

/** Between two runs of a protocol the card idles and cools so long at most, min. */
const BETWEEN_MIN = 8;

/** Minutes a step takes at most. */
const longestMin = (step: ProtocolStep): number =>
  step.kind === "soak" ? step.minutes : step.count * (step.loadMinutes + step.idleMinutes);

/** Minutes a protocol takes at most, its pauses counted. */
const protocolMinutes = ({ steps }: Pick<Protocol, "steps">): number =>
  steps.reduce((sum, step) => sum + longestMin(step) + BETWEEN_MIN, 0);

/**
 * Minutes that are left of a protocol at most.
 * @param at which step it is in, which cycle of it, and what is left of its present part
 */
export function minutesAhead(
  { steps }: Pick<Protocol, "steps">,
  at: { step: number; cycle: number; minutesLeft: number },
): number {
  const here = steps[at.step];
  const cycles =
    here?.kind === "cycles" ? Math.max(0, here.count - 1 - at.cycle) * (here.loadMinutes + here.idleMinutes) : 0;
  return at.minutesLeft + cycles + protocolMinutes({ steps: steps.slice(at.step + 1) });
}
