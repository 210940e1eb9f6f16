/**
 * What the old compound's imprint on a die tells: where it lay, where contact was lost, and what that speaks for.
 *
 * Model: a grid over the die, each cell covered, thin or bare; held against the pressure the screws give, which a rigid plate spreads
 * linearly (core of a rectangle, any foundation text). Units: mm, kPa, shares of the die. Limits: compound that was wiped or smeared on
 * lifting tells nothing; a proposal from a photo is only as good as its light.
 */
export type { Imprint, ImprintFound } from "./grid.ts";
export { IMPRINT_SIZE, imprintForOwner, imprintFound, readImprint, writeImprint } from "./grid.ts";
export { proposeImprint } from "./propose.ts";
