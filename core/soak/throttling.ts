import { nth, quantile, runningMedian } from "../numeric/index.ts";
import type { Stretch } from "./load.ts";

export interface Throttling {
  detected: boolean;
  /** Share of the time under load spent below the untroubled power or clock, 0…1. */
  shareOfLoad: number;
  /** `temperature`: power or clock fell while the card was near its hottest; `power-limit`: clock fell at the power limit. */
  kinds: string[];
}

export interface ThrottlingInput {
  edgesS: Float64Array;
  power?: Float64Array | undefined;
  powerLimit?: Float64Array | undefined;
  coreClock?: Float64Array | undefined;
  load?: Float64Array | undefined;
  temperature: Float64Array;
}

/** How far a line must fall below its early level to count: clocks 4 %, power 6 % (common practice of the trade, no source). */
const CLOCK_FALL = 0.04;
const POWER_FALL = 0.06;
/** A card that throttles by temperature stays this near to its hottest, K. */
const NEAR_HOTTEST_K = 8;

/**
 * Tells a card that lowers its clock or power by itself from one that keeps them: the lines are compared with the level they
 * had early under load; stretches where the load itself was lower do not count.
 */
export function findThrottling(run: ThrottlingInput, load: Stretch | undefined): Throttling {
  const none: Throttling = { detected: false, shareOfLoad: 0, kinds: [] };
  if (!load) return none;
  const bins: number[] = [];
  for (let bin = 0; bin + 1 < run.edgesS.length; bin++)
    if (nth(run.edgesS, bin) >= load.fromS + 3 && nth(run.edgesS, bin + 1) <= load.toS - 3) bins.push(bin);
  if (bins.length < 10) return none;
  const take = (line: Float64Array | undefined): Float64Array | undefined => {
    const part = line && Float64Array.from(bins, (bin) => nth(line, bin));
    return part && !part.every(Number.isNaN) ? part : undefined;
  };
  const temperature = take(run.temperature) ?? new Float64Array(bins.length);
  const hottest = quantile(temperature, 0.98);
  const busy = take(run.load);
  const fullLoad = busy ? quantile(busy, 0.8) : 0;
  const watts = take(run.power);
  const clocks = take(run.coreClock);
  const clock = fallen(clocks, CLOCK_FALL);
  const lower = fallen(clocks, CLOCK_FALL / 3);
  const power = fallen(watts, clocks ? POWER_FALL : Math.max(POWER_FALL, 3 * unrest(watts)));
  const limit = take(run.powerLimit);
  let byHeat = 0;
  let byLimit = 0;
  for (let k = 0; k < bins.length; k++) {
    if (!clock?.[k] && !(power?.[k] && (!lower || lower[k]))) continue;
    if (busy && (busy[k] ?? fullLoad) < fullLoad - 12) continue;
    const atLimit = limit && watts && nth(watts, k) >= 0.975 * (limit[k] ?? Number.POSITIVE_INFINITY);
    if (atLimit && clock?.[k]) byLimit++;
    else if (nth(temperature, k) >= hottest - NEAR_HOTTEST_K) byHeat++;
  }
  const share = (byHeat + byLimit) / bins.length;
  if (share < 0.02) return none;
  const kinds: string[] = [];
  if (byHeat > 0.01 * bins.length) kinds.push("temperature");
  if (byLimit > 0.01 * bins.length) kinds.push("power-limit");
  return { detected: true, shareOfLoad: Math.round(share * 1000) / 1000, kinds };
}

/** Usual change of a line within five samples, as a share of its level: games swing by themselves. */
function unrest(line: Float64Array | undefined): number {
  if (!line) return 0;
  const changes = line.subarray(5).map((value, k) => Math.abs(value - nth(line, k)));
  return quantile(changes, 0.6) / Math.max(1, quantile(line, 0.5));
}

/** Marks where a line lies below its early, high level by more than a share. */
function fallen(line: Float64Array | undefined, share: number): Uint8Array | undefined {
  if (!line) return undefined;
  const smooth = runningMedian(line, 5);
  const early = quantile(smooth.subarray(0, Math.max(5, Math.floor(smooth.length / 4))), 0.9);
  const level = Math.max(early, quantile(smooth, 0.9));
  return Uint8Array.from(smooth, (value) => (value < level * (1 - share) ? 1 : 0));
}
