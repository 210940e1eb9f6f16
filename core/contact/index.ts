/**
 * Says whether the die seats with given pads: pressures, tilt of the cooler, bow of the board; and chooses pad thicknesses.
 *
 * Model: rigid cooler (three freedoms) on a thin-plate board with free edges, screws as springs, pads and die as one-sided layers
 * that are solved together; pads follow their softness curve. Units: mm, N, kPa, GPa. Sources: thin-plate theory (Timoshenko and
 * Woinowsky-Krieger), twelve-term rectangle of Adini, Clough and Melosh. Limits: small deflections, no creep, a rigid cooler.
 */
export type { Choice } from "./choose.ts";
export { choose } from "./choose.ts";
export type { BowField, ContactReport, WarningCode } from "./contact.ts";
export { bowField, contact, IS_FAULT, isSeated, pressedUnevenly, report } from "./contact.ts";
export { dieResultant, ReducedContact } from "./reduced.ts";
export { searchPads } from "./search.ts";
export type { Prepared, Solved } from "./solve.ts";
export { asGiven, prepare, pressureAt, solveContact } from "./solve.ts";
export type { Material, Stack, StackComponent } from "./stack.ts";
export { checkStack, readStack } from "./stack.ts";
