import { nth } from "./checked.ts";

/**
 * The value a share of the finite values lies below; NaN when there are none. Linear between ranks.
 * @example
 * ```ts
 * quantile([0, 10], 0.25) // => 2.5
 * ```
 */
export const quantile = (values: ArrayLike<number>, share: number): number => quantilesOf(values)(share);

/** `quantile` of the same values for several shares: they are put in order once. */
export function quantilesOf(values: ArrayLike<number>): (share: number) => number {
  const sorted = new Float64Array(values.length);
  let count = 0;
  for (let at = 0; at < values.length; at++) {
    const value = values[at] as number;
    if (!Number.isNaN(value)) sorted[count++] = value;
  }
  if (count === 0) return () => Number.NaN;
  const ranked = sorted.subarray(0, count).sort();
  return (share) => {
    const rank = (count - 1) * share;
    const low = nth(ranked, Math.floor(rank));
    const high = nth(ranked, Math.ceil(rank));
    return low + (high - low) * (rank - Math.floor(rank));
  };
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
  const near = new Float64Array(width);
  const found = new Float64Array(values.length);
  for (let at = 0; at < values.length; at++) {
    // Few neighbours are in order sooner one by one than by sorting.
    let count = 0;
    for (let k = Math.max(0, at - half); k <= Math.min(values.length - 1, at + half); k++) {
      const value = values[k] as number;
      if (Number.isNaN(value)) continue;
      let place = count++;
      for (; place > 0 && (near[place - 1] as number) > value; place--) near[place] = near[place - 1] as number;
      near[place] = value;
    }
    const middle = (count - 1) / 2;
    found[at] =
      count === 0 ? Number.NaN : ((near[Math.floor(middle)] as number) + (near[Math.ceil(middle)] as number)) / 2;
  }
  return found;
}
