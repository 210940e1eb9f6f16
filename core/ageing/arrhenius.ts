/** Boltzmann's constant, eV/K (CODATA). */
const BOLTZMANN = 8.617333262e-5;
const ZERO_C = 273.15;

/**
 * How many times faster what ages by temperature does so at one temperature than at another, °C. A relative figure under an assumption, never
 * a life.
 * @param activationEv activation energy, eV; 0.7 as is usual for silicon (JEDEC JEP122, from memory)
 * @example
 * ```ts
 * arrheniusFactor(104, 86).toFixed(2) // => "2.94"
 * ```
 */
export const arrheniusFactor = (warmC: number, coolC: number, activationEv = 0.7): number =>
  Math.exp((activationEv / BOLTZMANN) * (1 / (coolC + ZERO_C) - 1 / (warmC + ZERO_C)));
