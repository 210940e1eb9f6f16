/**
 * How thin a compound is pressed before its yield stress stops it: scaling law of R. Prasher 2001 (from memory), both in the same unit.
 * @returns µm
 * @example
 * ```ts
 * bondLineUm(25, 250).toFixed(1) // => "28.4"
 * ```
 */
export const bondLineUm = (yieldPa: number, pressureKPa: number): number =>
  131 * (yieldPa / (pressureKPa * 1000)) ** 0.166;
