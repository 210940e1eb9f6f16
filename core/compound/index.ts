/**
 * Where a compound goes when the die is pressed onto its plate: how much of the die it wets, what is squeezed out, air closed in, the least dose.
 *
 * Model: two rigid parallel faces close slowly on a Newtonian compound, whose shape then depends on the gap only (lubrication theory; Reynolds).
 * Units: mm, µL, µm, kPa, Pa. Sources: Elliott & Janovský 1981 for the obstacle problem, Prasher 2001 for the bond line (both from memory).
 * Limits: no tilt, no bow of the die, no slip; a yield stress sets the last gap only.
 */

export { beadWidthMm } from "./beads.ts";
export { usualDoseUl } from "./dose.ts";
export type { DieCompound, Layer } from "./gain.ts";
export { COMPOUND_KINDS, gainOf, layerAt, refusedWhy } from "./gain.ts";
export type { Bead, SpreadInput } from "./input.ts";
export { checkDose, doseUl, readSpread } from "./input.ts";
export type { Polygon } from "./outline.ts";
export type { Pattern } from "./patterns.ts";
export { PATTERNS, patternOf } from "./patterns.ts";
export type { Moment, Pressing, Spread } from "./spread.ts";
export { closing, leastDoseUl, pressing, spread } from "./spread.ts";
