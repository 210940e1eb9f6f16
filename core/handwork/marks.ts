/** What hands did, in the order in which it was kept; only ever added to. */
export interface StepMark {
  /** The sender's own: the same mark sent again is the same one. */
  id: string;
  stepId: string;
  what: "begun" | "done" | "undone" | "odd" | "value" | "photo" | "pause";
  value: string;
  text: string;
  /** When the hand did it, by its own clock, ISO 8601. */
  at: string;
}

/** What is different about a screw or a step. */
export const ODD_KINDS = ["stripped", "another size", "missing", "extra", "broken", "different"] as const;

export interface StepState {
  done: boolean;
  value: string | null;
  text: string;
  odd: { kind: string; text: string } | null;
  photos: readonly string[];
}

export type Folded = ReadonlyMap<string, StepState>;

const NEW: StepState = { done: false, value: null, text: "", odd: null, photos: [] };

/** How every step stands after all marks, the newest last; an odd mark without a kind takes the oddity back. */
export function foldMarks(marks: readonly StepMark[]): Folded {
  const states = new Map<string, StepState>();
  const seen = new Set<string>();
  for (const { id, stepId, what, value, text } of marks) {
    if (seen.has(id)) continue;
    seen.add(id);
    const held = states.get(stepId) ?? NEW;
    states.set(stepId, after(held, what, value, text));
  }
  return states;
}

function after(held: StepState, what: StepMark["what"], value: string, text: string): StepState {
  switch (what) {
    case "done":
      return { ...held, done: true };
    case "undone":
      return { ...held, done: false };
    case "value":
      return { ...held, value: value === "" ? null : value, text };
    case "odd":
      return { ...held, odd: value === "" ? null : { kind: value, text } };
    case "photo":
      return { ...held, photos: [...held.photos, value] };
    case "begun":
    case "pause":
      return held;
  }
}

export const isDone = (folded: Folded, stepId: string): boolean => folded.get(stepId)?.done ?? false;
export const valueOf = (folded: Folded, stepId: string): string | null => folded.get(stepId)?.value ?? null;

/** The first that is not done; undefined once all are. */
export const currentStep = <S extends { id: string }>(steps: readonly S[], folded: Folded): S | undefined =>
  steps.find(({ id }) => !isDone(folded, id));

export interface Pause {
  /** What its answer is kept by. */
  fromAt: string;
  toAt: string;
  minutes: number;
  /** Whether hands were on it; null while nobody said. */
  worked: boolean | null;
}

export interface HandTime {
  minutes: number;
  /** Longer than ten minutes between two marks: asked about, and counted only where hands were on it; over three hours nobody is asked. */
  pauses: Pause[];
}

const LONGEST_MIN = 10;
/** Longer than this no hands are on one step: it lay there. */
const SURELY_AWAY_MIN = 180;
const MS_A_MIN = 60_000;

/**
 * Minutes of hands, from when the steps were marked: what lies between two marks counts up to ten minutes; longer is a pause.
 * @param marks of one station, in any order
 * @param msOf reads a time of a mark, ms; one that is none is left out
 */
export function handTime(marks: readonly StepMark[], msOf: (at: string) => number): HandTime {
  const answers = new Map(marks.flatMap(({ what, stepId, value }) => (what === "pause" ? [[stepId, value]] : [])));
  const times = [...new Set(marks.flatMap(({ what, at }) => (what === "pause" || what === "photo" ? [] : [at])))]
    .map((at) => ({ at, ms: msOf(at) }))
    .filter(({ ms }) => Number.isFinite(ms))
    .sort((a, b) => a.ms - b.ms);
  let minutes = 0;
  const pauses: Pause[] = [];
  times.slice(1).forEach((to, index) => {
    const from = times[index] ?? to;
    const between = (to.ms - from.ms) / MS_A_MIN;
    if (between <= LONGEST_MIN) {
      minutes += between;
      return;
    }
    const said = answers.get(from.at) ?? (between > SURELY_AWAY_MIN ? "away" : undefined);
    if (said === "worked") minutes += between;
    pauses.push({ fromAt: from.at, toAt: to.at, minutes: between, worked: said ? said === "worked" : null });
  });
  return { minutes, pauses };
}
