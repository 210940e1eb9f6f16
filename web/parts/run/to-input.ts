import * as v from "valibot";
import { RunInput } from "#contract";
import { numberOrNull } from "../../ui/field.tsx";
import { NUMBERS, type TypedConditions } from "./conditions.tsx";

/** What was typed as a run the server takes, or one message per field. */
export function toRunInput(
  typed: TypedConditions,
  rest: Pick<RunInput, "side" | "mapping" | "intervalS" | "window" | "load" | "attempt" | "leftOut"> &
    Partial<Pick<RunInput, "typed">>,
): { input: RunInput } | { errors: Record<string, string> } {
  const result = v.safeParse(RunInput, {
    ...typed,
    ...rest,
    fanPct: typed.fanMode === "fixed" ? numberOrNull(typed.fanPct) : null,
    ...Object.fromEntries(NUMBERS.map((key) => [key, numberOrNull(typed[key])])),
  });
  if (result.success) return { input: result.output };
  return { errors: Object.fromEntries(result.issues.map((issue) => [v.getDotPath(issue) ?? "run", issue.message])) };
}
