/** Water in air. Temperatures in °C, pressures in kPa. */

/**
 * Saturation pressure over water, kPa (A. L. Buck 1981, e_w1, without the enhancement factor; coefficients from memory).
 * @param celsius some 5 to 60 °C within 0.1 %; further out it is still a fair guess
 * @example
 * ```ts
 * saturationKPa(20).toFixed(3) // => "2.337"
 * ```
 */
export const saturationKPa = (celsius: number): number => 0.61121 * Math.exp((17.502 * celsius) / (240.97 + celsius));

/** Psychrometer of a ventilated wet thermometer, 1/K. */
const PSYCHROMETER_PER_K = 6.62e-4;
const HALVINGS = 60;

/**
 * Where a wet thermometer comes to rest: what it loses by evaporating it takes from the air (psychrometer equation).
 * @param humidity share of saturation, 0…1
 * @returns °C
 */
export function wetBulbC(airC: number, humidity: number, pressureKPa: number): number {
  const vapourKPa = humidity * saturationKPa(airC);
  let [low, high] = [airC - 60, airC];
  for (let k = 0; k < HALVINGS; k++) {
    const mid = (low + high) / 2;
    const left = saturationKPa(mid) - PSYCHROMETER_PER_K * pressureKPa * (airC - mid);
    if (left > vapourKPa) high = mid;
    else low = mid;
  }
  return (low + high) / 2;
}
