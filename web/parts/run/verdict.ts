import type { Comparison } from "#core";
import { headlineOf, nameFor, type Outcome, type Reader } from "#core/outcome/index.ts";
import { figure, widthOf } from "../../ui/format.ts";

/** What a pair of runs came to, in plain sentences: the die alone where that is all there is to say, else the whole card. */
export function verdictSentence(
  { comparison, outcome }: { comparison: Comparison; outcome: Outcome },
  reader: Reader = "technician",
): string {
  if (!comparison.comparable) return `Can’t be compared: ${comparison.reason ?? "the runs do not fit"}`;
  const { sensors, tells, verdict, known } = outcome;
  const lead = sensors.find((one) => one.role === "edge") ?? sensors.find((one) => one.role === "hotspot");
  const at = atWords(comparison);
  if (!known || !lead) return headlineOf(outcome, at, reader);
  if (tells.length === 0) return `No real change (${figure(lead.changeK)} ± ${widthOf(lead.u95K)} K ${at})`;
  const isDieOnly = tells.every((of) => of === lead.role) && verdict !== "over-limit";
  if (isDieOnly)
    return `${lead.role === "hotspot" ? `${nameFor(reader, "hotspot")} ` : ""}${figure(Math.abs(lead.changeK))} ± ${widthOf(lead.u95K)} K ${lead.verdict} ${at}`;
  return headlineOf(outcome, at, reader);
}

function atWords({ atEqualConditions: equal }: Comparison): string {
  if (equal?.fanRpm != null && equal.powerW !== null) return "at the same fan speed and power";
  return equal?.powerW == null ? "as far as the figures tell" : "at the same power; fan speed unknown";
}
