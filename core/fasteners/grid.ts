import { nth } from "../numeric/index.ts";
import type { Course, SearchInput } from "./course.ts";
import { drivenMm, LEAST_TURN, SOFTENED } from "./course.ts";

/** Shares of its travel that a screw is driven in; near the end, where loads are highest, they stand closer. */
const SHARES: ReadonlyArray<readonly number[]> = [
  [0, 0.55, 1],
  [0, 0.45, 0.8, 1],
  [0, 0.35, 0.65, 0.87, 1],
  [0, 0.3, 0.55, 0.75, 0.9, 1],
  [0, 0.25, 0.45, 0.62, 0.78, 0.9, 1],
  [0, 0.2, 0.38, 0.55, 0.7, 0.83, 0.93, 1],
  [0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875, 1],
];
/** Of four screws; with more of them on the card each state takes longer. */
const MOST_STATES = 2500;

/**
 * The gentlest ways over a grid of states, one for each number of moves: each state is reached from all before it (dynamic programming).
 * Of few screws all ways are looked at so; of many there are too many states.
 */
export function gridCourses(input: SearchInput): Course[] {
  const { screws, turned, rest, way, mostMoves, cornerKPa } = input;
  const shares = SHARES.findLast((one) => one.length ** turned.length <= MOST_STATES);
  if (!shares) return [];
  const levels = shares.length;
  const count = levels ** turned.length;
  const digit = (state: number, k: number): number => Math.floor(state / levels ** k) % levels;
  /** Travel that lies behind a screw at its d-th level. */
  const behindMm = turned.map((index) => {
    const travelMm = screws[index]?.travelMm ?? 0;
    return shares.map((_, d) => travelMm * (way === "tighten" ? nth(shares, d) : 1 - nth(shares, levels - 1 - d)));
  });
  const leastMm = turned.map((index) => LEAST_TURN * (screws[index]?.pitchMm ?? 0));
  const load = new Float64Array(count);
  for (let step = 0; step < count; step++) {
    const at = [...rest];
    let state = 0;
    turned.forEach((index, k) => {
      // To and fro, so that each state lies beside the one before and is found from it.
      const isBack = Math.floor(step / levels ** (k + 1)) % 2 === 1;
      const d = isBack ? levels - 1 - digit(step, k) : digit(step, k);
      state += d * levels ** k;
      at[index] = drivenMm(screws, index, nth(behindMm[k] ?? [], d), way);
    });
    if (state > 0) load[state] = cornerKPa(at);
  }
  const scale = load.reduce((most, one) => Math.max(most, one), 0) || 1;
  const cost = load.map((one) => (one / scale) ** SOFTENED);
  const came: Int32Array[] = [];
  let reached = new Float64Array(count).fill(Number.POSITIVE_INFINITY);
  reached[0] = 0;
  const courses: Course[] = [];
  for (let moves = 1; moves <= mostMoves; moves++) {
    const next = new Float64Array(count).fill(Number.POSITIVE_INFINITY);
    const from = new Int32Array(count).fill(-1);
    for (let state = 0; state < count - 1; state++) {
      const so = reached[state] as number;
      if (so === Number.POSITIVE_INFINITY) continue;
      turned.forEach((_, k) => {
        const d = digit(state, k);
        for (let to = d + 1; to < levels; to++) {
          const byMm = nth(behindMm[k] ?? [], to) - nth(behindMm[k] ?? [], d);
          if (to < levels - 1 && byMm < nth(leastMm, k)) continue;
          const there = state + (to - d) * levels ** k;
          const total = so + (cost[there] as number);
          if (total < (next[there] as number)) {
            next[there] = total;
            from[there] = state;
          }
        }
      });
    }
    came.push(from);
    reached = next;
    if ((reached[count - 1] as number) < Number.POSITIVE_INFINITY) courses.push(wayBack(count - 1, moves));
  }
  return courses;

  function wayBack(end: number, moves: number): Course {
    const order: number[] = [];
    const levelsOf = new Map<number, number[]>(turned.map((index) => [index, []]));
    let state = end;
    for (let move = moves; move > 0; move--) {
      const before = nth(came[move - 1] ?? [], state);
      const k = turned.findIndex((_, one) => digit(before, one) !== digit(state, one));
      const index = nth(turned, k);
      order.unshift(index);
      levelsOf.get(index)?.unshift(nth(behindMm[k] ?? [], digit(state, k)));
      state = before;
    }
    return { order, behindMm: levelsOf };
  }
}
