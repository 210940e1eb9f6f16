import type { Verdict } from "../../compare/index.ts";
import { leadingPair, type ServiceFacts, type StationRule, signed } from "../../service/index.ts";

const VERDICT_WORDS: Record<Verdict, string> = {
  better: "cooler",
  "no-real-change": "no real change",
  worse: "hotter",
  "not-comparable": "can't be compared",
};

/** The verdict of the leading pair in a line; memory is named where die and memory part ways. */
function verdictFigure({ pairs }: ServiceFacts): string {
  const lead = leadingPair(pairs)?.comparison;
  if (!lead) return "";
  const equal = lead.atEqualConditions?.roles.edge ?? lead.atEqualConditions?.roles.hotspot;
  if (!equal) return VERDICT_WORDS[lead.verdict];
  const memory = lead.atEqualConditions?.roles.memory;
  const beside =
    lead.verdict === "no-real-change" && memory && memory.verdict !== "no-real-change"
      ? `; memory ${signed(memory.changeK)} K`
      : "";
  return `${signed(equal.changeK)} ± ${equal.u95K.toFixed(1)} K: ${VERDICT_WORDS[lead.verdict]}${beside}`;
}

export const proveRule: StationRule<null> = {
  todo: "Run the same load again",
  figure: verdictFigure,
  done: ({ runs }) => runs.some((run) => run.side === "after"),
};
