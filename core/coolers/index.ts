/**
 * Other coolers: whether one goes onto a board and with which screws, what it brings in air or water, whether its loop is tight.
 *
 * Units: mm from the cooler's own origin, which comes to lie on the die's centre, x right, y up, seen through the cooler from above; K, W,
 * kPa, L/min. Sources stand with each file. Limits: rigid parts, flat faces, no rotation but half a turn.
 */

export type { BringRow, Brought, Today, Touches } from "./brings.ts";
export { bringsInAir, bringsInWater, loopDba } from "./brings.ts";
export type { Cooler, FaceUse, KitScrew } from "./drawing.ts";
export {
  COOLER_FORMAT,
  COOLER_KINDS,
  COOLER_VERSION,
  EMPTY_COOLER,
  FACE_USES,
  FIN_MARGIN_MM,
  freeCoolerId,
  isWet,
  METALS,
  planOfCooler,
  turnedOverCooler,
  withPlan,
} from "./drawing.ts";
export { coolerFromMap, coolerToSvg } from "./files.ts";
export type { Fit } from "./fit.ts";
export { fit, ON_DIE_MM } from "./fit.ts";
export type { LeakGate } from "./gate.ts";
export { leakGate } from "./gate.ts";
export type { Fins, HeatsinkFound } from "./heatsink.ts";
export { heatsink } from "./heatsink.ts";
export type { FitInput } from "./input.ts";
export { readFit } from "./input.ts";
export type { LeakFound } from "./leak.ts";
export { leakTest, SETTLE_MIN } from "./leak.ts";
export { readLeakLog } from "./leak-log.ts";
export type { Mounted } from "./mounted.ts";
export { dieRangeKPa, differences, mountedOn, padForGap } from "./mounted.ts";
export { fitTaskOf, screwsAtHand, USUAL_DIE_TALL_MM } from "./on-board.ts";
export { roomOf, USUAL_MOMENT_LIMIT_NM } from "./room.ts";
export { screwNamed, threadDiameterMm } from "./threads.ts";
export type { LoopFound } from "./water.ts";
export { waterLoop } from "./water.ts";
