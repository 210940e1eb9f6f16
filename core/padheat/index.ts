/**
 * Estimates what a pad costs in kelvin: from the silicon of a memory or VRM part through package and pad to the cooler face.
 *
 * Model: a sheet that spreads heat, drained through pad and joints. Units: mm, W, K. Sources: bond line / (k A) plus joints (the model
 * behind ASTM D5470), silicon 148 W/mK. Limits: package data are typical, not the maker's; good for comparing choices, not for promises.
 */
export type { PadHeat } from "./theta.ts";
export { jointM2KPerW, padHeat } from "./theta.ts";
