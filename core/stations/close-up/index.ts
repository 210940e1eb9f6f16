import { countOf, type StationRule } from "../../service/index.ts";

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
  figure: ({ work }, { opened, begun, finished, screwsLeft }) =>
    finished
      ? "closed"
      : begun
        ? `${countOf(screwsLeft, "screw")} to go back`
        : work.length > 0 && !opened
          ? "noted under Work"
          : "",
  done: (_facts, { finished }) => finished,
  wanted: ({ runs, attempt }, { opened }) =>
    opened && !runs.some((run) => run.side === "after" && run.attempt === attempt),
};
