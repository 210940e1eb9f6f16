import { KNOWN_U95_K, temperatureOf } from "../soak/index.ts";
import type { RunFacts } from "./facts.ts";

/** The sensor that speaks for the die: edge, or hotspot where the log has no edge. */
export const leadSensor = (run: Pick<RunFacts, "analysis">) =>
  temperatureOf(run.analysis, "edge") ?? temperatureOf(run.analysis, "hotspot");

/** A run that was stopped early by the rule need not settle: where it would is known well enough. */
export function isKnown(run: Pick<RunFacts, "analysis">): boolean {
  const width = leadSensor(run)?.finalU95K;
  return run.analysis.steady.reached || (width !== null && width !== undefined && width <= KNOWN_U95_K);
}

/**
 * The run that a side is judged by: the first with a fixed fan, else the first.
 * @example
 * ```ts
 * const run = (fanMode) => ({ side: "before", fanMode });
 * leadRun([run("automatic"), run("fixed")], "before").fanMode // => "fixed"
 * ```
 */
export function leadRun<R extends Pick<RunFacts, "side" | "fanMode">>(
  runs: readonly R[],
  side: RunFacts["side"],
): R | undefined {
  const ofSide = runs.filter((run) => run.side === side);
  return ofSide.find((run) => run.fanMode === "fixed") ?? ofSide[0];
}
