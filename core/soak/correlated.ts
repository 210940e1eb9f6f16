import { nth } from "../numeric/index.ts";

/** Noise of a binned line: each value's own, and one that wanders and forgets itself over `memoryS` (Ornstein and Uhlenbeck). */
export interface Noise {
  /** On the stated standard deviations. */
  scale: number;
  wanderK: number;
  memoryS: number;
}

/**
 * Makes series with such noise into ones whose values are independent with standard deviation 1, as a Kalman filter's innovations: a fit to what
 * it gives is the best linear one for the correlated noise, at the cost of one pass a series.
 * @param tS rising times; @param sd own standard deviation of each value
 */
export function whitener(tS: Float64Array, sd: Float64Array, { scale, wanderK, memoryS }: Noise) {
  const n = tS.length;
  const keep = new Float64Array(n);
  const gain = new Float64Array(n);
  const inverse = new Float64Array(n);
  const full = wanderK * wanderK;
  let left = full;
  let logDeterminant = 0;
  for (let i = 0; i < n; i++) {
    const share = i === 0 ? 0 : Math.exp(-(nth(tS, i) - nth(tS, i - 1)) / memoryS);
    const spread = share * share * left + full * (1 - share * share);
    const own = (scale * nth(sd, i)) ** 2;
    const total = spread + own;
    keep[i] = share;
    gain[i] = spread / total;
    inverse[i] = 1 / Math.sqrt(total);
    left = spread * (1 - spread / total);
    logDeterminant += Math.log(total);
  }
  const whiten = (series: Float64Array): Float64Array => {
    const out = new Float64Array(n);
    let state = 0;
    for (let i = 0; i < n; i++) {
      state *= keep[i] ?? 0;
      const surprise = (series[i] ?? 0) - state;
      out[i] = surprise * (inverse[i] ?? 0);
      state += surprise * (gain[i] ?? 0);
    }
    return out;
  };
  return { whiten, logDeterminant };
}

const SCALES = [0.5, 1, 2, 4];
const WANDERS_K = [0.01, 0.03, 0.08, 0.2, 0.5];
const MEMORIES_S = [20, 60, 200];

/** The likeliest noise of residuals, on a grid. */
export function likeliestNoise(tS: Float64Array, sd: Float64Array, residuals: Float64Array): Noise {
  let best = { scale: 1, wanderK: 0.1, memoryS: 60 };
  let most = Number.NEGATIVE_INFINITY;
  for (const scale of SCALES)
    for (const wanderK of WANDERS_K)
      for (const memoryS of MEMORIES_S) {
        const noise = { scale, wanderK, memoryS };
        const { whiten, logDeterminant } = whitener(tS, sd, noise);
        let misfit = 0;
        for (const value of whiten(residuals)) misfit += value * value;
        const likelihood = -0.5 * (misfit + logDeterminant);
        if (likelihood <= most) continue;
        most = likelihood;
        best = noise;
      }
  return best;
}
