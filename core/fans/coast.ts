import { leastSquares, type Model, studentT } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";

/** A figure with its 95 % half-width. */
export interface Measured95 {
  value: number;
  u95: number;
}

/** What a fan's coasting down comes to: −dω/dt = a + bω + cω², ω in rad/s. */
export interface Coast {
  /** Dry friction, rad/s²; viscous, 1/s; of the air, 1/rad. */
  dry: Measured95;
  viscousPerS: Measured95;
  square: Measured95;
  startRadPerS: number;
  /** When it would stand still by this law, s after the first point; null where it never does. */
  stopsAfterS: number | null;
}

const FEWEST = 8;
/** It must have lost so much of its speed to say anything. */
const LEAST_FALL = 0.25;
/** Steps of the law from one point to the next. */
const SUBSTEPS = 2;
const MOST_POINTS = 600;
const MOST_S = 600;

/**
 * Fits the law of coasting down, by its own solution (fourth-order Runge and Kutta) and least squares; figures that can't be below zero and
 * come out so are held there, and the others fitted again.
 * @param timeS rising, s
 * @param radPerS speeds, same length
 * @throws Problem `no-coast` for too few points, or a speed that does not fall
 */
export function fitCoast(timeS: ArrayLike<number>, radPerS: ArrayLike<number>): Coast {
  const { t, w } = thinned(timeS, radPerS);
  const first = w[0] ?? 0;
  if (t.length < FEWEST || !(Math.min(...w) < first * (1 - LEAST_FALL))) throw noCoast();
  const scale = Math.max(first, 1);
  const span = Math.max((t.at(-1) ?? 0) - (t[0] ?? 0), 1e-6);
  // Beginnings that differ in kind: the sum of squares has more than one valley.
  const fall = (first - (w.at(-1) ?? 0)) / span;
  const begin = [
    [fall, 0, 0],
    [0, Math.log(first / Math.max(w.at(-1) ?? 0, 0.02 * first)) / span, 0],
    [fall / 3, fall / (3 * scale), fall / (3 * scale * scale)],
  ];
  const masks = [
    [true, true, true],
    [true, true, false],
    [true, false, true],
    [false, true, true],
    [true, false, false],
    [false, true, false],
    [false, false, true],
  ];
  const fits = masks.flatMap((mask) => begin.map((from) => fitMasked(t, w, from, mask)));
  const best = fits
    .filter((fit) => fit.law.every((value) => value >= 0))
    .reduce<Masked | undefined>((top, fit) => (top && fit.sum >= top.sum * (1 - 1e-9) ? top : fit), undefined);
  if (!best) throw noCoast();
  const [dry = 0, viscous = 0, square = 0] = best.law;
  const law = solved(t, best.start, best.law);
  const left = w.map((speed, k) => speed - (law[k] ?? 0));
  const times = studentT(Math.max(1, t.length - best.mask.filter(Boolean).length - 1)) * together(left);
  const measured = (k: number): Measured95 => ({ value: best.law[k] ?? 0, u95: times * (best.sd[k] ?? 0) });
  return {
    dry: measured(0),
    viscousPerS: measured(1),
    square: measured(2),
    startRadPerS: best.start,
    stopsAfterS: stopAfter(best.start, dry, viscous, square),
  };
}

/** Neighbours that err together say less than as many apart: √((1 + ρ)/(1 − ρ)) of an AR(1) series (any text on time series). */
function together(left: readonly number[]): number {
  let [square, pair] = [0, 0];
  left.forEach((one, k) => {
    square += one * one;
    pair += one * (left[k + 1] ?? 0);
  });
  const rho = Math.min(0.98, Math.max(0, square > 0 ? pair / square : 0));
  return Math.sqrt((1 + rho) / (1 - rho));
}

const noCoast = (): Problem =>
  new Problem({
    code: "no-coast",
    what: "The speed does not fall here as a fan’s does that coasts down.",
    remedy: "Bring the fan to full speed, cut its power, and record until it stands.",
  });

const NEAR_TOP = 0.97;
/** A reading that rises by more than this share of the speed ends the fall. */
const RISES = 0.05;

/**
 * The law of a fan's fall in a log that samples fast enough: from where it leaves its highest speed to where it stands or rises again.
 * @param rpm speeds, same length as `timeS`
 * @throws Problem `too-slow` for a log that has too few readings while it falls; `no-coast`
 */
export function coastInLog(
  timeS: ArrayLike<number>,
  rpm: ArrayLike<number>,
): { coast: Coast; timeS: number[]; rpm: number[] } {
  const speeds = Array.from(rpm);
  const top = speeds.reduce((most, one) => (one > most ? one : most), 0);
  /** Where the fall that begins here ends. */
  const endOf = (begin: number): number => {
    let end = begin;
    for (let k = begin + 1; k < speeds.length; k++) {
      const [one, last] = [speeds[k] ?? Number.NaN, speeds[end] ?? 0];
      if (Number.isNaN(one)) continue;
      if (one > last + RISES * top) break;
      end = k;
      if (one <= 0) break;
    }
    return end;
  };
  const isTop = (k: number): boolean => (speeds[k] ?? 0) >= NEAR_TOP * top;
  const [begin, end] = speeds
    .flatMap((_, k) => (isTop(k) && !isTop(k + 1) ? [[k, endOf(k)] as const] : []))
    .reduce<readonly [number, number]>(
      (deepest, fall) => ((speeds[fall[1]] ?? top) < (speeds[deepest[1]] ?? top) ? fall : deepest),
      [0, 0],
    );
  const lowest = speeds[end] ?? top;
  if (top <= 0 || lowest > top * (1 - LEAST_FALL)) throw noCoast();
  if (end - begin + 1 < FEWEST)
    throw new Problem({
      code: "too-slow",
      what: `There are ${end - begin + 1} readings of the speed while it falls; eight are needed.`,
      remedy: "Sample five times a second or more, or record its sound instead.",
    });
  const times = Array.from({ length: end - begin + 1 }, (_, k) => timeS[begin + k] as number);
  const fall = speeds.slice(begin, end + 1);
  const coast = fitCoast(
    times,
    fall.map((one) => (2 * Math.PI * one) / 60),
  );
  return { coast, timeS: times, rpm: fall };
}

interface Masked {
  mask: readonly boolean[];
  law: number[];
  sd: number[];
  start: number;
  sum: number;
}

function fitMasked(
  t: readonly number[],
  w: readonly number[],
  from: readonly number[],
  mask: readonly boolean[],
): Masked {
  const free = mask.flatMap((on, k) => (on ? [k] : []));
  const begin = [w[0] ?? 0, ...free.map((k) => from[k] ?? 0)];
  const units = [Math.max(1, w[0] ?? 1), ...free.map((k) => UNIT(k, w[0] ?? 1))];
  const lawOf = (parameters: ArrayLike<number>): number[] => {
    const law = [0, 0, 0];
    free.forEach((k, at) => {
      law[k] = (parameters[at + 1] ?? 0) * (units[at + 1] ?? 1);
    });
    return law;
  };
  const curve = (parameters: ArrayLike<number>): number[] =>
    solved(t, (parameters[0] ?? 0) * (units[0] ?? 1), lawOf(parameters));
  let cached: { key: string; base: number[]; slopes: number[][] } | null = null;
  const model: Model = (x, parameters, slope) => {
    const key = parameters.join(" ");
    if (cached?.key !== key) {
      const base = curve(parameters);
      const slopes = Array.from(parameters, (value, k) => {
        const step = 1e-5 * Math.max(1e-3, Math.abs(value));
        const moved = Float64Array.from(parameters);
        moved[k] = value + step;
        return curve(moved).map((one, at) => (one - (base[at] ?? 0)) / step);
      });
      cached = { key, base, slopes };
    }
    for (let k = 0; k < slope.length; k++) slope[k] = cached.slopes[k]?.[x] ?? 0;
    return cached.base[x] ?? 0;
  };
  const fit = leastSquares(
    model,
    t.map((_time, index) => index),
    w,
    begin.map((value, k) => value / (units[k] ?? 1)),
    undefined,
    1e-8,
  );
  const sd = [0, 0, 0];
  free.forEach((k, at) => {
    sd[k] = (fit.deviations[at + 1] ?? 0) * (units[at + 1] ?? 1);
  });
  const law = lawOf(fit.parameters);
  return { mask, law, sd, start: (fit.parameters[0] ?? 0) * (units[0] ?? 1), sum: fit.residualSum };
}

/** So that all parameters are of one size. */
const UNIT = (k: number, speed: number): number => 10 / speed ** k;

/** Speeds at these times by the law; it stands once it has stopped. */
function solved(t: readonly number[], start: number, [a = 0, b = 0, c = 0]: readonly number[]): number[] {
  const slope = (w: number): number => (w <= 0 ? 0 : -(a + b * w + c * w * w));
  let w = start;
  return t.map((time, index) => {
    if (index === 0) return w;
    const h = (time - (t[index - 1] ?? time)) / SUBSTEPS;
    for (let k = 0; k < SUBSTEPS; k++) {
      const k1 = slope(w);
      const k2 = slope(w + (h / 2) * k1);
      const k3 = slope(w + (h / 2) * k2);
      const k4 = slope(w + h * k3);
      w = Math.max(0, w + (h / 6) * (k1 + 2 * k2 + 2 * k3 + k4));
    }
    return w;
  });
}

function stopAfter(start: number, a: number, b: number, c: number): number | null {
  const stepS = 0.02;
  let w = start;
  for (let s = 0; s < MOST_S; s += stepS) {
    if (w <= start * 1e-3 || w <= 0) return s;
    w -= stepS * (a + b * w + c * w * w);
  }
  return null;
}

/** As many points as a fit needs, and none after it stands. */
function thinned(timeS: ArrayLike<number>, radPerS: ArrayLike<number>): { t: number[]; w: number[] } {
  const every = Math.max(1, Math.ceil(timeS.length / MOST_POINTS));
  const t: number[] = [];
  const w: number[] = [];
  for (let k = 0; k < timeS.length; k += every) {
    const [time, speed] = [timeS[k] as number, radPerS[k] as number];
    if (!Number.isFinite(time) || !Number.isFinite(speed)) continue;
    if (speed <= 0) {
      if (t.length > 0) break;
      continue;
    }
    t.push(time);
    w.push(speed);
  }
  return { t, w };
}

/** One friction over another with its 95 % half-width; null where the other is not told from none. */
export function frictionRatio(one: Measured95, other: Measured95): Measured95 | null {
  if (!(other.value > other.u95) || !(one.value > 0)) return null;
  const value = one.value / other.value;
  return { value, u95: value * Math.hypot(one.u95 / one.value, other.u95 / other.value) };
}

/** What a ratio of dry friction to the twin's says. */
export function frictionWords(ratio: Measured95 | null, twin: string): string {
  if (!ratio) return `Its dry friction can’t be told from ${twin} here: record both down to a stand.`;
  const said = `${ratio.value.toFixed(1)} ± ${ratio.u95.toFixed(1)} times ${twin}`;
  if (ratio.value - ratio.u95 > 1.15) return `${said}: oil it, or replace it`;
  if (ratio.value + ratio.u95 < 0.87) return `${said}: it runs easier`;
  return `${said}: no difference that can be told`;
}
