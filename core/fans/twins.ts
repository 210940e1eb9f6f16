/** Twins of one card at one duty differ by so much anyway (common practice, no source). */
const TWIN_SCATTER = 0.04;

/**
 * Speeds of fans that get the same duty, in words.
 * @param rpm more than one
 * @example
 * ```ts
 * twinWords([2000, 1700]) // => "Fan 2 is 15 % slower than its twin: turn it by finger, let it coast down."
 * ```
 */
export function twinWords(rpm: readonly number[]): string {
  const fastest = Math.max(...rpm);
  const slow = rpm.flatMap((one, index) => (one < fastest * (1 - TWIN_SCATTER) ? [{ fan: index + 1, rpm: one }] : []));
  if (slow.length === 0) return `Alike within ${Math.round(100 * TWIN_SCATTER)} %, as twins are.`;
  return `${slow.map(({ fan, rpm: one }) => `Fan ${fan} is ${Math.round(100 * (1 - one / fastest))} % slower than its twin`).join("; ")}: turn it by finger, let it coast down.`;
}

/**
 * How a fan follows its duty, beside how it did in another run, in words.
 * @param before and after, rpm for each per cent
 */
export function dutyChange(before: number, after: number): string {
  const pct = 100 * (after / before - 1);
  if (Math.abs(pct) < 100 * TWIN_SCATTER) return `as in the first run, within ${Math.round(100 * TWIN_SCATTER)} %`;
  return `${Math.round(Math.abs(pct))} % ${pct > 0 ? "more" : "less"} than in the first run`;
}
