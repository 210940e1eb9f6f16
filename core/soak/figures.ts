import { quantile } from "../numeric/index.ts";
import type { LevelRole, TemperatureRole } from "../runfile/index.ts";
import type { Analysis, LevelFigures, TemperatureFigures } from "./analysis.ts";

type WithRoles = Pick<Analysis, "roles">;

/** The figures of a temperature role; undefined when the log lacks it. */
export function temperatureOf({ roles }: WithRoles, role: TemperatureRole): TemperatureFigures | undefined {
  return roles[role];
}

/**
 * How the fan was driven, read off its duty under load: within 2 % all the time it was fixed, else automatic.
 * @returns undefined when the log has no duty
 * @example
 * ```ts
 * fanDriveOf(new Float64Array(10).fill(62)) // => { mode: "fixed", pct: 62 }
 * ```
 */
export function fanDriveOf(dutyPct: Float64Array): { mode: "fixed" | "automatic"; pct: number } | undefined {
  const low = quantile(dutyPct, 0.03);
  const high = quantile(dutyPct, 0.97);
  if (Number.isNaN(low)) return undefined;
  return { mode: high - low <= 2 ? "fixed" : "automatic", pct: Math.round(quantile(dutyPct, 0.5)) };
}

/** The mean of any other role; undefined when the log lacks it. */
export function levelOf({ roles }: WithRoles, role: LevelRole): LevelFigures | undefined {
  return roles[role];
}
