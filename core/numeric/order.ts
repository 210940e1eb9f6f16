/** The value a share of the finite values lies below; NaN when there are none. Linear between ranks. */
export function quantile(values: ArrayLike<number>, share: number): number {
  const sorted = Float64Array.from(
    Array.prototype.filter.call(values, (value: number) => !Number.isNaN(value)) as number[],
  ).sort();
  if (sorted.length === 0) return Number.NaN;
  const rank = (sorted.length - 1) * share;
  const low = sorted[Math.floor(rank)] ?? Number.NaN;
  const high = sorted[Math.ceil(rank)] ?? Number.NaN;
  return low + (high - low) * (rank - Math.floor(rank));
}

export const median = (values: ArrayLike<number>): number => quantile(values, 0.5);

/** Running median over `width` neighbours (odd), missing values passed over. */
export function runningMedian(values: Float64Array, width: number): Float64Array {
  const half = width >> 1;
  return values.map((_, at) => median(values.subarray(Math.max(0, at - half), at + half + 1)));
}
