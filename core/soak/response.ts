import { last, nth } from "../numeric/index.ts";
import { meanOf } from "../runfile/index.ts";
import { USUAL_AIR } from "../trade/index.ts";
import { binMeans, rowAt } from "./bins.ts";
import type { Response } from "./heating-curve.ts";
import type { BinnedRun, Stretch } from "./load.ts";
import { correlationFactor } from "./mean.ts";

/** What drives a card over one part of constant settings, and how its parts answer. */
export interface PartResponse {
  response: Response;
  /** Limits of the stretches that the curve is fitted to. */
  edgesS: Float64Array;
  /** How sure the power of the part's end is, as a share, 95 % half-width; 0 without a power column. */
  powerU95: number;
}

/** A fan that stands still cools as one at a quarter of the speed. */
const LEAST_FAN = 0.25;
/** A card idles at about this share of its load's power. */
const IDLE_SHARE = 0.1;
/** Usual time constants of a cooler and of what is slower, s. */
export const COOLER_S = 120;
export const SLOW_PART_S = 600;
/** Time over which the power of a part's end is read, s. */
const END_S = 240;
const BLOCK_S = 12;

/**
 * How a part of any time constant answers power, fan and room as they really were, on the stretches between `edgesS`.
 * Power's wander and a fan's change move the rise the more the faster the part; room air is felt through it.
 * @param run the whole log in even bins; @param room room air in the same bins, undefined where nobody measured it
 */
export function partResponse(
  run: BinnedRun,
  room: Float64Array | undefined,
  part: Stretch,
  edgesS: Float64Array,
): PartResponse {
  const grid = run.edgesS;
  const width = nth(grid, 1) - nth(grid, 0);
  const first = Math.max(0, Math.round(part.fromS / width));
  const end = Math.min(grid.length - 1, Math.max(first + 1, Math.round(part.toS / width)));
  const away = departures(run, first, end, width);
  const places = placesOf(edgesS, first, end, width);
  const roomLine = room && held(room);
  const feltBy = (line: Float64Array, tauS: number): Float64Array => {
    const own = lowPass(line, tauS, width, nth(line, 0)).subarray(first);
    return Float64Array.from(places, ({ bins }) => meanAt(own, bins));
  };
  return {
    edgesS,
    powerU95: run.power ? powerDoubt(run.power, first, end, width) : 0,
    response: {
      toCome: remembered((tauS) => {
        const answer = away && lowPass(away.line, tauS, width, 0);
        return Float64Array.from(
          places,
          ({ atS, bins }) => Math.exp(-atS / tauS) - (answer ? meanAt(answer, bins) * away.weight : 0),
        );
      }),
      room: roomLine && remembered((tauS) => feltBy(roomLine, tauS)),
      roomBehind: roomLine && behind(feltBy(roomLine, SLOW_PART_S), feltBy(roomLine, COOLER_S)),
      mayDrift: roomLine === undefined,
    },
  };
}

/** The sensors of a card ask for the same time constants. */
function remembered(make: (tauS: number) => Float64Array): (tauS: number) => Float64Array {
  const known = new Map<number, Float64Array>();
  return (tauS) => {
    // The lattice's powers differ in their last digits.
    const key = Math.round(Math.log(tauS) * 1e6);
    const found = known.get(key) ?? make(tauS);
    known.set(key, found);
    return found;
  };
}

const behind = (slow: Float64Array, cooler: Float64Array): Float64Array | undefined => {
  const line = slow.map((value, k) => value - nth(cooler, k));
  return line.some((value) => Math.abs(value) > 0.05) ? line : undefined;
};

/** How far the drive (power, and what the fan makes of it) lies from that of the part's end, as a share; undefined without power. */
function departures(run: BinnedRun, first: number, end: number, width: number) {
  const { power, fan } = run;
  if (!power) return undefined;
  const tail = Math.max(first, end - Math.round(Math.min(END_S / width, (end - first) / 2)));
  const endPower = meanOf(power.subarray(tail, end));
  if (!(endPower > 0)) return undefined;
  const endFan = fan ? meanOf(fan.subarray(Math.max(first, end - Math.max(1, Math.round(20 / width))), end)) : 0;
  let before = 1;
  const line = Float64Array.from({ length: end - first }, (_, k) => {
    const watts = power[first + k] ?? Number.NaN;
    const turns = fan?.[first + k] ?? Number.NaN;
    const air = endFan > 0 && !Number.isNaN(turns) ? Math.max(LEAST_FAN, turns / endFan) : 1;
    const now = (watts / endPower) * (1 - USUAL_AIR.share + USUAL_AIR.share * air ** -USUAL_AIR.exponent);
    if (!Number.isNaN(now)) before = now;
    return before - 1;
  });
  const earlier = first * width > 15 ? meanOf(power.subarray(Math.max(0, first - Math.round(60 / width)), first)) : 0;
  const started = Math.min(0.7, earlier > 0 ? earlier / endPower : IDLE_SHARE);
  return { line, weight: 1 / (1 - started) };
}

/**
 * How far the mean power over the part's end may lie from what it wanders about: the scatter of blocks over the later half, with its
 * correlation. Blocks, so that a load which swings every few seconds is not taken for one that wanders.
 */
function powerDoubt(power: Float64Array, first: number, end: number, width: number): number {
  const half = power.subarray(first + ((end - first) >> 1), end).filter((value) => !Number.isNaN(value));
  const size = Math.max(1, Math.round(BLOCK_S / width));
  const blocks = Float64Array.from({ length: Math.floor(half.length / size) }, (_, k) =>
    meanOf(half.subarray(k * size, (k + 1) * size)),
  );
  if (blocks.length < 3) return 0;
  const mean = meanOf(blocks);
  let square = 0;
  for (const value of blocks) square += (value - mean) ** 2;
  const window = Math.min(END_S / width, (end - first) / 2) / size;
  const effective = Math.max(1, window / correlationFactor(blocks));
  return (1.96 * Math.sqrt(square / (blocks.length - 1) / effective)) / mean;
}

/** Where each stretch lies on the even grid: its middle since the part's beginning, and its bins. */
function placesOf(edgesS: Float64Array, first: number, end: number, width: number) {
  return Array.from({ length: edgesS.length - 1 }, (_, k) => {
    const from = nth(edgesS, k);
    const to = nth(edgesS, k + 1);
    const low = Math.min(end - first - 1, Math.max(0, Math.floor(from / width + 0.5) - first));
    const high = Math.min(end - first, Math.max(low + 1, Math.floor(to / width + 0.5) - first));
    return { atS: (from + to) / 2 - nth(edgesS, 0), bins: { low, high } };
  });
}

function meanAt(line: Float64Array, { low, high }: { low: number; high: number }): number {
  let sum = 0;
  for (let bin = low; bin < high; bin++) sum += line[bin] ?? 0;
  return sum / (high - low);
}

/** A part's answer to a line that stands still within each bin: the mean over each bin. */
function lowPass(line: Float64Array, tauS: number, width: number, start: number): Float64Array {
  const keep = Math.exp(-width / tauS);
  const average = ((1 - keep) * tauS) / width;
  const out = new Float64Array(line.length);
  let state = start;
  for (let bin = 0; bin < line.length; bin++) {
    const value = line[bin] ?? 0;
    out[bin] = value + (state - value) * average;
    state = value + (state - value) * keep;
  }
  return out;
}

/** Missing values take the last one known, the first ones the first. */
function held(line: Float64Array): Float64Array {
  let before = line.find((value) => !Number.isNaN(value)) ?? Number.NaN;
  return line.map((value) => {
    if (!Number.isNaN(value)) before = value;
    return before;
  });
}

/** Room air in even bins, its noise taken out over half a minute. */
export function smoothRoom(timeS: Float64Array, room: Float64Array, edgesS: Float64Array): Float64Array | undefined {
  const { mean } = binMeans(timeS, room, edgesS);
  const line = held(mean);
  if (Number.isNaN(last(line))) return undefined;
  const half = Math.max(1, Math.round(30 / (nth(edgesS, 1) - nth(edgesS, 0))));
  const sums = new Float64Array(line.length + 1);
  line.forEach((value, k) => {
    sums[k + 1] = nth(sums, k) + value;
  });
  return line.map((_, k) => {
    const reach = Math.min(half, k, line.length - 1 - k);
    return (nth(sums, k + reach + 1) - nth(sums, k - reach)) / (2 * reach + 1);
  });
}

/**
 * Room air as the card feels it, for each row of a stretch: late, by a time constant.
 * @returns the air it feels, °C, and how much later than its cooler a slow part would feel it, K
 */
export function feltRoom(
  room: Float64Array,
  gridS: Float64Array,
  timeS: Float64Array,
  stretch: Stretch,
  tauS: number,
): (row: number) => { feltC: number; slowK: number } {
  const width = nth(gridS, 1) - nth(gridS, 0);
  const line = held(room);
  const by = (ownS: number): Float64Array => lowPass(line, ownS, width, nth(line, 0));
  const [felt, slow, cooler] = [by(tauS), by(SLOW_PART_S), by(COOLER_S)];
  const from = rowAt(timeS, stretch.fromS);
  return (row) => {
    const bin = Math.min(felt.length - 1, Math.max(0, Math.floor(nth(timeS, from + row) / width)));
    return { feltC: nth(felt, bin), slowK: nth(slow, bin) - nth(cooler, bin) };
  };
}
