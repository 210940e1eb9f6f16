/** How soft pads are of which nobody has a curve, in three steps. */
export type Softness = "soft" | "medium" | "firm";

/**
 * Squeeze (share) and pressure (kPa) of typical gap pads: squeezed by 30 % with some 10, 25 and 70 psi. Common practice, no source; from one
 * make to another they differ by half or twice as much.
 */
export const TYPICAL_CURVES: Readonly<Record<Softness, ReadonlyArray<readonly [number, number]>>> = {
  soft: [
    [0, 0],
    [0.1, 15],
    [0.2, 38],
    [0.3, 70],
    [0.4, 125],
    [0.5, 220],
  ],
  medium: [
    [0, 0],
    [0.1, 40],
    [0.2, 95],
    [0.3, 175],
    [0.4, 310],
    [0.5, 550],
  ],
  firm: [
    [0, 0],
    [0.1, 110],
    [0.2, 265],
    [0.3, 480],
    [0.4, 900],
    [0.5, 1800],
  ],
};
