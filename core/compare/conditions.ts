import type { LevelRole } from "../runfile/index.ts";
import type { Analysis } from "../soak/index.ts";
import { inletsOf, isOtherCase, isOtherLoad, type Setting } from "./setting.ts";

/** What a run was made under, read from its figures; null where the log does not say. */
export interface Conditions {
  powerW: number | null;
  powerU95W: number;
  fanRpm: number | null;
  fanPct: number | null;
  /** The air that rises count from: at the intake where it was measured in both runs, else the room’s. */
  ambientC: number | null;
  loadPct: number | null;
  coreClockMHz: number | null;
  durationS: number;
  intervalS: number;
}

export type What = "fan" | "power" | "ambient" | "load" | "duration" | "clocks" | "sampling";

interface Handled {
  handled: "same" | "corrected" | "not-correctable";
}

interface FigureDifference extends Handled {
  what: What;
  before: number | null;
  after: number | null;
}

/** A figure of both runs, or what a person said of them. */
export type Difference = FigureDifference | (Handled & { what: "case" | "loadName"; before: string; after: string });

/** What both runs have of a figure; undefined where that is not told. */
export const differenceOf = (all: readonly Difference[], what: What): FigureDifference | undefined =>
  all.find((one): one is FigureDifference => one.what === what);

const level = (run: Analysis, role: LevelRole): { mean: number | null; u95: number } => {
  const found = run.roles[role];
  return found ? { mean: found.mean, u95: found.u95 ?? 0 } : { mean: null, u95: 0 };
};

export function conditionsOf(run: Analysis, inletC?: number): Conditions {
  const power = level(run, "power");
  const warm = run.phases.filter((phase) => phase.kind === "warmup" || phase.kind === "steady");
  return {
    powerW: power.mean,
    powerU95W: power.u95,
    fanRpm: level(run, "fanRpm").mean,
    fanPct: level(run, "fanPct").mean,
    ambientC: inletC ?? run.ambient?.valueC ?? null,
    loadPct: level(run, "load").mean,
    coreClockMHz: level(run, "coreClock").mean,
    durationS: warm.reduce((sum, phase) => sum + phase.toS - phase.fromS, 0),
    intervalS: run.intervalS,
  };
}

/** The speeds to correct with: rpm where both runs have it, else duty. */
export function fanPair(
  before: Conditions,
  after: Conditions,
): { before: number; after: number; unit: "rpm" | "%" } | undefined {
  if (before.fanRpm !== null && after.fanRpm !== null)
    return { before: before.fanRpm, after: after.fanRpm, unit: "rpm" };
  if (before.fanPct !== null && after.fanPct !== null) return { before: before.fanPct, after: after.fanPct, unit: "%" };
  return undefined;
}

/** What differed between the runs, and whether the comparison can make up for it. */
export function differencesBetween(before: Conditions, after: Conditions, settled: boolean): Difference[] {
  const fan = fanPair(before, after);
  const list: Difference[] = [
    fan
      ? judge("fan", fan.before, fan.after, 0.02 * Math.max(fan.before, fan.after), fan.before > 0 === fan.after > 0)
      : {
          what: "fan",
          before: before.fanRpm ?? before.fanPct,
          after: after.fanRpm ?? after.fanPct,
          handled: "not-correctable",
        },
    judge("power", before.powerW, after.powerW, 0.01 * (before.powerW ?? 0), true),
    judge("ambient", before.ambientC, after.ambientC, 0.3, true),
  ];
  if (before.loadPct !== null || after.loadPct !== null)
    list.push(judge("load", before.loadPct, after.loadPct, 3, before.powerW !== null && after.powerW !== null));
  // Of what was typed from paper nobody may have said how long it was.
  if (before.durationS > 0 && after.durationS > 0)
    list.push(judge("duration", before.durationS, after.durationS, 0.1 * before.durationS, settled));
  if (before.coreClockMHz !== null || after.coreClockMHz !== null)
    list.push(
      judge(
        "clocks",
        before.coreClockMHz,
        after.coreClockMHz,
        0.01 * (before.coreClockMHz ?? 0),
        before.powerW !== null && after.powerW !== null,
      ),
    );
  if (before.intervalS > 0 && after.intervalS > 0)
    list.push(judge("sampling", before.intervalS, after.intervalS, 0.05 * before.intervalS, true));
  return list;
}

/** What was said of case and load where it differs. */
export function settingDifferences(before: Setting, after: Setting): Difference[] {
  const list: Difference[] = [];
  if (isOtherCase(before, after) && before.case && after.case)
    list.push({
      what: "case",
      before: before.case,
      after: after.case,
      handled: inletsOf(before, after) ? "corrected" : "not-correctable",
    });
  if (isOtherLoad(before, after))
    list.push({
      what: "loadName",
      before: before.loadName?.trim() ?? "",
      after: after.loadName?.trim() ?? "",
      handled: "corrected",
    });
  return list;
}

function judge(
  what: What,
  before: number | null,
  after: number | null,
  tolerance: number,
  correctable: boolean,
): Difference {
  if (before === null || after === null) return { what, before, after, handled: "not-correctable" };
  const same = Math.abs(after - before) <= tolerance;
  return { what, before, after, handled: same ? "same" : correctable ? "corrected" : "not-correctable" };
}
