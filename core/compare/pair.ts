import { inletsOf, isOtherCase, isOtherLoad, type Setting } from "./setting.ts";

/** How the fan was driven in a run, and in what; what decides which runs may stand side by side. */
export interface FanCondition extends Setting {
  fanMode: "fixed" | "automatic" | "unknown";
  /** Duty in % of a fixed fan. */
  fanPct: number | null;
}

/**
 * Pairs the runs of two sides by their conditions: fixed with fixed at the nearest duty, automatic with automatic, and the
 * same load before another one; where none goes together like that, a fixed one with an automatic one. Another case without the air at both
 * intakes can't be made up for: such runs stand side by side only where nothing else does. Each run is used once.
 * @example
 * ```ts
 * const fan = (fanMode) => ({ fanMode, fanPct: null, loadName: "loop" });
 * pairRuns([fan("automatic"), fan("fixed")], [fan("fixed")])[0].before.fanMode // => "fixed"
 * ```
 */
export function pairRuns<T extends FanCondition>(
  before: readonly T[],
  after: readonly T[],
): Array<{ before: T; after: T }> {
  const open: Array<{ before: T; after: T; distance: number }> = [];
  const odd: typeof open = [];
  const apart: typeof open = [];
  for (const left of before)
    for (const right of after) {
      const unknown = left.fanMode === "unknown" || right.fanMode === "unknown";
      const fan = left.fanPct !== null && right.fanPct !== null ? Math.abs(left.fanPct - right.fanPct) : 5;
      const load = isOtherLoad(left, right) ? 30 : 0;
      const isOdd = left.fanMode !== right.fanMode && !unknown;
      const isApart = isOtherCase(left, right) && !inletsOf(left, right);
      (isApart ? apart : isOdd ? odd : open).push({
        before: left,
        after: right,
        distance: fan + load + (unknown ? 20 : 0),
      });
    }
  // Any answer is better than none: the speeds that were logged make up for how the fan was driven.
  if (open.length === 0) open.push(...(odd.length > 0 ? odd : apart));
  open.sort((a, b) => a.distance - b.distance);
  const pairs: Array<{ before: T; after: T }> = [];
  const used = new Set<T>();
  for (const { before: left, after: right } of open) {
    if (used.has(left) || used.has(right)) continue;
    used.add(left).add(right);
    pairs.push({ before: left, after: right });
  }
  return pairs.sort((a, b) => before.indexOf(a.before) - before.indexOf(b.before));
}
