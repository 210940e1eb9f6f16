/**
 * From a board map and its gaps to pads on the bench: what a choice does, which to choose, which pieces to cut.
 *
 * Model: `contact` for forces, `padheat` for kelvins; gaps as normal quantities with what they share. Units: mm, N, kPa, °C.
 * Limits: the mid-plate counts as part of the rigid cooler; pads under the backplate are judged by their gap alone.
 */
export type { SpreadAmount } from "./amounts.ts";
export { spreadOf } from "./amounts.ts";
export type { ChoosePadsInput, PadChoice, PadOffer } from "./choose-pads.ts";
export { choosePads } from "./choose-pads.ts";
export type { Judgement, LastJudged } from "./judge.ts";
export { judgeOn, judgePads } from "./judge.ts";
export type { PadMaterial, PadPick, PadWork, Picks } from "./picks.ts";
export {
  fullPick,
  gapPlaces,
  PUTTY_MORE_MM,
  placesOf,
  totalMm,
  USUAL_POWER_W,
} from "./picks.ts";
export type { Notch, PadPiece } from "./pieces.ts";
export { padsThatWentIn, piecesOf, USUAL_PIECE_RULES } from "./pieces.ts";
export { bareStackOf, stackOf } from "./stack.ts";
export type { Softness } from "./typical.ts";
export { SOFTNESSES, softnessOf, TYPICAL_CURVES, typicalSource } from "./typical.ts";
