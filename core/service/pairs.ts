import {
  type Comparison,
  caseOf,
  compare,
  fitCooling,
  loadKey,
  pairRuns,
  poolRuns,
  type Setting,
  type SidePanel,
  scatterOf,
  type Tuning,
  tuningDifferences,
} from "../compare/index.ts";
import { type OutcomeInput, outcomeOf } from "../outcome/index.ts";
import { CARD_SENSORS } from "../runfile/index.ts";
import { levelOf, settledOf, temperatureOf } from "../soak/index.ts";
import type { PairFacts, RunFacts } from "./facts.ts";
import { gainsOf, type TypedGains } from "./gains.ts";
import { isKnown, leadSensor } from "./known.ts";

/** Where a run was made and under what, as a person says it. */
interface Around {
  loadName: string;
  sidePanel: SidePanel;
  /** Air at the card’s intake, °C; null where nobody measured. */
  inletC: number | null;
}

type Comparable = RunFacts & Tuning & TypedGains & Around;

const settingOf = ({ loadName, sidePanel, inletC }: Around): Setting => ({ loadName, case: caseOf(sidePanel), inletC });

/** What a comparison needs besides the runs. */
export interface PairContext extends Pick<OutcomeInput, "limits" | "complaint"> {
  /** The warmest room the card will work in, °C; null: that of the runs. */
  warmestRoomC: number | null;
  /** Scatter of one mounting and of one run, one standard deviation each, K. */
  scatterMountK: number;
  scatterRunK: number;
}

/** An after-run counts unless a person said why it does not. */
const counts = (run: Comparable): boolean => run.leftOut === "";

/**
 * Compares the last attempt that has a run which counts with the runs before the work.
 * @param all the service's runs, in the order they were added
 */
export function comparePairs(all: readonly Comparable[], context: PairContext): PairFacts[] {
  const last = all.reduce((most, run) => (run.side === "after" && counts(run) ? Math.max(most, run.attempt) : most), 0);
  return compareAttempt(all, last, context);
}

/** What one attempt came to; empty where it has no run that counts and finds a partner. */
export function compareAttempt(all: readonly Comparable[], attempt: number, context: PairContext): PairFacts[] {
  const { warmestRoomC, scatterMountK, limits, complaint } = context;
  const usual = context.scatterRunK;
  const before = groupsOf(
    all.filter((run) => run.side === "before" && counts(run)),
    usual,
  );
  const after = groupsOf(
    all.filter((run) => run.side === "after" && run.attempt === attempt && counts(run)),
    usual,
  );
  const scatterRunK = scatterOf([...before, ...after].map(leadRises), context.scatterRunK);
  const ofAfter = after.flatMap((group) => group.runs);
  const cooling = fitCooling(
    (ofAfter.length > 1 ? ofAfter : before.flatMap((group) => group.runs)).flatMap(({ analysis }) => {
      const settled = settledOf(temperatureOf(analysis, "edge"), analysis.ambient);
      const fanRpm = levelOf(analysis, "fanRpm")?.mean;
      const powerW = levelOf(analysis, "power")?.mean;
      if (!settled || !fanRpm || !powerW) return [];
      const sd = Math.hypot(scatterRunK, settled.u95K / 1.96, DISPLAY_SD_K) / powerW;
      return [{ fanRpm, thetaKPerW: settled.riseK / powerW, sd }];
    }),
  );
  return pairRuns(sided(before), sided(after)).map((pair): PairFacts => {
    const was = pair.before.newest;
    const is = pair.after.newest;
    const sides = {
      before: { ...was, analysis: poolRuns(pair.before.runs.map((run) => run.analysis)) },
      after: { ...is, analysis: poolRuns(pair.after.runs.map((run) => run.analysis)) },
    };
    const comparison = compare(sides.before.analysis, sides.after.analysis, {
      scatterMountK,
      scatterRunK,
      cooling,
      settings: [pair.before.setting, pair.after.setting],
      runs: [pair.before.runs.length, pair.after.runs.length],
    });
    // Limits are held in the air that rises count from: in a case that is warmer than the room.
    const airs = [warmestRoomC, ...[pair.before, pair.after].map((side) => airOf(side, comparison.air))];
    const [wasShort, isShort] = [was, is].map((run) => !isKnown(run));
    const minutes = [was, is].map((run) => (isKnown(run) ? 0 : (run.analysis.steady.minutesNeeded ?? 0)));
    const outcome = outcomeOf({
      comparison,
      limits,
      complaint,
      warmestRoomC: Math.max(...airs.filter((airC) => airC !== null)),
      fanSpeedRatio: fanSpeedRatio(was, is),
      minutesNeeded: Math.max(...minutes) || null,
      predicted: new Set(CARD_SENSORS.filter((role) => isPredicted(was, role) || isPredicted(is, role))),
      short: wasShort && isShort ? "both" : wasShort ? "before" : isShort ? "after" : undefined,
    });
    const tuning = tuningDifferences(was, is);
    return {
      beforeId: was.id,
      afterId: is.id,
      beforeIds: pair.before.runs.map((run) => run.id),
      afterIds: pair.after.runs.map((run) => run.id),
      tuning,
      gains: gainsOf(sides.before, sides.after, tuning),
      comparison,
      outcome,
    };
  });
}

/** Where a sensor would have settled is only foretold: its run was cut short. Of the die it may be known all the same. */
function isPredicted(run: Comparable, role: (typeof CARD_SENSORS)[number]): boolean {
  const figures = temperatureOf(run.analysis, role);
  if (!figures || figures.meanC !== null) return false;
  return !(isKnown(run) && (role === "edge" || role === "hotspot"));
}

/** Repeated runs of one state under like conditions. */
interface Group extends Pick<Comparable, "fanMode" | "fanPct"> {
  /** The air at the intake is the mean of them. */
  setting: Setting;
  runs: Comparable[];
  newest: Comparable;
}

/** Settings of a fan that differ by less are the same, %. */
const SAME_SETTING_PCT = 1;
/** Runs whose power differs by more are not one and the same again. */
const SAME_POWER = 0.04;

const airOf = ({ newest, setting }: Group, air: Comparison["air"]): number | null =>
  (air === "intake" ? setting.inletC : newest.analysis.ambient?.valueC) ?? null;

/** Pairs are made by what was said of a run as well. */
const sided = (groups: readonly Group[]) => groups.map((group) => ({ ...group, ...group.setting }));

/** Runs that are the same again: same fan setting, load, card settings, power and what came of it. Those without room air stay alone. */
function groupsOf(runs: readonly Comparable[], scatterRunK: number): Group[] {
  const groups: Group[] = [];
  for (const run of runs) {
    const own = groups.find(({ newest }) => isAgain(newest, run) && agrees(newest, run, scatterRunK));
    if (own) {
      own.runs.push(run);
      own.newest = run;
      const inlets = own.runs.flatMap(({ inletC }) => inletC ?? []);
      const inletC = inlets.length < own.runs.length ? null : inlets.reduce((sum, one) => sum + one, 0) / inlets.length;
      own.setting = { ...settingOf(run), inletC };
    } else {
      const { fanMode, fanPct } = run;
      groups.push({ fanMode, fanPct, setting: settingOf(run), runs: [run], newest: run });
    }
  }
  return groups;
}

type SetAs = Pick<Comparable, "fanMode" | "fanPct" | "loadName" | "sidePanel">;

/** Whether two runs were set alike: fan, load and case. */
export function isSameSetting(one: SetAs, other: SetAs): boolean {
  if (one.fanMode !== other.fanMode || one.sidePanel !== other.sidePanel) return false;
  if (loadKey(one.loadName) !== loadKey(other.loadName)) return false;
  return one.fanMode !== "fixed" || Math.abs((one.fanPct ?? -1) - (other.fanPct ?? -1)) <= SAME_SETTING_PCT;
}

function isAgain(one: Comparable, other: Comparable): boolean {
  if (one.fanMode === "unknown" || !isSameSetting(one, other)) return false;
  if (!one.analysis.ambient || !other.analysis.ambient || tuningDifferences(one, other).length > 0) return false;
  // The very same log twice would make the answer look surer than it is.
  if (one.analysis.fingerprint !== undefined && one.analysis.fingerprint === other.analysis.fingerprint) return false;
  const [was, is] = [one, other].map(({ analysis }) => levelOf(analysis, "power")?.mean ?? null);
  return !was || !is || Math.abs(is / was - 1) <= SAME_POWER;
}

/** Repeated runs of one state lie no further apart than this, standard deviations of the difference of two. */
const AGREE_SD = 4;

/** Whether the die came to the same, per watt: a run of something else must not be taken into a mean. */
function agrees(one: Comparable, other: Comparable, scatterRunK: number): boolean {
  const [was, is] = [one, other].map((run) => {
    const settled = settledOf(leadSensor(run), run.analysis.ambient);
    return settled ? { ...settled, powerW: levelOf(run.analysis, "power")?.mean ?? null } : null;
  });
  if (!was || !is) return true;
  const atPower = was.powerW && is.powerW ? is.riseK * (was.powerW / is.powerW) : is.riseK;
  return Math.abs(atPower - was.riseK) <= AGREE_SD * Math.hypot(Math.SQRT2 * scatterRunK, was.u95K / 2, is.u95K / 2);
}

/** Rises of the die of each run of a group, K. */
const leadRises = ({ runs }: Group): number[] =>
  runs.flatMap((run) => {
    const settled = settledOf(leadSensor(run), run.analysis.ambient);
    return settled ? [settled.riseK] : [];
  });

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

const width = (pair: Pick<PairFacts, "comparison">): number => leadChange(pair)?.u95K ?? Number.POSITIVE_INFINITY;

/** The pair a service is judged by: the comparable one that knows most; undefined when there is none. */
export function leadingPair<P extends Pick<PairFacts, "comparison" | "outcome">>(pairs: readonly P[]): P | undefined {
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
