import type { DieSize } from "./input.ts";
import { type Pattern, patternOf } from "./patterns.ts";
import { leastDoseUl } from "./spread.ts";

/** Coarse enough to be worked out at a tap, mm. */
const CELL_MM = 1;
/** What coarse cells and a hand may be off by. */
const SPARE = 1.1;
/** To begin with: what fills the bond line, and a third more for the corners. */
const OVER = 1.35;

/**
 * A dose to begin with, µL: a third more than fills the bond line, and never less than covers the die when it is put on like this.
 * @param wantedUl taken instead of the usual where it is enough
 */
export function usualDoseUl(pattern: Pattern, die: DieSize, bondLineUm: number, wantedUl?: number): number {
  const fillUl = die.widthMm * die.heightMm * bondLineUm * 1e-3;
  const dose = wantedUl ?? fillUl * (pattern === "spread" ? 1 : OVER);
  if (pattern === "spread") return Math.max(dose, fillUl);
  const { beads, filmUm } = patternOf(pattern, die, dose);
  const least = leastDoseUl({ die, beads, filmUm, bondLineUm, densityGPerMl: null }, CELL_MM);
  return Math.max(dose, (least ?? 0) * SPARE);
}
