import type { LevelRole, TemperatureRole } from "../runfile/index.ts";
import type { Analysis, LevelFigures, TemperatureFigures } from "./analysis.ts";

type WithRoles = Pick<Analysis, "roles">;

/** The figures of a temperature role; undefined when the log lacks it. */
export function temperatureOf({ roles }: WithRoles, role: TemperatureRole): TemperatureFigures | undefined {
  return roles[role];
}

/** Where a sensor came to rest, or would have. */
export interface Settled {
  /** Over the room, freed of how far the card is behind a room that moves, K. */
  riseK: number;
  /** As its display showed it, or would, °C. */
  atC: number;
  /** Half-width of the reading's own 95 % interval, without the room's, K. */
  u95K: number;
}

/**
 * Where a sensor settles over room air: measured where it came to rest, else foretold.
 * @returns undefined without its figures or the room's air
 */
export function settledOf(figures: TemperatureFigures | undefined, ambient: Analysis["ambient"]): Settled | undefined {
  if (!figures || figures.finalC === null || !ambient) return undefined;
  const { meanC, finalC, riseK, riseU95K } = figures;
  if (meanC === null) return { riseK: finalC - ambient.valueC, atC: finalC, u95K: figures.finalU95K ?? 0 };
  const own = Math.sqrt(Math.max(0, (riseU95K ?? 0) ** 2 - ambient.u95K ** 2));
  return { riseK: riseK ?? meanC - ambient.valueC, atC: meanC, u95K: Math.max(own, figures.u95K ?? 0) };
}

/** The mean of any other role; undefined when the log lacks it. */
export function levelOf({ roles }: WithRoles, role: LevelRole): LevelFigures | undefined {
  return roles[role];
}
