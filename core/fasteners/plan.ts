import { nth } from "../numeric/index.ts";
import { type Course, drivenMm, LEAST_TURN, type SearchInput, SOFTENED } from "./course.ts";
import { gridCourses } from "./grid.ts";
import type { Turned } from "./stack.ts";

/** One screw is turned until it is driven in so far. */
export interface Move {
  screw: number;
  toMm: number;
}

/** A plan with fewer moves is taken where it costs no more than this. */
const AS_GOOD = 1.01;
/** A way over the grid that is no nearer than this will not get as good by moving its levels. */
const NEAR = 1.2;
/** How steps fall or grow over the rounds, to begin with. */
const BENDS = [1, 1.6, 2.4];
const ORDERS_REFINED = 3;
/** States that may be asked for: to find the best plan, and then one with fewer moves that is as good. */
const TO_FIND = 1600;
const TO_SHORTEN = 1200;
/** Of more screws than these each state takes longer, and less is asked for. */
const FEW = 5;
/** No way is gentler than its end; as near to that as this it is not looked any further. */
const AT_END = 1.003;

/**
 * The way to turn some screws from one end to the other that keeps the worst corner's load lowest with at most so many moves: orders of
 * rounds first, then how far each round goes, then single moves swapped or left out.
 * @returns the moves in order
 */
export function searchMoves(input: SearchInput): Move[] {
  const { turned, screws, mostMoves } = input;
  if (turned.length === 0) return [];
  const overGrid = gridCourses(input);
  const rounds = ordersOf(input).flatMap((round) =>
    roundCounts(turned.length, mostMoves).flatMap((rounds) =>
      BENDS.slice(0, rounds === 1 ? 1 : BENDS.length).map((bend) => courseOf(input, round, rounds, bend)),
    ),
  );
  const courses = [...overGrid, ...rounds]
    .map((course) => ({ course, soft: softPeak(input, course) }))
    .sort((a, b) => a.soft - b.soft);
  const share = Math.min(1, FEW / turned.length);
  const until = input.asked() + share * TO_FIND;
  let best = courses[0]?.course ?? courseOf(input, [...turned], 1, 1);
  let bestSoft = Number.POSITIVE_INFINITY;
  for (const { course } of courses.slice(0, ORDERS_REFINED)) {
    const refined = refine(input, course, input.asked() + (share * TO_FIND) / (ORDERS_REFINED + 1));
    const soft = softPeak(input, refined);
    if (soft < bestSoft) [best, bestSoft] = [refined, soft];
  }
  best = swapped(input, best, until);
  return movesOf(screws, shortened(input, best, overGrid), input.way);
}

/** Orders of one round: all where they are few, else around and across and their turns. */
function ordersOf({ screws, turned }: SearchInput): number[][] {
  // Few enough for the grid: it knows every order.
  if (turned.length <= 4) return [around(screws, turned), across(screws, turned)];
  const round = around(screws, turned);
  const orders = [round, across(screws, turned)];
  // The half of them, one after the other, then those between.
  orders.push([...round.filter((_, k) => k % 2 === 0), ...round.filter((_, k) => k % 2 === 1)]);
  return orders;
}

const roundCounts = (screws: number, mostMoves: number): number[] =>
  Array.from({ length: Math.max(1, Math.min(6, Math.floor(mostMoves / screws))) }, (_, k) => k + 1);

/** Counter-clockwise by angle about the die's middle from the first one listed. */
export function around(screws: readonly Turned[], turned: readonly number[]): number[] {
  const [first = 0] = turned;
  const from = angleOf(screws, first);
  const on = (index: number): number => (angleOf(screws, index) - from + 4 * Math.PI) % (2 * Math.PI);
  return [...turned].sort((a, b) => Math.round((on(a) - on(b)) * 1e9) || turned.indexOf(a) - turned.indexOf(b));
}

/** Each time the one most nearly opposite to the one before. */
export function across(screws: readonly Turned[], turned: readonly number[]): number[] {
  const [first] = turned;
  if (first === undefined) return [];
  const order = [first];
  while (order.length < turned.length) {
    const before = angleOf(screws, order.at(-1) ?? first);
    const left = turned.filter((one) => !order.includes(one));
    const off = (one: number): number => {
      const between = Math.abs(angleOf(screws, one) - before) % (2 * Math.PI);
      return Math.abs(Math.PI - Math.min(between, 2 * Math.PI - between));
    };
    order.push(left.reduce((a, b) => (off(b) < off(a) - 1e-9 ? b : a)));
  }
  return order;
}

const angleOf = (screws: readonly Turned[], index: number): number => screws[index]?.angle ?? 0;

/** Rounds in one order; a screw too short for so many moves has fewer. */
function courseOf({ screws, way }: SearchInput, round: readonly number[], rounds: number, bend: number): Course {
  const behindMm = new Map(
    round.map((index) => {
      const { travelMm, pitchMm } = screws[index] as Turned;
      const least = LEAST_TURN * pitchMm;
      const moves = Math.max(1, Math.min(rounds, Math.ceil(travelMm / least - 1e-9)));
      const levels = Array.from({ length: moves }, (_, k) => {
        const share = (k + 1) / moves;
        return travelMm * (way === "tighten" ? 1 - (1 - share) ** bend : share ** bend);
      });
      return [index, allowed(levels, travelMm, least)] as const;
    }),
  );
  const order = Array.from({ length: rounds }, (_, k) => k).flatMap((k) =>
    round.filter((index) => k >= rounds - (behindMm.get(index)?.length ?? 0)),
  );
  return { order, behindMm };
}

/** Levels with a quarter turn between them at least, but for the last; the nearest such ones. */
function allowed(levels: readonly number[], travelMm: number, least: number): number[] {
  const out: number[] = [];
  for (const [k, level] of levels.entries()) {
    const isLast = k === levels.length - 1;
    const after = levels.length - 2 - k;
    // So much must be left for those in between; the last may be as short as it likes.
    const most = travelMm - Math.max(0, after) * least - 1e-6;
    out.push(isLast ? travelMm : Math.min(most, Math.max((out[k - 1] ?? 0) + least, level)));
  }
  return out;
}

/** The states after each move. */
function statesOf({ screws, rest, way }: SearchInput, { order, behindMm }: Course): number[][] {
  const seen = new Map<number, number>();
  const state = rest.map((mm, index) =>
    behindMm.has(index) ? (way === "tighten" ? 0 : (screws[index]?.travelMm ?? 0)) : mm,
  );
  return order.map((index) => {
    const k = seen.get(index) ?? 0;
    seen.set(index, k + 1);
    state[index] = drivenMm(screws, index, nth(behindMm.get(index) ?? [], k), way);
    return [...state];
  });
}

function softPeak(input: SearchInput, course: Course): number {
  const loads = statesOf(input, course).map((state) => input.cornerKPa(state));
  const peak = Math.max(...loads);
  if (!(peak > 0) || peak === Number.POSITIVE_INFINITY) return peak;
  return peak * loads.reduce((sum, load) => sum + (load / peak) ** SOFTENED, 0) ** (1 / SOFTENED);
}

const peakOf = (input: SearchInput, course: Course): number =>
  Math.max(...statesOf(input, course).map((state) => input.cornerKPa(state)));

/** Moves every level up and down by ever smaller steps as long as that helps. */
function refine(input: SearchInput, start: Course, until: number): Course {
  let best = start;
  let soft = softPeak(input, start);
  for (let step = 0.12; step > 0.008 && input.asked() < until; ) {
    const loads = statesOf(input, best).map((state) => input.cornerKPa(state));
    if (Math.max(...loads) <= AT_END * (loads.at(-1) ?? 0)) return best;
    let helped = false;
    for (const [index, levels] of best.behindMm)
      for (let k = 0; k + 1 < levels.length; k++)
        for (const sign of [1, -1]) {
          const tried = withLevel(input, best, index, k, sign * step);
          if (!tried || input.asked() >= until) continue;
          const found = softPeak(input, tried);
          if (found < soft * (1 - 1e-6)) {
            [best, soft, helped] = [tried, found, true];
            break;
          }
        }
    if (!helped) step /= 2;
  }
  return best;
}

function withLevel(
  { screws }: SearchInput,
  course: Course,
  index: number,
  k: number,
  share: number,
): Course | undefined {
  const { travelMm, pitchMm } = screws[index] as Turned;
  const least = LEAST_TURN * pitchMm;
  const levels = course.behindMm.get(index) ?? [];
  const level = (levels[k] ?? 0) + share * travelMm;
  const before = levels[k - 1] ?? 0;
  const next = levels[k + 1] ?? travelMm;
  const isNextLast = k + 1 === levels.length - 1;
  if (level < before + least - 1e-9 || level > next - (isNextLast ? 1e-6 : least) + 1e-9) return undefined;
  return { order: course.order, behindMm: new Map(course.behindMm).set(index, levels.with(k, level)) };
}

/** Two moves of different screws that follow each other change places where that helps. */
function swapped(input: SearchInput, start: Course, until: number): Course {
  let best = start;
  let soft = softPeak(input, best);
  for (let k = 0; k + 1 < best.order.length && input.asked() < until; k++) {
    const [one, next] = [nth(best.order, k), nth(best.order, k + 1)];
    if (one === next) continue;
    const tried = { ...best, order: best.order.with(k, next).with(k + 1, one) };
    const found = softPeak(input, tried);
    if (found < soft * (1 - 1e-4)) [best, soft] = [tried, found];
  }
  return best === start ? best : refine(input, best, until);
}

/** The fewest moves with which the peak stays within a hundredth of the best: over the grid, then by leaving out single ones. */
function shortened(input: SearchInput, start: Course, overGrid: readonly Course[]): Course {
  let best = start;
  let most = AS_GOOD * peakOf(input, start);
  const until = input.asked() + Math.min(1, FEW / input.turned.length) * TO_SHORTEN;
  const tryShorter = (course: Course): boolean => {
    const refined = peakOf(input, course) <= most ? course : refine(input, course, until);
    const now = peakOf(input, refined);
    most = Math.min(most, AS_GOOD * now);
    if (now > most) return false;
    best = refined;
    return true;
  };
  for (const course of overGrid)
    if (course.order.length < best.order.length && peakOf(input, course) < NEAR * most && tryShorter(course)) break;
  while (input.asked() < until) {
    const shorter = [...best.behindMm]
      .flatMap(([index, levels]) => Array.from({ length: levels.length - 1 }, (_, k) => without(best, index, k)))
      .map((course) => ({ course, peak: peakOf(input, course) }))
      .sort((a, b) => a.peak - b.peak)
      .slice(0, 2);
    if (!shorter.some(({ course }) => tryShorter(course))) break;
  }
  return best;
}

/** One move of a screw less: what it turned is turned by its next one. */
function without({ order, behindMm }: Course, index: number, k: number): Course {
  let seen = 0;
  const at = order.findIndex((one) => one === index && seen++ === k);
  const levels = behindMm.get(index) ?? [];
  return {
    order: order.filter((_, place) => place !== at),
    behindMm: new Map(behindMm).set(index, levels.toSpliced(k, 1)),
  };
}

function movesOf(screws: readonly Turned[], { order, behindMm }: Course, way: SearchInput["way"]): Move[] {
  const seen = new Map<number, number>();
  return order.map((screw) => {
    const k = seen.get(screw) ?? 0;
    seen.set(screw, k + 1);
    return { screw, toMm: drivenMm(screws, screw, nth(behindMm.get(screw) ?? [], k), way) };
  });
}
