/**
 * A change with its sign written out, K with one decimal.
 * @example
 * ```ts
 * signed(-4.84) // => "−4.8"
 * ```
 */
export const signed = (value: number): string =>
  `${value > 0 ? "+" : value < 0 ? "−" : ""}${Math.abs(value).toFixed(1)}`;

/**
 * @example countOf(1, "pad") // "1 pad"; countOf(3, "pad") // "3 pads"
 * @example
 * ```ts
 * countOf(3, "pad") // => "3 pads"
 * ```
 */
export const countOf = (count: number, thing: string): string => `${count} ${thing}${count === 1 ? "" : "s"}`;
