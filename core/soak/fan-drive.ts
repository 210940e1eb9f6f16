import { last, median, quantile, quantilesOf } from "../numeric/index.ts";
import { binMeans, rowAt } from "./bins.ts";
import type { Stretch } from "./load.ts";

/** How the fan was driven in a run, as far as the log tells. */
export interface FanDrive {
  mode: "fixed" | "automatic";
  /** Duty under load, %: of a fixed fan what it was set to; null where the log has none. */
  pct: number | null;
}

export interface FanLines {
  timeS: Float64Array;
  dutyPct: Float64Array | undefined;
  rpm: Float64Array | undefined;
  /** Of the die, °C. */
  dieC: Float64Array | undefined;
}

/** A fan needs so long to come to its speed, s. */
const SPIN_UP_S = 45;
const BIN_S = 15;
const MOST_BINS = 400;
/** A fixed duty is shown to a per cent or two; a fixed speed keeps to a few per cent of itself. */
const STILL = { duty: 2, rpmShare: 0.04 };
const MOVED_RPM_SHARE = 0.08;
/** So far the die has to have moved before a fan that did not tells that it is fixed, K. */
const DIE_MOVED_K = 8;
/** Pearson's correlation from which on one follows the other. */
const FOLLOWS = 0.8;

/**
 * Whether a fan was fixed or followed the temperature, read off duty or speed under load once it has spun up. A duty that moves is automatic,
 * also by a per cent or two where it goes with the die; one that stands still is fixed. A speed alone tells where it moves with the die, or
 * stays while the die moves.
 * @param load seconds between which the load was on; the whole log where left out
 * @returns undefined where nothing tells
 */
export function fanDriveOf({ timeS, dutyPct, rpm, dieC }: FanLines, load?: Stretch): FanDrive | undefined {
  const fromS = (load?.fromS ?? 0) + (load ? Math.min(SPIN_UP_S, 0.25 * (load.toS - load.fromS)) : 0);
  const toS = load?.toS ?? Number.POSITIVE_INFINITY;
  const first = rowAt(timeS, fromS);
  if (first >= timeS.length) return undefined;
  const within = (line: Float64Array | undefined) => line?.subarray(first, rowAt(timeS, toS));
  const endS = Math.min(toS, last(timeS));
  const width = Math.max(BIN_S, (endS - fromS) / MOST_BINS);
  const edges = Float64Array.from(
    { length: Math.max(2, Math.ceil((endS - fromS) / width) + 1) },
    (_, k) => fromS + k * width,
  );
  const binned = (line: Float64Array | undefined): Float64Array | undefined =>
    line && binMeans(timeS, line, edges).mean;
  const die = binned(dieC);
  const duty = within(dutyPct)?.filter((value) => !Number.isNaN(value));
  if (duty && duty.length > 0) {
    const at = quantilesOf(duty);
    const range = at(0.97) - at(0.03);
    const isMoved = range > STILL.duty || (range > 0 && follows(binned(dutyPct), die));
    return { mode: isMoved ? "automatic" : "fixed", pct: Math.round(at(0.5)) };
  }
  const speeds = binned(rpm)?.filter((value) => !Number.isNaN(value));
  if (!speeds || speeds.length < 3) return undefined;
  const share = (quantile(speeds, 0.95) - quantile(speeds, 0.05)) / Math.max(1, median(speeds));
  if (share > MOVED_RPM_SHARE && follows(binned(rpm), die)) return { mode: "automatic", pct: null };
  const moved = die?.filter((value) => !Number.isNaN(value));
  const dieRangeK = moved && moved.length > 0 ? quantile(moved, 0.95) - quantile(moved, 0.05) : 0;
  return share <= STILL.rpmShare && dieRangeK >= DIE_MOVED_K ? { mode: "fixed", pct: null } : undefined;
}

/** Whether one line goes with another: Pearson's correlation over the places that both have. */
function follows(line: Float64Array | undefined, other: Float64Array | undefined): boolean {
  if (!line || !other) return false;
  const pairs = Array.from(line, (value, k) => [value, other[k] ?? Number.NaN] as const).filter(
    ([a, b]) => !Number.isNaN(a) && !Number.isNaN(b),
  );
  if (pairs.length < 4) return false;
  const mean = (of: 0 | 1): number => pairs.reduce((sum, pair) => sum + pair[of], 0) / pairs.length;
  const [ma, mb] = [mean(0), mean(1)];
  let [aa, bb, ab] = [0, 0, 0];
  for (const [a, b] of pairs) {
    aa += (a - ma) ** 2;
    bb += (b - mb) ** 2;
    ab += (a - ma) * (b - mb);
  }
  return aa > 0 && bb > 0 && ab / Math.sqrt(aa * bb) >= FOLLOWS;
}
