/**
 * How long a washed part must rest until its crevices are dry, and what a solvent leaves in the room's air.
 *
 * Model: blind holes that dry from their mouth by quasi-steady diffusion (Stefan); well-mixed air with a steady change. Units: °C, kPa, mm,
 * minutes, mL, ppm by volume. Sources: Buck 1981 for the saturation pressure, the psychrometer equation, NIOSH limits. Limits: still air in
 * the hole, its part at one temperature; capillaries that hold water by surface forces dry slower.
 */
export type { Dried } from "./dry.ts";
export { dry } from "./dry.ts";
export { readDry } from "./input.ts";
