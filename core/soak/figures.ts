import type { Analysis, LevelFigures, TemperatureFigures } from "./analyse.ts";

type WithRoles = Pick<Analysis, "roles">;

/** The figures of a temperature role; undefined when the log lacks it. */
export function temperatureOf({ roles }: WithRoles, role: string): TemperatureFigures | undefined {
  const found = roles[role];
  return found && "riseK" in found ? found : undefined;
}

/** The mean of any other role; undefined when the log lacks it. */
export function levelOf({ roles }: WithRoles, role: string): LevelFigures | undefined {
  const found = roles[role];
  return found && "mean" in found ? found : undefined;
}
