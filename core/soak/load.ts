import { last, median, nth, quantile, quantilesOf, runningMedian } from "../numeric/index.ts";

export interface Stretch {
  fromS: number;
  toS: number;
}

/** Columns in equal bins; a role the log lacks is undefined. */
export interface BinnedRun {
  edgesS: Float64Array;
  power?: Float64Array | undefined;
  load?: Float64Array | undefined;
  coreClock?: Float64Array | undefined;
  fan?: Float64Array | undefined;
  temperature: Float64Array;
}

/** A load lasts this long at least, and idle parts two of them when it lasts as long. */
const SHORTEST_LOAD_S = 30;
/** A dip longer than this is felt: the load is judged from its end on. */
const LONGEST_DIP_S = 12;

/** Share of the way from the least to the most above which a card is under load; idle desktops stay well below. */
const LOADED_SHARE = 0.25;

/** One load of constant settings, and what of it is judged: all, or what comes after a dip that was too short to part it. */
export interface LoadPart extends Stretch {
  judged: Stretch;
  /** It begins with a change of settings, not from idle. */
  setAnew: boolean;
  /** The stretch under load that it is a part of: a card that throttled may look as if its power had been set anew. */
  around: Stretch;
}

/** The loads of a log, parted by idle and where power or fan was set anew, each `SHORTEST_LOAD_S` or longer; in order. */
export function loadParts(run: BinnedRun): LoadPart[] {
  const marked = markLoaded(run);
  const whole = joined(run, marked, LONGEST_DIP_S);
  return joined(run, marked, SHORTEST_LOAD_S - 1e-6).flatMap((load) =>
    constantParts(run, load)
      .filter((part) => part.toS - part.fromS >= SHORTEST_LOAD_S - 1e-6)
      .map((part) => {
        const pieces = whole
          .map((one) => ({ fromS: Math.max(one.fromS, part.fromS), toS: Math.min(one.toS, part.toS) }))
          .filter((one) => one.toS - one.fromS > 5);
        const around = whole.find((one) => one.fromS <= part.fromS && one.toS >= part.toS) ?? part;
        return { ...part, judged: mainPart(pieces) ?? part, setAnew: part.fromS > load.fromS, around };
      }),
  );
}

/**
 * Finds the stretches under load: by power, else by load per cent, else by the shape of the temperature.
 * @returns stretches in order; empty when the card idled all the time
 */
export const findLoads = (run: BinnedRun): Stretch[] => joined(run, markLoaded(run), LONGEST_DIP_S);

/** Which bins are under load and which nobody knows of; or the stretches themselves, where levels do not tell. */
type Marked = Stretch[] | { loaded: (bin: number) => boolean; unknown: (bin: number) => boolean };

/** @param longestDipS stretches closer than this are one */
const joined = (run: BinnedRun, marked: Marked, longestDipS: number): Stretch[] =>
  Array.isArray(marked) ? marked : stretches(run, marked.loaded, marked.unknown, longestDipS);

function markLoaded(run: BinnedRun): Marked {
  const levels: Array<[Float64Array | undefined, number, number]> = [
    [run.power, 8, 28],
    [run.load, 20, 30],
  ];
  for (const [raw, leastSwing, alwaysAbove] of levels) {
    if (!raw || raw.every(Number.isNaN)) continue;
    const line = runningMedian(raw, 5);
    const high = quantile(line, 0.97);
    const low = quantile(line, 0.01);
    if (high - low < Math.max(leastSwing, 0.3 * high)) {
      const loaded = median(line) > alwaysAbove || swing(run.temperature) > 8;
      return loaded ? [whole(run)] : [];
    }
    const limit = low + LOADED_SHARE * (high - low);
    return {
      loaded: (bin) => (line[bin] as number) > limit,
      unknown: (bin) => Number.isNaN(line[bin]),
    };
  }
  return byTemperature(run);
}

const whole = (run: BinnedRun): Stretch => ({ fromS: nth(run.edgesS, 0), toS: last(run.edgesS) });
const swing = (line: Float64Array): number => quantile(line, 0.98) - quantile(line, 0.02);

function stretches(
  run: BinnedRun,
  loaded: (bin: number) => boolean,
  unknown: (bin: number) => boolean,
  longestDipS: number,
): Stretch[] {
  const found: Stretch[] = [];
  const bins = run.edgesS.length - 1;
  let open: Stretch | undefined;
  for (let bin = 0; bin < bins; bin++) {
    if (unknown(bin)) continue;
    const fromS = nth(run.edgesS, bin);
    const toS = nth(run.edgesS, bin + 1);
    if (!loaded(bin)) continue;
    if (open && fromS - open.toS <= longestDipS) open.toS = toS;
    else {
      open = { fromS, toS };
      found.push(open);
    }
  }
  return found.filter((one) => one.toS - one.fromS >= SHORTEST_LOAD_S);
}

function byTemperature(run: BinnedRun): Stretch[] {
  const line = runningMedian(run.temperature, 3);
  const { edgesS } = run;
  const bins = line.length;
  let hottest = 0;
  for (let bin = 0; bin < bins; bin++) if (nth(line, bin) > (line[hottest] ?? Number.NEGATIVE_INFINITY)) hottest = bin;
  const high = nth(line, hottest);
  let coldest = 0;
  for (let bin = 0; bin <= hottest; bin++) if (nth(line, bin) <= nth(line, coldest)) coldest = bin;
  const low = line[coldest] ?? high;
  if (high - low < 4) return [whole(run)];
  let start = hottest;
  while (start > 0 && (line[start - 1] ?? low) > low + 0.06 * (high - low)) start--;
  let end = bins - 1;
  if ((line[bins - 1] ?? high) < high - 0.25 * (high - low)) {
    let steepest = hottest;
    const width = Math.max(1, Math.round(5 / Math.max(1e-3, nth(edgesS, 1) - nth(edgesS, 0))));
    for (let bin = hottest; bin + width < bins; bin++)
      if (nth(line, bin) - nth(line, bin + width) > nth(line, steepest) - nth(line, steepest + width)) steepest = bin;
    end = steepest;
  }
  return [{ fromS: nth(edgesS, Math.max(0, start - 1)), toS: nth(edgesS, end + 1) }];
}

/**
 * Cuts a load where the fan or the power was set anew: a step that is flat before and after.
 * @returns the parts in order; one part when nothing was changed
 */
export function constantParts(run: BinnedRun, load: Stretch): Stretch[] {
  const width = nth(run.edgesS, 1) - nth(run.edgesS, 0);
  const half = Math.max(3, Math.round(15 / width));
  const gap = Math.max(1, Math.round(6 / width));
  const cuts: number[] = [];
  for (const [raw, least] of [
    [run.fan, 0.1],
    [run.power, 0.1],
  ] as const) {
    if (!raw) continue;
    const sums = runningSums(raw);
    let best = { bin: -1, size: 0 };
    for (let bin = 0; bin < raw.length; bin++) {
      if (best.bin >= 0 && bin > best.bin + half) {
        cuts.push(nth(run.edgesS, best.bin));
        best = { bin: -1, size: 0 };
      }
      const at = nth(run.edgesS, bin);
      if (at < load.fromS + 5 || at > load.toS - 20) continue;
      if (roughStep(sums, bin, half, gap) < 0.4 * least) continue;
      const before = raw
        .subarray(Math.max(0, bin - half), bin)
        .filter((_, k, part) => nth(run.edgesS, bin - part.length + k) >= load.fromS + 3);
      const after = raw.subarray(bin + gap, bin + gap + half);
      const near = stepSize(before, after, half);
      if (near <= least) continue;
      const longBefore = raw
        .subarray(Math.max(0, bin - 4 * half), bin)
        .filter((_, k, part) => nth(run.edgesS, bin - part.length + k) >= load.fromS + 3);
      const size = Math.min(near, levelChange(longBefore, raw.subarray(bin + gap, bin + gap + 4 * half)));
      if (size > least && size > best.size) best = { bin, size };
    }
    if (best.bin >= 0) cuts.push(nth(run.edgesS, best.bin));
  }
  const sorted = [...new Set(cuts)]
    .sort((a, b) => a - b)
    .filter((cut, k, all) => k === 0 || cut - nth(all, k - 1) > 20);
  const limits = [load.fromS, ...sorted, load.toS];
  return limits.slice(1).map((toS, k) => ({ fromS: nth(limits, k), toS }));
}

/** Sums up to each bin, missing values as nothing, so that any mean is one subtraction. */
function runningSums(line: Float64Array): Float64Array {
  const sums = new Float64Array(line.length + 1);
  for (let bin = 0; bin < line.length; bin++) {
    const value = nth(line, bin);
    sums[bin + 1] = nth(sums, bin) + (Number.isNaN(value) ? 0 : value);
  }
  return sums;
}

/** Relative step of the means around a bin: a quick look that spares most bins the careful one. */
function roughStep(sums: Float64Array, bin: number, half: number, gap: number): number {
  const mean = (from: number, to: number): number => {
    const low = Math.max(0, from);
    const high = Math.min(sums.length - 1, to);
    return high > low ? (nth(sums, high) - nth(sums, low)) / (high - low) : 0;
  };
  const before = mean(bin - half, bin);
  const after = mean(bin + gap, bin + gap + half);
  return Math.abs(after - before) / Math.max(Math.abs(before), Math.abs(after), 1e-9);
}

function stepSize(before: Float64Array, after: Float64Array, half: number): number {
  if (before.length < Math.min(3, half) || after.length < half) return 0;
  const [earlier, later] = [quantilesOf(before), quantilesOf(after)];
  const [low, high] = [earlier(0.5), later(0.5)];
  const step = Math.abs(high - low);
  const flat = Math.max(earlier(0.9) - earlier(0.1), later(0.9) - later(0.1));
  if (flat > 0.4 * step) return 0;
  return step / Math.max(Math.abs(low), Math.abs(high), 1e-9);
}

function levelChange(before: Float64Array, after: Float64Array): number {
  const [low, high] = [median(before), median(after)];
  return Math.abs(high - low) / Math.max(Math.abs(high), Math.abs(low), 1e-9);
}

/** The part a run stands for: the last one when it is long enough, else the longest. */
export function mainPart(parts: Stretch[]): Stretch | undefined {
  const length = (part: Stretch): number => part.toS - part.fromS;
  const last = parts.at(-1);
  if (!last) return undefined;
  const longest = parts.reduce((best, part) => (length(part) > length(best) ? part : best));
  const all = parts.reduce((sum, part) => sum + length(part), 0);
  return length(last) >= Math.max(180, 0.3 * all) ? last : longest;
}
