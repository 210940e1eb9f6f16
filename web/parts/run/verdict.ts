import type { Comparison } from "#core";
import { figure } from "../../ui/format.ts";

/** The verdict as one plain sentence. */
export function verdictSentence(comparison: Comparison): string {
  if (!comparison.comparable) return `Can’t be compared: ${comparison.reason ?? "the runs do not fit"}`;
  const equal = comparison.atEqualConditions;
  const [role, lead] = equal?.roles.edge
    ? (["", equal.roles.edge] as const)
    : (["hotspot ", equal?.roles.hotspot ?? Object.values(equal?.roles ?? {})[0]] as const);
  if (!lead) return "Can’t be compared: the runs share no sensor.";
  const at =
    equal?.fanRpm !== null && equal?.powerW !== null
      ? "at the same fan speed and power"
      : equal?.powerW !== null
        ? "at the same power; fan speed unknown"
        : "as far as the logs tell";
  const amount = `${figure(Math.abs(lead.changeK))} ± ${figure(lead.u95K)} K`;
  if (comparison.verdict === "no-real-change")
    return `No real change (${figure(lead.changeK)} ± ${figure(lead.u95K)} K ${at})`;
  if (comparison.verdict === "worse" && lead.changeK <= 0)
    return `Hotter at the hotspot, though the edge is ${amount} cooler ${at}`;
  return `${role}${amount} ${comparison.verdict === "better" ? "cooler" : "hotter"} ${at}`;
}
