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
