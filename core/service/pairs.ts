import { compare, fitCooling, pairRuns } from "../compare/index.ts";
import { type OutcomeInput, outcomeOf } from "../outcome/index.ts";
import { levelOf, temperatureOf } from "../soak/index.ts";
import type { PairFacts, RunFacts } from "./facts.ts";

type Comparable = RunFacts & Parameters<typeof pairRuns>[0][number];

/**
 * Pairs a service's runs by their conditions and compares each pair, with the fan law learnt from the card's own runs.
 * @param all the service's runs, in the order they were added
 * @param about what the card may reach, the warmest room it will work in (null: that of the runs), what its owner complained of
 * @param scatter of one mounting and of one run, one standard deviation each, K
 */
export function comparePairs(
  all: readonly Comparable[],
  scatter: { scatterMountK: number; scatterRunK: number },
  { warmestRoomC, ...about }: Pick<OutcomeInput, "limits" | "complaint"> & { warmestRoomC: number | null },
): PairFacts[] {
  const before = all.filter((run) => run.side === "before");
  const after = all.filter((run) => run.side === "after");
  const cooling = fitCooling(
    (after.length > 1 ? after : before).flatMap(({ analysis }) => {
      const edge = temperatureOf(analysis, "edge");
      const fanRpm = levelOf(analysis, "fanRpm")?.mean;
      const powerW = levelOf(analysis, "power")?.mean;
      if (!edge?.thetaKPerW || edge.u95K === null || !fanRpm || !powerW) return [];
      const sd = Math.hypot(scatter.scatterRunK, edge.u95K / 1.96, DISPLAY_SD_K) / powerW;
      return [{ fanRpm, thetaKPerW: edge.thetaKPerW, sd }];
    }),
  );
  return pairRuns(before, after).map((pair) => {
    const comparison = compare(pair.before.analysis, pair.after.analysis, { ...scatter, cooling });
    const rooms = [warmestRoomC, ...[pair.before, pair.after].map(({ analysis }) => analysis.ambient?.valueC ?? null)];
    const outcome = outcomeOf({
      comparison,
      ...about,
      warmestRoomC: Math.max(...rooms.filter((roomC) => roomC !== null)),
      fanSpeedRatio: fanSpeedRatio(pair.before, pair.after),
    });
    return { beforeId: pair.before.id, afterId: pair.after.id, comparison, outcome };
  });
}

/** Settings of a fan that differ by less are the same, %. */
const SAME_SETTING_PCT = 1;

/** Fan speed after over before where it was fixed at the same setting; undefined where it was not, or nobody can tell. */
function fanSpeedRatio(before: Comparable, after: Comparable): number | undefined {
  if (before.fanMode !== "fixed" || after.fanMode !== "fixed") return undefined;
  const [was, is] = [before, after].map(({ analysis, fanPct }) => ({
    pct: levelOf(analysis, "fanPct")?.mean ?? fanPct,
    rpm: levelOf(analysis, "fanRpm")?.mean,
  }));
  if (!was?.rpm || !is?.rpm || was.pct === null || is.pct === null) return undefined;
  return Math.abs(was.pct - is.pct) <= SAME_SETTING_PCT ? is.rpm / was.rpm : undefined;
}

/** What a reading keeps of its display step at the least, one standard deviation, K. */
const DISPLAY_SD_K = 0.2;

/** The sensor a comparison is led by at equal conditions: edge, hotspot, else the first there is. */
function leadChange({ comparison }: Pick<PairFacts, "comparison">) {
  const equal = comparison.atEqualConditions?.roles;
  return equal?.edge ?? equal?.hotspot ?? Object.values(equal ?? {})[0];
}

const width = (pair: PairFacts): number => leadChange(pair)?.u95K ?? Number.POSITIVE_INFINITY;

/** The pair a service is judged by: the comparable one that knows most; undefined when there is none. */
export function leadingPair<P extends PairFacts>(pairs: readonly P[]): P | undefined {
  return [...pairs].sort((a, b) => width(a) - width(b))[0];
}

/**
 * What the die gained at equal conditions by the leading pair, K, positive when cooler; undefined when no pair tells.
 * @example
 * ```ts
 * gainOf([]) // => undefined
 * ```
 */
export function gainOf(pairs: readonly PairFacts[]): number | undefined {
  const lead = leadingPair(pairs);
  const equal = lead?.comparison.atEqualConditions?.roles;
  const change = (equal?.edge ?? equal?.hotspot)?.changeK;
  return change === undefined ? undefined : -change;
}
