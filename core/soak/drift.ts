import type { Sensor } from "./prepare.ts";

/** A room that moved while nobody measured it, as every sensor of the card shows alike. */
export interface RoomDrift {
  kPerS: number;
  u95: number;
}

/** Far enough from nothing, and near enough to each other, in standard deviations. */
const SURE = 2.5;
const ALIKE = 3;
/** Slower than this no one would see it beside a typed figure's own doubt, K/s: 1 K/h. */
const LEAST_K_PER_S = 1 / 3600;

/** The drift that all of a card's sensors share; undefined where one of them does not, or there is but one, or none worth naming. */
export function commonDrift(sensors: Sensor[]): RoomDrift | undefined {
  const own = sensors.flatMap(({ key, curve }) => (key !== "probe" && curve?.drift ? [curve.drift] : []));
  if (own.length < 2) return undefined;
  // They see one room through one cooler: their errors go together, and the mean is no surer than the best of them.
  const weights = own.map(({ sd }) => 1 / (sd * sd));
  const mean =
    own.reduce((sum, one, k) => sum + one.mean * (weights[k] ?? 0), 0) / weights.reduce((sum, one) => sum + one, 0);
  const sd = Math.min(...own.map((one) => one.sd));
  const alike = own.every((one) => Math.abs(one.mean - mean) <= ALIKE * one.sd);
  return alike && Math.abs(mean) > SURE * sd && Math.abs(mean) > LEAST_K_PER_S
    ? { kPerS: mean, u95: 1.96 * sd }
    : undefined;
}
