/**
 * Other coolers: whether one goes onto a board and with which screws, what it brings in air or water, whether its loop is tight.
 *
 * Units: mm from the cooler's own origin, which comes to lie on the die's centre, x right, y up, seen through the cooler from above; K, W,
 * kPa, L/min. Sources stand with each file. Limits: rigid parts, flat faces, no rotation but half a turn.
 */
export type { CoolerDrawing, CoolerFace, CoolerPost, KitScrew } from "./drawing.ts";
export { COOLER_FORMAT, COOLER_VERSION, EMPTY_COOLER, FACE_USES, METALS } from "./drawing.ts";
export type { Fit, FitGap } from "./fit.ts";
export { fit } from "./fit.ts";
export type { FitInput } from "./input.ts";
export { readFit } from "./input.ts";
