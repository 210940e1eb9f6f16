import { isKnown, leadRun, leadSensor, type RunFacts, type StationRule } from "../../service/index.ts";

function riseFigure(run: RunFacts): string {
  const { ambient } = run.analysis;
  const lead = leadSensor(run);
  if (!ambient) return "room air missing";
  if (!lead || lead.finalC === null) return "no load found";
  const riseK = lead.riseK ?? lead.finalC - ambient.valueC;
  return `${riseK.toFixed(1)} K over room${isKnown(run) ? "" : ", not settled"}`;
}

export const baselineRule: StationRule<null> = {
  todo: "Run the load and drop the log",
  figure({ runs }) {
    const lead = leadRun(runs, "before");
    return lead ? riseFigure(lead) : "";
  },
  done: ({ runs }) => runs.some((run) => run.side === "before"),
};
