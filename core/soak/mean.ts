import { nth, studentT } from "../numeric/index.ts";

export interface MeanWithSpread {
  mean: number;
  /** Half-width of the 95 % interval of the mean. */
  u95: number;
  /** Its standard parts, for 'how was this computed'. */
  budget: {
    samples: number;
    /** Standard deviation of the samples. */
    sd: number;
    /** How many independent samples these are worth. */
    effective: number;
    /** Standard uncertainty by scatter (type A), same unit as the values. */
    scatter: number;
    /** Standard uncertainty by the display's step (type B). */
    resolution: number;
  };
}

/**
 * Variance of the mean of a correlated series relative to independent samples: 1 + 2 Σ ρ_k, summed while pairs stay positive
 * and fall (initial monotone sequence, C. J. Geyer, Statistical Science 7, 1992), never below the AR(1) value (1 + ρ)/(1 − ρ) with
 * ρ corrected for its bias in short series (M. G. Kendall, Biometrika 41, 1954).
 * @example
 * ```ts
 * correlationFactor(new Float64Array(20).fill(5)) // => 1
 * ```
 */
export function correlationFactor(series: Float64Array): number {
  const n = series.length;
  if (n < 4) return 1;
  let mean = 0;
  for (const value of series) mean += value / n;
  let variance = 0;
  for (const value of series) variance += (value - mean) ** 2;
  if (variance === 0) return 1;
  const rho = (lag: number): number => {
    let sum = 0;
    for (let i = lag; i < n; i++) sum += (nth(series, i) - mean) * (nth(series, i - lag) - mean);
    return sum / variance;
  };
  let factor = 1;
  let before = Number.POSITIVE_INFINITY;
  const first = rho(1);
  for (let lag = 1; lag + 1 < n / 2; lag += 2) {
    const pair = Math.min(before, (lag === 1 ? first : rho(lag)) + rho(lag + 1));
    if (pair <= 0) break;
    before = pair;
    factor += 2 * pair;
  }
  const corrected = Math.min(0.995, first + (1 + 3 * Math.max(0, first)) / n);
  const simple = corrected > 0 ? (1 + corrected) / (1 - corrected) : 1;
  return Math.min(Math.max(1, factor, simple), n / 2);
}

/**
 * Standard uncertainty that a display step q leaves in a mean, when noise of standard deviation s dithers it:
 * u² = Σ_k (q/(πk√2))² e^(−4π²k²s²/q²); q/√12 without noise (JCGM 100:2008, F.2.2.1), nothing once s > q/2.
 * @example
 * ```ts
 * resolutionSpread(1, 0).toFixed(4) // => "0.2887"
 * ```
 */
export function resolutionSpread(step: number, noise: number): number {
  if (step <= 0) return 0;
  // Hardly dithered, the sum below converges too slowly for its few terms.
  if (noise < 0.01 * step) return step / Math.sqrt(12);
  let sum = 0;
  for (let k = 1; k <= 40; k++)
    sum += (step / (Math.PI * k * Math.SQRT2)) ** 2 * Math.exp(-4 * (Math.PI * k * (noise / step)) ** 2);
  return Math.sqrt(sum);
}

/**
 * Mean of a stretch of a log with an honest 95 % interval: autocorrelation and display step counted (JCGM 100:2008).
 * Long stretches are cut into at most 800 batches first, which loses nothing for the mean.
 * @param values samples in time order; missing ones are passed over
 * @param step the display's step, from `resolutionOf`
 * @returns undefined when there are fewer than two samples
 */
export function meanWithSpread(values: Float64Array, step: number): MeanWithSpread | undefined {
  const { batches, count, sd, mean } = batch(values, 800);
  if (count < 2) return undefined;
  const n = batches.length;
  let between = 0;
  for (const value of batches) between += (value - mean) ** 2;
  const effective = Math.max(2, n / correlationFactor(batches));
  const scatter = Math.sqrt(between / Math.max(1, n - 1) / effective);
  const noise = Math.sqrt(Math.max(0, sd * sd - (step * step) / 12));
  const resolution = resolutionSpread(step, noise);
  const t = studentT(Math.max(1, effective - 1));
  const u95 = Math.hypot(t * scatter, 1.96 * resolution);
  return { mean, u95, budget: { samples: count, sd, effective, scatter, resolution } };
}

function batch(values: Float64Array, most: number): { batches: Float64Array; count: number; sd: number; mean: number } {
  const size = Math.max(1, Math.ceil(values.length / most));
  const batches = new Float64Array(Math.floor(values.length / size) + 1);
  // Sums are of distances from a value nearby, so that one pass is enough and nothing is lost.
  const near = values.find((value) => !Number.isNaN(value)) ?? 0;
  let count = 0;
  let sum = 0;
  let square = 0;
  let full = 0;
  let part = 0;
  let held = 0;
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    // Missing: no number is unlike itself.
    if (value !== value) continue;
    const off = value - near;
    count++;
    square += off * off;
    part += off;
    held++;
    if (held === size) {
      batches[full++] = near + part / size;
      sum += part;
      part = 0;
      held = 0;
    }
  }
  sum += part;
  if (held > size / 2) batches[full++] = near + part / held;
  const spread = Math.max(0, square - (sum * sum) / Math.max(1, count));
  return {
    batches: batches.subarray(0, full),
    count,
    sd: Math.sqrt(spread / Math.max(1, count - 1)),
    mean: near + sum / count,
  };
}
