import { levelOf, temperatureOf } from "../soak/index.ts";
import type { RunFacts } from "./facts.ts";
import { leadRun } from "./known.ts";

type CoolerRun = Pick<RunFacts, "side" | "fanMode" | "attempt" | "leftOut" | "analysis" | "name">;

/** What a card does with the cooler it came with; rises over room air. */
export interface CoolerNow {
  runName: string;
  powerW: number | null;
  fanRpm: number | null;
  dba: number | null;
  edgeK: number | null;
  edgeU95K: number | null;
  memoryK: number | null;
  vrmK: number | null;
}

/**
 * As its leading run before the work tells it; null without one.
 * @param soundDba taken by hand before the work, for a run that did not log how loud it was
 */
export function coolerToday(runs: readonly CoolerRun[], soundDba: number | null = null): CoolerNow | null {
  const lead = leadRun(
    runs.filter(({ side, leftOut }) => side === "before" && leftOut === ""),
    "before",
  );
  if (!lead) return null;
  const { analysis } = lead;
  const edge = temperatureOf(analysis, "edge");
  return {
    runName: lead.name,
    powerW: levelOf(analysis, "power")?.mean ?? null,
    fanRpm: levelOf(analysis, "fanRpm")?.mean ?? null,
    dba: levelOf(analysis, "sound")?.mean ?? soundDba,
    edgeK: edge?.riseK ?? null,
    edgeU95K: edge?.riseU95K ?? null,
    memoryK: temperatureOf(analysis, "memory")?.riseK ?? null,
    vrmK: temperatureOf(analysis, "vrm")?.riseK ?? null,
  };
}

/** Die over room air per watt at a fan speed, as runs after the work showed it. */
export interface CoolerPoint {
  fanRpm: number;
  kPerW: number;
  dba: number | null;
  /** So many runs say so. */
  runs: number;
}

/** Fans that turn within this share of each other turn alike. */
const ALIKE = 1.03;

/** What a cooler was seen to do, the slowest fan first: runs at one fan speed are one point. */
export function coolerSeen(runs: readonly CoolerRun[]): CoolerPoint[] {
  const seen = runs.flatMap(({ side, leftOut, analysis }) => {
    const riseK = temperatureOf(analysis, "edge")?.riseK;
    const powerW = levelOf(analysis, "power")?.mean;
    const fanRpm = levelOf(analysis, "fanRpm")?.mean;
    if (side !== "after" || leftOut !== "" || !riseK || !powerW || !fanRpm) return [];
    return [{ fanRpm, kPerW: riseK / powerW, dba: levelOf(analysis, "sound")?.mean ?? null }];
  });
  const alike: Array<typeof seen> = [];
  for (const one of seen.toSorted((a, b) => a.fanRpm - b.fanRpm)) {
    const last = alike.at(-1);
    if (last && one.fanRpm <= ALIKE * (last[0]?.fanRpm ?? 0)) last.push(one);
    else alike.push([one]);
  }
  return alike.map((some) => ({
    fanRpm: meanOf(some.map(({ fanRpm }) => fanRpm)) ?? 0,
    kPerW: meanOf(some.map(({ kPerW }) => kPerW)) ?? 0,
    dba: meanOf(some.flatMap(({ dba }) => (dba === null ? [] : [dba]))),
    runs: some.length,
  }));
}

const meanOf = (values: readonly number[]): number | null =>
  values.length === 0 ? null : values.reduce((sum, value) => sum + value, 0) / values.length;
