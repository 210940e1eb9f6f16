import { temperatureOf } from "../soak/index.ts";
import type { RunFacts } from "./facts.ts";

/** The cooler face lies about so far under the edge reading: die, paste and plate take the rest (common practice). */
const FACE_BELOW_EDGE_K = 10;
/** Where no run tells (common practice). */
const USUAL_FACE_C = 55;

/**
 * How warm the cooler's face is under load, °C, from the first run that knows its edge, and where the figure comes from.
 * @example
 * ```ts
 * coolerFace([]).valueC // => 55
 * ```
 */
export function coolerFace(runs: ReadonlyArray<Pick<RunFacts, "analysis" | "name">>): {
  valueC: number;
  source: string;
} {
  for (const { analysis, name } of runs) {
    const edge = temperatureOf(analysis, "edge");
    const settledC = edge?.meanC ?? edge?.finalC ?? null;
    if (settledC !== null)
      return {
        valueC: Math.round(settledC - FACE_BELOW_EDGE_K),
        source: `edge of ${name ? `the run “${name}”` : "a run without a name"} (${settledC.toFixed(0)} °C) less ${FACE_BELOW_EDGE_K} K`,
      };
  }
  return { valueC: USUAL_FACE_C, source: "no run with an edge reading: a usual figure" };
}
