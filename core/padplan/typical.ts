/** How soft pads are of which nobody has a curve, in three steps. */
export const SOFTNESSES = ["soft", "medium", "firm"] as const;
export type Softness = (typeof SOFTNESSES)[number];

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

/** Whose typical curve this one is, point by point; undefined for one that somebody measured or read off. */
export const softnessOf = (curve: ReadonlyArray<readonly [number, number]>): Softness | undefined =>
  SOFTNESSES.find((one) => {
    const typical = TYPICAL_CURVES[one];
    return typical.length === curve.length && typical.every(([x, y], k) => curve[k]?.[0] === x && curve[k]?.[1] === y);
  });

/** What stands as the source of a curve that nobody measured. */
export const typicalSource = (softness: Softness): string => `typical of a ${softness} pad, not measured`;
