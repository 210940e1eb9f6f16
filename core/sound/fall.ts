import { nth, squaredLines } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";

/** The falling line of a fan that coasts down: times, s, and frequencies, Hz. */
export interface FallingLine {
  timeS: number[];
  hz: number[];
}

const WINDOW_S = 0.16;
const HOP_S = 0.04;
const LOWEST_HZ = 25;
const HIGHEST_HZ = 1500;
/** From one window to the next a line falls by at most so much of itself. */
const MOST_FALL = 0.16;
/** Power over its surroundings, summed in dB, that a path needs a window, to be a line at all. */
const LEAST_DB = 5;
const LEAST_S = 0.6;
const FEWEST = 8;
/** In all it must fall by so much. */
const LEAST_FALL = 0.25;
/** Peaks of mere noise jump; a fan’s line bends by less than this from window to window, in ln Hz (noise: some 0.05, recordings some 0.002). */
const MOST_BEND = 0.015;
const LONGEST_S = 60;

/**
 * Follows the line of a fan that coasts down through a spectrogram: the path of most power over its surroundings that never rises (dynamic
 * programming over windows of 160 ms), from where it begins to fall.
 * @param samples −1…1, mono
 * @throws Problem `no-falling-tone`
 */
export function fallingLine(samples: Float32Array, rateHz: number): FallingLine {
  const block = 2 ** Math.round(Math.log2(WINDOW_S * rateHz));
  const hop = Math.max(1, Math.round(HOP_S * rateHz));
  const count = Math.floor((Math.min(samples.length, LONGEST_S * rateHz) - block) / hop) + 1;
  if (count * HOP_S < LEAST_S) throw noTone();
  // Padded, so that a low line has a place of its own.
  const padded = block * 2;
  const stepHz = rateHz / padded;
  const [from, to] = [Math.ceil(LOWEST_HZ / stepHz), Math.min(padded / 2 - 1, Math.floor(HIGHEST_HZ / stepHz))];
  const lines = to - from + 1;
  const { over, log } = levels(samples, { block, hop, count, padded, from, to });
  const stages = harmonic(steadyRemoved(over, count, lines), lines, from);
  const total = new Float64Array(count * lines);
  const came = new Int32Array(count * lines);
  for (let k = 0; k < count; k++) {
    // From the end of a window on, the best of all lines at most so much higher: falling only.
    for (let line = 0; line < lines; line++) {
      const own = nth(stages, k * lines + line);
      if (k === 0) {
        total[line] = own;
        came[line] = line;
        continue;
      }
      const highest = Math.min(lines - 1, Math.ceil((line + from) * (1 + MOST_FALL) - from) + 1);
      let best = line;
      for (let before = line; before <= highest; before++)
        if (nth(total, (k - 1) * lines + before) > nth(total, (k - 1) * lines + best)) best = before;
      total[k * lines + line] = own + nth(total, (k - 1) * lines + best);
      came[k * lines + line] = best;
    }
  }
  let at = 0;
  for (let line = 1; line < lines; line++)
    if (nth(total, (count - 1) * lines + line) > nth(total, (count - 1) * lines + at)) at = line;
  const path: number[] = [];
  for (let k = count - 1; k >= 0; k--) {
    path.unshift(at);
    at = nth(came, k * lines + at);
  }
  const hz = path.map(
    (line, k) =>
      refined(line, log.subarray(k * lines, (k + 1) * lines), over.subarray(k * lines, (k + 1) * lines), from) * stepHz,
  );
  return cutOut(path, hz, stages, lines, block / rateHz / 2);
}

const noTone = (): Problem =>
  new Problem({
    code: "no-falling-tone",
    what: "There is no tone in it that falls.",
    remedy:
      "Hold the microphone near the fan, bring it to full speed, cut its power while recording, wait until it stands.",
  });

interface Frame {
  block: number;
  hop: number;
  count: number;
  padded: number;
  from: number;
  to: number;
}

/** Every line's power, as a logarithm, and how far it stands over the lines around it, dB, window after window; nothing below none. */
function levels(
  samples: Float32Array,
  { block, hop, count, padded, from, to }: Frame,
): { over: Float32Array; log: Float32Array } {
  const linesOf = squaredLines(padded);
  const window = Float64Array.from({ length: block }, (_, k) => 0.5 - 0.5 * Math.cos((2 * Math.PI * k) / block));
  const input = Array.from({ length: padded }, () => 0);
  const lines = to - from + 1;
  const over = new Float32Array(count * lines);
  const log = new Float32Array(count * lines);
  const smooth = new Float64Array(padded / 2 + 1);
  for (let k = 0; k < count; k++) {
    for (let n = 0; n < block; n++) input[n] = nth(samples, k * hop + n) * nth(window, n);
    const power = linesOf(input);
    // A running mean over an octave's sixth of lines, by sums.
    let sum = 0;
    for (let line = 0; line < power.length; line++) {
      sum += nth(power, line);
      smooth[line] = sum;
    }
    for (let line = from; line <= to; line++) {
      const wide = Math.max(24, Math.round(line * 0.12));
      const [low, high] = [Math.max(1, line - wide), Math.min(power.length - 1, line + wide)];
      const around = (nth(smooth, high) - nth(smooth, low - 1)) / (high - low + 1);
      const db = 10 * Math.log10((nth(power, line) + 1e-20) / (around + 1e-20));
      over[k * lines + line - from] = Math.max(0, db);
      log[k * lines + line - from] = Math.log(nth(power, line) + 1e-30);
    }
  }
  return { over, log };
}

const HARMONICS = 3;
/** A harmonic that stands so far out, dB, helps to place the line. */
const CLEAR_DB = 4;

/** A line's place between lines, from parabolas over it and its harmonics: a harmonic places it as many times as finely. */
function refined(line: number, log: Float32Array, over: Float32Array, from: number): number {
  let [sum, weight] = [0, 0];
  for (let times = 1; times <= HARMONICS; times++) {
    const near = times * (line + from) - from;
    let top = near;
    for (let at = Math.max(1, near - times); at <= Math.min(log.length - 2, near + times); at++)
      if ((log[at] ?? 0) > (log[top] ?? Number.NEGATIVE_INFINITY)) top = at;
    if (top < 1 || top > log.length - 2 || (over[top] ?? 0) < CLEAR_DB) continue;
    const [left, middle, right] = [nth(log, top - 1), nth(log, top), nth(log, top + 1)];
    const bend = left - 2 * middle + right;
    if (bend >= 0) continue;
    const place = top + from + Math.min(0.5, Math.max(-0.5, (left - right) / (2 * bend)));
    sum += times ** 2 * (place / times);
    weight += times ** 2;
  }
  return weight > 0 ? sum / weight : line + from;
}

/** What hums the same all the time, mains and other machines, is no fan that coasts down: every line less its own median. */
function steadyRemoved(stages: Float32Array, count: number, lines: number): Float32Array {
  const column = new Float32Array(count);
  for (let line = 0; line < lines; line++) {
    for (let k = 0; k < count; k++) column[k] = nth(stages, k * lines + line);
    const median = nth(column.toSorted(), count >> 1);
    for (let k = 0; k < count; k++) stages[k * lines + line] = Math.max(0, nth(column, k) - median);
  }
  return stages;
}

/** A line with its second and third harmonic: so that a harmonic is not taken for the blades. */
function harmonic(stages: Float32Array, lines: number, from: number): Float32Array {
  const summed = stages.slice();
  for (let start = 0; start < stages.length; start += lines)
    for (let line = 0; line < lines; line++) {
      const own = nth(stages, start + line);
      if (own <= 0) continue;
      for (const times of [2, 3]) {
        const at = times * (line + from) - from;
        if (at < lines) summed[start + line] = nth(summed, start + line) + nth(stages, start + at) / times;
      }
    }
  return summed;
}

/** The part of the path that falls and can be heard. */
function cutOut(
  path: readonly number[],
  hz: readonly number[],
  stages: Float32Array,
  lines: number,
  middleS: number,
): FallingLine {
  const heard = path.map((line, k) => nth(stages, k * lines + line) >= LEAST_DB);
  // It begins to fall where the line leaves its plateau for good.
  const plateau = hz[heard.indexOf(true)] ?? 0;
  let begin = heard.indexOf(true);
  for (let k = 0; k < hz.length && nth(hz, k) > plateau * 0.985; k++) if (heard[k]) begin = k;
  let end = begin;
  let silent = 0;
  for (let k = begin; k < hz.length && silent < 4; k++) {
    if (heard[k]) {
      end = k;
      silent = 0;
    } else silent++;
  }
  const kept = hz.flatMap((value, k) =>
    k >= begin && k <= end && heard[k] ? [{ timeS: middleS + k * HOP_S, hz: value }] : [],
  );
  const [first, last] = [kept[0], kept.at(-1)];
  if (
    !first ||
    !last ||
    kept.length < FEWEST ||
    last.timeS - first.timeS < LEAST_S ||
    last.hz > first.hz * (1 - LEAST_FALL)
  )
    throw noTone();
  const ln = kept.map((one) => Math.log(one.hz));
  const bends = ln.slice(2).map((value, k) => Math.abs(value - 2 * nth(ln, k + 1) + nth(ln, k)));
  if (
    nth(
      bends.sort((x, y) => x - y),
      bends.length >> 1,
    ) > MOST_BEND
  )
    throw noTone();
  return { timeS: kept.map(({ timeS }) => timeS), hz: kept.map((one) => one.hz) };
}
