import { countOf, openedByNote, STAYS_CLOSED, type StationRule } from "../../service/index.ts";

/** What the station's folder loads of the steps that were marked. */
export interface StripFacts {
  begun: boolean;
  /** An attempt before this one was taken apart by steps. */
  before: boolean;
  finished: boolean;
  screwsOut: number;
}

export const stripRule: StationRule<StripFacts> = {
  todo: "Take it apart, step by step",
  quiet: true,
  figure: (facts, { begun, screwsOut }) =>
    begun ? `${countOf(screwsOut, "screw")} out` : openedByNote(facts) ? "noted by hand" : "",
  done: (facts, { begun, finished }) => finished || (!begun && openedByNote(facts)),
  // What was noted or run since was opened, and closed again, without these steps.
  wanted: ({ choice, work, runs, attempt }, { before }) =>
    (choice === null || !STAYS_CLOSED.includes(choice)) &&
    (attempt > 1 ? before : work.length === 0) &&
    !runs.some((run) => run.side === "after" && run.attempt === attempt),
};
