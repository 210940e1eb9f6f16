import { headlineOf } from "../../outcome/index.ts";
import { leadingPair, type ServiceFacts, type StationRule, signed } from "../../service/index.ts";

const WORDS = { better: "cooler", "no-real-change": "no real change", worse: "hotter" } as const;

/** What the leading pair came to, in a line: the die's change where that is all there is to say, else the whole card's headline. */
function outcomeFigure({ pairs }: ServiceFacts): string {
  const lead = leadingPair(pairs);
  if (!lead) return "";
  const { verdict, sensors, tells, known } = lead.outcome;
  if (verdict === "not-comparable") return "can't be compared";
  if (!known) return headlineOf(lead.outcome);
  const die = sensors.find((one) => one.role === "edge") ?? sensors.find((one) => one.role === "hotspot");
  const isMore = tells.some((of) => of !== die?.role) || verdict === "mixed" || verdict === "over-limit";
  return die && !isMore
    ? `${signed(die.changeK)} ± ${Math.max(0.1, die.u95K).toFixed(1)} K: ${WORDS[verdict]}`
    : headlineOf(lead.outcome);
}

export const proveRule: StationRule<null> = {
  todo: "Run the same load again",
  figure: outcomeFigure,
  done: ({ runs, attempt }) =>
    runs.some((run) => run.side === "after" && run.attempt === attempt && run.leftOut === ""),
};
