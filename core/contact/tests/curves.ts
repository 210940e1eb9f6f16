/** Softness curves of invented pads: strain of the whole thickness against pressure, kPa. */
export const SOFT_CURVE: ReadonlyArray<readonly [strain: number, kPa: number]> = [
  [0, 0],
  [0.1, 35],
  [0.2, 80],
  [0.3, 150],
  [0.4, 270],
  [0.5, 480],
];
export const HARD_CURVE: ReadonlyArray<readonly [strain: number, kPa: number]> = [
  [0, 0],
  [0.1, 400],
  [0.2, 1000],
  [0.3, 2200],
];
