import { quieterBy } from "./quote.ts";

export interface Gained {
  /** Of the chip at equal conditions, K; below 0 is cooler. */
  changeK: number;
  u95K: number;
  /** Over room air after the work, at this fan speed; null where nobody knows. */
  riseK: number | null;
  fanRpm: number | null;
  /** Fan speeds of a pair of runs under the card's own curve, rpm. */
  ownCurve: { before: number; after: number } | null;
}

/** A change of sound that is heard at all, dB (common practice, no source). */
const HEARD_DB = 1;
/** A fan's speed wanders by so much under its own curve, rpm (common practice, no source). */
const CURVE_RPM = 60;
const fan = (rpm: number): string => (Math.round(rpm / 10) * 10).toLocaleString("en");

/**
 * What a gain means to somebody who knows nothing of kelvins: cooler at the same fan, or quieter at the same warmth.
 * @example
 * ```ts
 * meaningOf({ changeK: 0, u95K: 1, riseK: 40, fanRpm: 1800, ownCurve: null }) // => ["Its temperature did not really change."]
 * ```
 */
export function meaningOf({ changeK, u95K, riseK, fanRpm, ownCurve }: Gained): string[] {
  if (Math.abs(changeK) <= u95K) return ["Its temperature did not really change."];
  const words: string[] = [];
  if (changeK > 0) words.push(`At the same fan speed it runs ${changeK.toFixed(0)} degrees warmer than before.`);
  else {
    words.push(`At the same fan speed it runs ${(-changeK).toFixed(0)} degrees cooler than before.`);
    const quieter = riseK !== null && fanRpm !== null ? quieterBy(riseK - changeK, -changeK, fanRpm) : null;
    if (quieter !== null && quieter < -HEARD_DB)
      words.push(`Or, as warm as before, its fans can be about ${(-quieter).toFixed(0)} dB quieter.`);
  }
  if (ownCurve && Math.abs(ownCurve.after - ownCurve.before) > CURVE_RPM)
    words.push(
      `Left to itself, its fans now turn at ${fan(ownCurve.after)} instead of ${fan(ownCurve.before)} a minute.`,
    );
  return words;
}
