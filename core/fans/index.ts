/**
 * Fan and level laws. Levels in dB, speeds in rpm (any one unit for both).
 * Sources: fan affinity laws (AMCA/ISO 5801); sound about 50·log₁₀ of the speed ratio (fan engineering handbooks, from memory).
 */

/**
 * Change of sound level when a fan goes from one speed to another, dB. @throws RangeError unless both are positive
 * @example
 * ```ts
 * Math.round(levelChangeDb(1000, 2000)) // => 15
 * ```
 */
export function levelChangeDb(fromRpm: number, toRpm: number): number {
  if (!(fromRpm > 0 && toRpm > 0)) throw new RangeError("levelChangeDb: speeds must be positive");
  return 50 * Math.log10(toRpm / fromRpm);
}

/**
 * Level of several sources together, dB: 10·log₁₀ Σ 10^(L/10).
 * @example
 * ```ts
 * addLevelsDb([40, 40]).toFixed(2) // => "43.01"
 * ```
 */
export function addLevelsDb(levelsDb: readonly number[]): number {
  return 10 * Math.log10(levelsDb.reduce((sum, level) => sum + 10 ** (level / 10), 0));
}

/**
 * Frequency at which blades pass a fixed point, Hz: blades · rpm / 60.
 * @example
 * ```ts
 * bladePassHz(9, 2000) // => 300
 * ```
 */
export const bladePassHz = (blades: number, rpm: number): number => (blades * rpm) / 60;

export type { Coast, Measured95 } from "./coast.ts";
export { fitCoast, frictionRatio, frictionWords } from "./coast.ts";

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
