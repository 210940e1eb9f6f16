import { countOf, openedByNote, type ServiceFacts, type StationRule } from "../../service/index.ts";

/** What the station's folder loads of the steps that were marked. */
export interface CloseUpFacts {
  /** It was taken apart by steps. */
  opened: boolean;
  begun: boolean;
  finished: boolean;
  /** Of those that came out, so many are still to go back. */
  screwsLeft: number;
}

export const closeUpRule: StationRule<CloseUpFacts> = {
  todo: "Close it, screw by screw",
  quiet: true,
  figure: (facts, { begun, finished, screwsLeft }) =>
    finished
      ? "closed"
      : begun
        ? `${countOf(screwsLeft, "screw")} to go back`
        : closedByNote(facts)
          ? "noted by hand"
          : "",
  done: (facts, { opened, begun, finished }) => finished || (!begun && !opened && closedByNote(facts)),
  wanted: (facts, { opened }) => opened && !wasRun(facts),
};

const wasRun = ({ runs, attempt }: ServiceFacts): boolean =>
  runs.some((run) => run.side === "after" && run.attempt === attempt);

/** What was opened by a note and run again was closed. */
const closedByNote = (facts: ServiceFacts): boolean => openedByNote(facts) && wasRun(facts);
