import type { StationRule } from "../../service/index.ts";
/** What the station's folder loads: the choice in words; empty while nothing is decided. */
export interface DecideFacts {
  label: string;
}

export const decideRule: StationRule<DecideFacts> = {
  todo: "Decide: open it or leave it",
  figure: (_facts, { label }) => label,
  // Work noted without a decision implies one.
  done: ({ choice, work }) => choice !== null || work.length > 0,
};
