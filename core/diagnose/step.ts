import { last, nth } from "../numeric/index.ts";
import type { Stretch } from "../soak/index.ts";

/** How the edge answers a step of the load within seconds, before the fins have noticed. */
export interface StepAnswer {
  /** Jump of the edge per watt of power step, K/W: die, compound and plate alone. */
  kPerW: number;
  /** Standard uncertainty, K/W. */
  sd: number;
  /** Jump as seen, K, and the seconds it took; for words. */
  seenK: number;
  withinS: number;
}

/** How long after the step is looked at; the fins have hardly begun to warm by then. */
const UNTIL_S = 80;
const LEAST_LOAD_S = 26;
const REST_S = 20;
/** Least power step that says something, W. */
const LEAST_STEP_W = 15;
/** Time constants of die with compound and plate, and of fins, s (common practice of the trade). */
const FAST_S = [1.5, 2.5, 4, 6, 9, 13];
const SLOW_S = [50, 70, 100, 140, 200, 280];

interface Lines {
  timeS: Float64Array;
  edgeC: Float64Array;
  powerW: Float64Array | undefined;
}

/**
 * The fast part of the heating and cooling steps at both ends of each load: a fast and a slow exponential are fitted to the first
 * 80 s, over a grid of time constants weighed by their fit (separating near from far parts by time is the idea of JEDEC JESD51-14).
 * @param loads stretches under load, s
 * @param stepK display step of the edge's sensor, K
 * @returns undefined when no load begins or ends inside the log
 */
export function stepAnswer(lines: Lines, loads: readonly Stretch[], stepK: number): StepAnswer | undefined {
  const { timeS } = lines;
  const end = last(timeS);
  const found: StepAnswer[] = [];
  for (const load of loads) {
    if (load.fromS > 3 && load.toS - load.fromS > LEAST_LOAD_S)
      push(found, oneStep(lines, load.fromS, Math.min(UNTIL_S, load.toS - load.fromS - 2), stepK));
    if (end - load.toS > LEAST_LOAD_S && load.toS - load.fromS > 60)
      push(found, oneStep(lines, load.toS, Math.min(UNTIL_S, end - load.toS), stepK));
  }
  if (found.length === 0) return undefined;
  let weight = 0;
  let sum = 0;
  for (const one of found) {
    weight += 1 / one.sd ** 2;
    sum += one.kPerW / one.sd ** 2;
  }
  const largest = found.reduce((top, one) => (one.seenK > top.seenK ? one : top));
  return { ...largest, kPerW: sum / weight, sd: 1 / Math.sqrt(weight) };
}

function push(list: StepAnswer[], one: StepAnswer | undefined): void {
  if (one) list.push(one);
}

function oneStep(lines: Lines, nearS: number, untilS: number, stepK: number): StepAnswer | undefined {
  const atS = sharpen(lines, nearS);
  const rest = mean(lines.timeS, lines.edgeC, atS - REST_S, atS - 0.05);
  const powerW = lines.powerW
    ? (mean(lines.timeS, lines.powerW, atS + 2, atS + untilS)?.value ?? Number.NaN) -
      (mean(lines.timeS, lines.powerW, atS - REST_S, atS - 1)?.value ?? Number.NaN)
    : Number.NaN;
  if (!rest || !(Math.abs(powerW) >= LEAST_STEP_W)) return undefined;
  const jump = fastPart(lines, atS, untilS, rest.value, stepK);
  if (!jump || jump.value / powerW <= 0) return undefined;
  const soon = mean(lines.timeS, lines.edgeC, atS + 3.5, atS + 6.1);
  return {
    kPerW: jump.value / powerW,
    sd: Math.hypot(jump.sd, rest.sd, 0.15 * stepK, 0.3) / Math.abs(powerW),
    seenK: Math.abs((soon?.value ?? rest.value + jump.value) - rest.value),
    withinS: 5,
  };
}

/** Amplitude of the fast exponential, averaged over the grid of time constants by how well each pair fits. */
function fastPart(
  { timeS, edgeC }: Lines,
  atS: number,
  untilS: number,
  restC: number,
  stepK: number,
): { value: number; sd: number } | undefined {
  const t: number[] = [];
  const y: number[] = [];
  for (let row = 0; row < timeS.length; row++) {
    const after = nth(timeS, row) - atS;
    if (after > untilS) break;
    if (after <= 0 || Number.isNaN(nth(edgeC, row))) continue;
    t.push(after);
    y.push(nth(edgeC, row) - restC);
  }
  if (t.length < 8) return undefined;
  const fits = FAST_S.flatMap((fast) => SLOW_S.map((slow) => twoExponentials(t, y, fast, slow)));
  const least = Math.min(...fits.map(({ misfit }) => misfit));
  const variance = Math.max(least / Math.max(1, t.length - 4), (0.29 * stepK) ** 2, 0.01);
  let total = 0;
  let sum = 0;
  let square = 0;
  for (const { amplitude, unitSd, misfit } of fits) {
    const weight = Math.exp(-(misfit - least) / (2 * variance));
    total += weight;
    sum += weight * amplitude;
    square += weight * (amplitude ** 2 + variance * unitSd ** 2);
  }
  const value = sum / total;
  return { value, sd: Math.sqrt(Math.max(0, square / total - value ** 2)) };
}

/** Least squares of a(1 − e^(−t/τ₁)) + b(1 − e^(−t/τ₂)): the normal equations of two unknowns. */
function twoExponentials(
  t: readonly number[],
  y: readonly number[],
  fastS: number,
  slowS: number,
): { amplitude: number; unitSd: number; misfit: number } {
  let aa = 0;
  let ab = 0;
  let bb = 0;
  let ay = 0;
  let by = 0;
  let yy = 0;
  t.forEach((at, k) => {
    const a = 1 - Math.exp(-at / fastS);
    const b = 1 - Math.exp(-at / slowS);
    const value = nth(y, k);
    aa += a * a;
    ab += a * b;
    bb += b * b;
    ay += a * value;
    by += b * value;
    yy += value * value;
  });
  const determinant = aa * bb - ab * ab;
  const amplitude = (ay * bb - by * ab) / determinant;
  const slow = (by * aa - ay * ab) / determinant;
  return { amplitude, unitSd: Math.sqrt(bb / determinant), misfit: yy - amplitude * ay - slow * by };
}

/** The step itself, where the power is halfway: phases are cut in bins and may be a little off. */
function sharpen({ timeS, powerW }: Lines, nearS: number): number {
  if (!powerW) return nearS;
  const before = mean(timeS, powerW, nearS - 25, nearS - 6)?.value;
  const after = mean(timeS, powerW, nearS + 6, nearS + 25)?.value;
  if (before === undefined || after === undefined) return nearS;
  const half = (before + after) / 2;
  for (let row = 1; row < timeS.length; row++) {
    const at = nth(timeS, row);
    if (at < nearS - 8) continue;
    if (at > nearS + 8) break;
    const passed = after > before ? nth(powerW, row) > half : nth(powerW, row) < half;
    if (passed) return ((timeS[row - 1] ?? at) + at) / 2;
  }
  return nearS;
}

function mean(
  timeS: Float64Array,
  values: Float64Array,
  fromS: number,
  toS: number,
): { value: number; sd: number } | undefined {
  let sum = 0;
  let square = 0;
  let count = 0;
  for (let row = 0; row < timeS.length; row++) {
    const at = nth(timeS, row);
    const value = nth(values, row);
    if (at < fromS || Number.isNaN(value)) continue;
    if (at > toS) break;
    sum += value;
    square += value * value;
    count++;
  }
  if (count === 0) return undefined;
  const value = sum / count;
  return { value, sd: Math.sqrt(Math.max(0, square / count - value * value) / count) };
}
