/**
 * In which order and how far to turn the screws of a cooler, so that no edge of the die carries more than it must on the way.
 *
 * Model: states of the screws solved as in `contact`; a screw driven in by s mm pulls as one whose free force is spring × s. The die's
 * load is that of its worst corner: F/area × (1 + 6|ex|/width + 6|ey|/height), the core of a rectangle under an eccentric load (any foundation
 * text). Units: mm, N, kPa, turns. Limits: a rigid cooler, no friction under the heads, one screw turned at a time.
 */

export type { Fastening, School, Turn } from "./fasten.ts";
export { fasten } from "./fasten.ts";
export { dieLoadOf } from "./load.ts";
export type { FastenStack, Turned } from "./stack.ts";
export { readFasten } from "./stack.ts";
