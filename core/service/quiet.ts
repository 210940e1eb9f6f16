import { type Cooling, fitCooling } from "../compare/index.ts";
import { type QuietStep, quietSteps } from "../quiet/index.ts";
import { CARD_SENSORS } from "../runfile/index.ts";
import { levelOf, temperatureOf } from "../soak/index.ts";
import type { RunFacts } from "./facts.ts";
import { leadRun } from "./known.ts";

export type FanLaw = Cooling["source"];

type QuietRun = Pick<RunFacts, "side" | "fanMode" | "fanPct" | "attempt" | "leftOut" | "analysis">;

/** Memory and VRM follow the air less than the die (common practice, no source). */
const SHARE_OF_OTHERS = 0.8;
const LEAST_PCT = 25;
const U95 = 1.96;

/**
 * The quietest fan steps of a card after its work, by its own runs; undefined where no run after the work tells fan, room and rises.
 * @param limits of the board, °C
 */
export function quietOf(
  runs: readonly QuietRun[],
  limits: Readonly<Record<`${(typeof CARD_SENSORS)[number]}C`, number | null>>,
  { roomC, marginK }: { roomC: number; marginK: number },
): { steps: QuietStep[]; law: FanLaw } | undefined {
  const attempt = Math.max(0, ...runs.filter(({ side }) => side === "after").map((run) => run.attempt));
  const after = runs.filter((run) => run.side === "after" && run.attempt === attempt && run.leftOut === "");
  const lead = leadRun(after, "after");
  const fanRpm = lead && levelOf(lead.analysis, "fanRpm")?.mean;
  const fanPct = lead && (lead.fanPct ?? levelOf(lead.analysis, "fanPct")?.mean);
  if (!lead?.analysis.ambient || !fanRpm || !fanPct) return undefined;
  const cooling = fitCooling(after.flatMap(pointOf));
  const sensors = CARD_SENSORS.flatMap((role) => {
    const found = temperatureOf(lead.analysis, role);
    const limitC = limits[`${role}C`];
    if (!found || found.riseK === null || found.riseU95K === null || limitC === null) return [];
    const share = role === "edge" || role === "hotspot" ? cooling.share : cooling.share * SHARE_OF_OTHERS;
    return [{ role, riseK: found.riseK, sd: found.riseU95K / U95, limitC, share }];
  });
  if (sensors.length === 0) return undefined;
  const steps = quietSteps({ sensors, cooling, fanPct, fanRpm, roomC, marginK, leastPct: LEAST_PCT });
  return { steps, law: cooling.source };
}

function pointOf({ analysis }: QuietRun): Array<{ fanRpm: number; thetaKPerW: number; sd: number }> {
  const edge = temperatureOf(analysis, "edge");
  const fanRpm = levelOf(analysis, "fanRpm")?.mean;
  const powerW = levelOf(analysis, "power")?.mean;
  if (!edge || edge.riseK === null || edge.riseU95K === null || !fanRpm || !powerW) return [];
  return [{ fanRpm, thetaKPerW: edge.riseK / powerW, sd: edge.riseU95K / U95 / powerW }];
}
