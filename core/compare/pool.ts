import { COMPARED_ROLES, LEVEL_ROLES } from "../runfile/index.ts";
import { type Analysis, type LevelFigures, type Settled, settledOf, type TemperatureFigures } from "../soak/index.ts";

/**
 * Several runs of one state under like conditions as one: means of their rises, gaps and levels, with what is left of each reading's own
 * doubt. The room's error is shared by all and stays.
 * @param all one or more, in the order they were made
 * @throws RangeError for none
 */
export function poolRuns(all: readonly Analysis[]): Analysis {
  const newest = all.at(-1);
  if (!newest) throw new RangeError("poolRuns: there is no run");
  const rooms = all.flatMap(({ ambient }) => (ambient ? [ambient] : []));
  if (all.length === 1 || rooms.length < all.length) return newest;
  const room = { valueC: meanOf(rooms.map((one) => one.valueC)), u95K: Math.max(...rooms.map((one) => one.u95K)) };
  const roles: Analysis["roles"] = { ...newest.roles };
  for (const role of COMPARED_ROLES) {
    const figures = all.flatMap((run) => {
      const one = run.roles[role];
      const settled = settledOf(one, run.ambient);
      return one && settled ? [{ one, settled }] : [];
    });
    const last = figures.at(-1)?.one;
    if (last && figures.length === all.length) roles[role] = pooled(figures, last, room);
  }
  for (const role of LEVEL_ROLES) {
    const levels = all.flatMap((run) => run.roles[role] ?? []);
    if (levels.length === all.length) roles[role] = pooledLevel(levels);
  }
  const gaps = all.flatMap(({ hotspotGapK }) => hotspotGapK ?? []);
  return {
    ...newest,
    ambient: {
      ...rooms[0],
      ...room,
      source: newest.ambient?.source ?? "option",
    },
    steady: { ...newest.steady, reached: all.every((run) => run.steady.reached) },
    roles,
    hotspotGapK:
      gaps.length === all.length
        ? { mean: meanOf(gaps.map((gap) => gap.mean)), u95: shared(gaps.map((gap) => gap.u95)) }
        : null,
    throttling: all.find((run) => run.throttling.detected)?.throttling ?? newest.throttling,
  };
}

const meanOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
/** Half-width of a mean of values with these half-widths. */
const shared = (u95s: readonly number[]): number => Math.hypot(...u95s) / u95s.length;

function pooled(
  figures: ReadonlyArray<{ one: TemperatureFigures; settled: Settled }>,
  last: TemperatureFigures,
  room: { valueC: number; u95K: number },
): TemperatureFigures {
  const isMeasured = figures.every(({ one }) => one.meanC !== null);
  const riseK = meanOf(figures.map(({ settled }) => settled.riseK));
  const u95K = shared(figures.map(({ settled }) => settled.u95K));
  return {
    ...last,
    meanC: isMeasured ? riseK + room.valueC : null,
    u95K: isMeasured ? u95K : null,
    riseK: isMeasured ? riseK : null,
    riseU95K: isMeasured ? Math.hypot(u95K, room.u95K) : null,
    maxC: Math.max(...figures.map(({ one }) => one.maxC ?? Number.NEGATIVE_INFINITY)),
    finalC: riseK + room.valueC,
    finalU95K: u95K,
  };
}

function pooledLevel(levels: readonly LevelFigures[]): LevelFigures {
  const known = levels.flatMap(({ mean, u95 }) => (mean === null ? [] : [{ mean, u95: u95 ?? 0 }]));
  if (known.length === 0) return { mean: null, u95: null };
  return { mean: meanOf(known.map((one) => one.mean)), u95: shared(known.map((one) => one.u95)) };
}

/** So many runs the workshop's figure of the scatter is worth beside what repeated ones show. */
const USUAL_WORTH = 4;

/**
 * Scatter of one run, one standard deviation, K: the workshop's figure drawn toward what repeated runs of one state show.
 * @param groups the lead sensor's rises of each group of repeated runs, K
 * @example
 * ```ts
 * scatterOf([[50], [42, 44]], 0.5).toFixed(2) // => "0.77"
 * ```
 */
export function scatterOf(groups: ReadonlyArray<readonly number[]>, usualK: number): number {
  let freedom = USUAL_WORTH;
  let square = USUAL_WORTH * usualK * usualK;
  for (const rises of groups) {
    const mean = meanOf(rises);
    freedom += Math.max(0, rises.length - 1);
    square += rises.reduce((sum, rise) => sum + (rise - mean) ** 2, 0);
  }
  return Math.sqrt(square / freedom);
}
