import { studentT } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";

export interface UsualTime {
  /** What the work usually takes, min. */
  minutes: number;
  /** How far workshops differ from it, as a factor to either side that two in three stay within. */
  betweenFactor: number;
  /** How far one time differs from the next in one workshop, likewise. */
  withinFactor: number;
}

export interface Duration {
  /** Half take less. */
  medianMin: number;
  /** What it takes on average: long ones weigh more. */
  meanMin: number;
  /** Nine in ten of the times to come lie between. */
  low90Min: number;
  high90Min: number;
  /** Standard deviation of one time's logarithm to come. */
  sdLog: number;
  /** How many of its own times it rests on. */
  count: number;
}

/** What the usual spread counts for, in times (assumption, no source). */
const SPREAD_WEIGHT = 4;
const LEAST_MIN = 0.1;
const MOST_MIN = 100_000;

/**
 * Normal mean with known spread and a normal prior: what is seen and what was held are weighed by one over their variances.
 * @example
 * ```ts
 * // Berger 1985, chapter 4, example 1: ability 100 ± 15 before, a test of ± 10 that shows 115.
 * posterior({ mean: 100, variance: 225 }, { mean: 115, variance: 100 }).mean.toFixed(2) // => "110.38"
 * ```
 */
export function posterior(
  held: { mean: number; variance: number },
  seen: { mean: number; variance: number },
): { mean: number; variance: number } {
  const variance = 1 / (1 / held.variance + 1 / seen.variance);
  return { mean: variance * (held.mean / held.variance + seen.mean / seen.variance), variance };
}

/**
 * What one more time will be.
 * @param times minutes this workshop took, in any order; those of no time at all are left out
 * @throws Problem `bad-duration` for a time that is none
 */
export function durationOf(times: readonly number[], usual: UsualTime): Duration {
  const strange = times.find((one) => !(one >= 0 && one <= MOST_MIN));
  if (strange !== undefined)
    throw new Problem({
      code: "bad-duration",
      what: `${strange} is no time of a piece of work.`,
      remedy: `Give minutes between 0 and ${MOST_MIN}.`,
    });
  const logs = times.filter((one) => one >= LEAST_MIN).map(Math.log);
  const count = logs.length;
  const own = logs.reduce((sum, one) => sum + one, 0) / Math.max(1, count);
  const squares = logs.reduce((sum, one) => sum + (one - own) ** 2, 0);
  const within = Math.log(usual.withinFactor) ** 2;
  const held = { mean: Math.log(usual.minutes), variance: Math.log(usual.betweenFactor) ** 2 };
  const freedom = SPREAD_WEIGHT + Math.max(0, count - 1);
  const spread = (SPREAD_WEIGHT * within + squares) / freedom;
  const { mean, variance } = count === 0 ? held : posterior(held, { mean: own, variance: spread / count });
  const sdLog = Math.sqrt(spread + variance);
  const reach = studentT(freedom, 0.9) * sdLog;
  return {
    medianMin: Math.exp(mean),
    meanMin: Math.exp(mean + sdLog ** 2 / 2),
    low90Min: Math.exp(mean - reach),
    high90Min: Math.exp(mean + reach),
    sdLog,
    count,
  };
}
