import * as v from "valibot";
import { type Mapping, RunInput } from "#contract";
import { numberOrNull } from "../../ui/field.tsx";
import type { TypedConditions } from "./conditions.tsx";

/** What was typed as a run the server takes, or one message per field. */
export function toRunInput(
  typed: TypedConditions,
  rest: { side: RunInput["side"]; mapping: Mapping; intervalS: number | null; window: RunInput["window"] },
): { input: RunInput } | { errors: Record<string, string> } {
  const result = v.safeParse(RunInput, {
    ...typed,
    ...rest,
    fanPct: typed.fanMode === "fixed" ? numberOrNull(typed.fanPct) : null,
    powerLimitPct: numberOrNull(typed.powerLimitPct),
    ambientC: numberOrNull(typed.ambientC),
    ambientU95K: numberOrNull(typed.ambientU95K),
  });
  if (result.success) return { input: result.output };
  return { errors: Object.fromEntries(result.issues.map((issue) => [v.getDotPath(issue) ?? "run", issue.message])) };
}
