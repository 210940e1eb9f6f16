import { USUAL_AIR } from "../trade/index.ts";
/**
 * How a card's rise follows its fan speed: rise ∝ (1 − share) + share · (n/n₀)^(−exponent).
 * Only the share carried by the air scales with the fan; compound and plate do not care.
 */
export interface Cooling {
  /** Convective share of the edge's rise, 0…1, and its standard deviation. */
  share: number;
  shareSd: number;
  /** Exponent of the fan speed and its standard deviation. */
  exponent: number;
  exponentSd: number;
  source: "usual" | "own runs";
}

/** Usual values, see `trade`; a card's own runs narrow them. */
export const USUAL_COOLING: Cooling = { ...USUAL_AIR, source: "usual" };

export interface FanPoint {
  fanRpm: number;
  /** Rise of the edge per watt, K/W. */
  thetaKPerW: number;
  /** Its standard uncertainty, K/W. */
  sd: number;
}

/**
 * Learns share and exponent from a card's own runs in one state of service at two or more fan speeds: the usual values are
 * the prior, a grid of both is weighed by the misfit of a free level.
 * @returns the usual values when there are fewer than two speeds at least 5 % apart
 */
export function fitCooling(points: readonly FanPoint[], prior: Cooling = USUAL_COOLING): Cooling {
  const speeds = points.map((point) => point.fanRpm);
  const slowest = Math.min(...speeds);
  if (points.length < 2 || !(slowest > 0) || Math.max(...speeds) < 1.05 * slowest) return prior;
  let total = 0;
  const sum = { share: 0, share2: 0, exponent: 0, exponent2: 0 };
  for (let share = 0.05; share < 0.99; share += 0.02)
    for (let exponent = 0.2; exponent < 1.2; exponent += 0.02) {
      const weight = Math.exp(
        -0.5 *
          (misfit(points, share, exponent) +
            ((share - prior.share) / prior.shareSd) ** 2 +
            ((exponent - prior.exponent) / prior.exponentSd) ** 2),
      );
      total += weight;
      sum.share += weight * share;
      sum.share2 += weight * share * share;
      sum.exponent += weight * exponent;
      sum.exponent2 += weight * exponent * exponent;
    }
  if (!(total > 0)) return prior;
  const share = sum.share / total;
  const exponent = sum.exponent / total;
  return {
    share,
    shareSd: Math.sqrt(Math.max(0, sum.share2 / total - share * share)),
    exponent,
    exponentSd: Math.sqrt(Math.max(0, sum.exponent2 / total - exponent * exponent)),
    source: "own runs",
  };
}

function misfit(points: readonly FanPoint[], share: number, exponent: number): number {
  const reference = points[0]?.fanRpm ?? 1;
  let xy = 0;
  let xx = 0;
  let yy = 0;
  for (const { fanRpm, thetaKPerW, sd } of points) {
    const shape = 1 - share + share * (fanRpm / reference) ** -exponent;
    xy += (shape * thetaKPerW) / sd ** 2;
    xx += (shape / sd) ** 2;
    yy += (thetaKPerW / sd) ** 2;
  }
  return yy - xy ** 2 / xx;
}

/**
 * Factor on the rise when the fan goes from one speed to another, with its standard uncertainty.
 * @example
 * ```ts
 * fanFactor(USUAL_COOLING, 0.65, 1500, 1500).factor // => 1
 * ```
 */
export function fanFactor(
  cooling: Cooling,
  share: number,
  fromRpm: number,
  toRpm: number,
): { factor: number; sd: number } {
  const ratio = (toRpm / fromRpm) ** -cooling.exponent;
  const factor = 1 - share + share * ratio;
  const byShare = (ratio - 1) * cooling.shareSd * (share / cooling.share);
  const byExponent = share * ratio * Math.log(toRpm / fromRpm) * cooling.exponentSd;
  return { factor, sd: Math.hypot(byShare, byExponent) };
}

/**
 * The speed at which the rise has changed by `factor`; undefined when no speed can do that.
 * @example
 * ```ts
 * speedForFactor(USUAL_COOLING, 0.65, 1500, 1) // => 1500
 * ```
 */
export function speedForFactor(cooling: Cooling, share: number, fromRpm: number, factor: number): number | undefined {
  const ratio = (factor - (1 - share)) / share;
  return ratio > 0 ? fromRpm * ratio ** (-1 / cooling.exponent) : undefined;
}
