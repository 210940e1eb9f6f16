/**
 * Adjusts p values for having been looked at together (S. Holm, Scandinavian Journal of Statistics 6, 1979), in the order they came.
 * @example
 * ```ts
 * holm([0.01, 0.04, 0.03, 0.005]).map((p) => p.toFixed(2)) // => ["0.03", "0.06", "0.06", "0.02"]
 * ```
 */
export function holm(values: readonly number[]): number[] {
  const adjusted = values.map(() => 1);
  let most = 0;
  const order = values.map((p, at) => ({ p, at })).toSorted((a, b) => a.p - b.p);
  for (const [rank, { p, at }] of order.entries()) {
    most = Math.min(1, Math.max(most, p * (values.length - rank)));
    adjusted[at] = most;
  }
  return adjusted;
}
