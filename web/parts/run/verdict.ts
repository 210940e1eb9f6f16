import type { Comparison } from "#core";
import type { Outcome } from "#core/outcome/index.ts";
import { figure, widthOf } from "../../ui/format.ts";

/** What a pair of runs came to, in plain sentences: the die alone where that is all there is to say, else the whole card. */
export function verdictSentence({ comparison, outcome }: { comparison: Comparison; outcome: Outcome }): string {
  if (!comparison.comparable) return `Can’t be compared: ${comparison.reason ?? "the runs do not fit"}`;
  const { sensors, tells, headline, verdict, known } = outcome;
  if (!known) return headline;
  const lead = sensors.find((one) => one.role === "edge") ?? sensors.find((one) => one.role === "hotspot");
  const at = atWords(comparison);
  if (tells.length === 0 && lead) return `No real change (${figure(lead.changeK)} ± ${widthOf(lead.u95K)} K ${at})`;
  const isDieOnly = lead && tells.every((of) => of === lead.role) && verdict !== "over-limit";
  if (isDieOnly)
    return `${lead.role === "hotspot" ? "hotspot " : ""}${figure(Math.abs(lead.changeK))} ± ${widthOf(lead.u95K)} K ${lead.verdict} ${at}`;
  const change = /Die [\d.]+ ± [\d.]+ K (cooler|hotter)/.exec(headline) ?? /± [\d.]+ K (cooler|hotter)/.exec(headline);
  if (!change) return `${headline}. Compared ${at}`;
  const end = change.index + change[0].length;
  return `${headline.slice(0, end)} ${at}${headline.slice(end)}`;
}

function atWords({ atEqualConditions: equal }: Comparison): string {
  if (equal?.fanRpm != null && equal.powerW !== null) return "at the same fan speed and power";
  return equal?.powerW == null ? "as far as the figures tell" : "at the same power; fan speed unknown";
}
