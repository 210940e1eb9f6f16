import type { LevelRole, TemperatureRole } from "../runfile/index.ts";
import type { Analysis, LevelFigures, TemperatureFigures } from "./analysis.ts";

type WithRoles = Pick<Analysis, "roles">;

/** The figures of a temperature role; undefined when the log lacks it. */
export function temperatureOf({ roles }: WithRoles, role: TemperatureRole): TemperatureFigures | undefined {
  return roles[role];
}

/** The mean of any other role; undefined when the log lacks it. */
export function levelOf({ roles }: WithRoles, role: LevelRole): LevelFigures | undefined {
  return roles[role];
}
