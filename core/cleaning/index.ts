/**
 * How parts of a card are cleaned, how long a washed one must rest until its crevices are dry, and what a solvent leaves in the room's air.
 *
 * Model: blind holes that dry from their mouth by quasi-steady diffusion (Stefan); well-mixed air with a steady change. Units: °C, kPa, mm,
 * minutes, mL, ppm by volume. Sources: Buck 1981 for the saturation pressure, the psychrometer equation, NIOSH limits; ways of cleaning are
 * common practice. Limits: still air in the hole, its part at one temperature; capillaries that hold water by surface forces dry slower.
 */
export { airLoad, changesNeeded } from "./air.ts";
export type { Cleaner, Surface } from "./cleaners.ts";
export { CLEANERS, cleanerOn, SURFACES } from "./cleaners.ts";
export type { Dried } from "./dry.ts";
export { dry } from "./dry.ts";
export { readDry, SEA_LEVEL_KPA } from "./input.ts";
export type { CleaningSchool, Dirt, Part } from "./ways.ts";
export { DIRTS, isDirt, mayWash, PARTS, USUAL_CREVICES, wayOf } from "./ways.ts";
