import type { Stack } from "../contact/index.ts";

/** How the die carries its load in one state of the screws. */
export interface DieLoad {
  dieForceN: number;
  /** 6|ex|/width + 6|ey|/height; above 1 an edge lifts. Null where the die carries nothing. */
  offCentre: number | null;
  /** The load of the worst corner, kPa. */
  cornerKPa: number;
  /** Where the force acts, from the die's middle, mm; 0 where there is none. */
  exMm: number;
  eyMm: number;
}

/** Less than this on the die is nothing but what a solution leaves, N. */
const NOTHING_N = 1e-5;

/**
 * Force on the die and where it acts as the load of its worst corner: F/area × (1 + 6|ex|/width + 6|ey|/height), the core (kern) of a
 * rectangle under an eccentric load (any foundation text).
 * @param xNmm, yNmm moments of the force about the die's middle
 */
export function dieLoadOf({ die }: Stack, forceN: number, xNmm: number, yNmm: number): DieLoad {
  if (!(forceN > NOTHING_N)) return { dieForceN: 0, offCentre: null, cornerKPa: 0, exMm: 0, eyMm: 0 };
  const [exMm, eyMm] = [xNmm / forceN, yNmm / forceN];
  const offCentre = (6 * Math.abs(exMm)) / die.widthMm + (6 * Math.abs(eyMm)) / die.heightMm;
  return {
    dieForceN: forceN,
    offCentre,
    cornerKPa: ((1000 * forceN) / (die.widthMm * die.heightMm)) * (1 + offCentre),
    exMm,
    eyMm,
  };
}
