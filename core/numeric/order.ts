import { nth } from "./checked.ts";

/**
 * The value a share of the finite values lies below; NaN when there are none. Linear between ranks.
 * @example
 * ```ts
 * quantile([0, 10], 0.25) // => 2.5
 * ```
 */
export function quantile(values: ArrayLike<number>, share: number): number {
  const sorted = new Float64Array(values.length);
  let count = 0;
  for (let at = 0; at < values.length; at++) {
    const value = nth(values, at);
    if (!Number.isNaN(value)) sorted[count++] = value;
  }
  if (count === 0) return Number.NaN;
  const ranked = sorted.subarray(0, count).sort();
  const rank = (count - 1) * share;
  const low = nth(ranked, Math.floor(rank));
  const high = nth(ranked, Math.ceil(rank));
  return low + (high - low) * (rank - Math.floor(rank));
}

/**
 * @example
 * ```ts
 * median([3, 1, 2]) // => 2
 * ```
 */
export const median = (values: ArrayLike<number>): number => quantile(values, 0.5);

/**
 * Running median over `width` neighbours (odd), missing values passed over.
 * @example
 * ```ts
 * [...runningMedian(Float64Array.from([1, 9, 2]), 3)] // => [5, 2, 5.5]
 * ```
 */
export function runningMedian(values: Float64Array, width: number): Float64Array {
  const half = width >> 1;
  return values.map((_, at) => median(values.subarray(Math.max(0, at - half), at + half + 1)));
}
