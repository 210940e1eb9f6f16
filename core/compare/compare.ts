import { levelChangeDb } from "../fans/index.ts";
import { normalQuantile } from "../numeric/index.ts";
import { COMPARED_ROLES, type TemperatureRole } from "../runfile/index.ts";
import { type Analysis, settledOf, temperatureOf } from "../soak/index.ts";
import {
  type Conditions,
  conditionsOf,
  type Difference,
  differencesBetween,
  fanPair,
  settingDifferences,
} from "./conditions.ts";
import { type Cooling, fanFactor, speedForFactor, USUAL_COOLING } from "./cooling.ts";
import { type Doubt, doubtsOf } from "./doubts.ts";
import { inletsOf, isOtherCase, isOtherLoad, type Setting } from "./setting.ts";

/** Version of the computation, stored with derived figures. */
export const COMPARE_VERSION = 3;

export interface CompareOptions {
  /** Scatter from one mounting of the cooler to the next, one standard deviation at load, K. */
  scatterMountK?: number | undefined;
  /** Scatter from one run to the next, one standard deviation at load, K. */
  scatterRunK?: number | undefined;
  cooling?: Cooling | undefined;
  /** How many runs each side stands for, where repeated ones were pooled (`poolRuns`); 1 and 1 when left out. */
  runs?: readonly [before: number, after: number] | undefined;
  /** What was said of either run. */
  settings?: readonly [before: Setting, after: Setting] | undefined;
}

export type RoleVerdict = "cooler" | "no-real-change" | "hotter";
export type Verdict = "better" | "no-real-change" | "worse" | "not-comparable";

export interface RoleComparison {
  beforeRiseK: number;
  afterRiseK: number;
  changeK: number;
  u95K: number;
  verdict: RoleVerdict;
}

export interface EqualComparison {
  changeK: number;
  u95K: number;
  /** Null where another load heats this sensor differently at the same power. */
  verdict: RoleVerdict | null;
  /** What each correction added to the change as measured, K. */
  correctionK: { power: number; fan: number };
  /** Standard uncertainties the half-width is made of, K. */
  budget: { readings: number; scatter: number; power: number; fan: number; air: number };
}

export interface Claim {
  role: TemperatureRole;
  changeK: number;
  u95K: number;
}

export interface Comparison {
  comparable: boolean;
  /** What rises count from: the room’s air, or that at the card’s intake where both runs know it. */
  air: "room" | "intake";
  /** Why not, in words with the remedy; null when it is. */
  reason: string | null;
  differences: Difference[];
  roles: Partial<Record<TemperatureRole, RoleComparison>>;
  atEqualConditions: {
    powerW: number | null;
    fanRpm: number | null;
    ambientC: number;
    roles: Partial<Record<TemperatureRole, EqualComparison>>;
  } | null;
  hotspotGap: {
    beforeK: number;
    afterK: number;
    changeK: number;
    u95K: number;
    verdict: "smaller" | "no-real-change" | "larger";
  } | null;
  verdict: Verdict;
  /** The largest real worsening and improvement at equal conditions of any sensor; their joint rate of false claims is 5 %. */
  worst: Claim | null;
  best: Claim | null;
  /** The same samples stand on both sides: nothing was compared. */
  sameRun: boolean;
  /** Why it may be another card or another load; empty where nothing speaks for it. */
  doubts: Doubt[];
  /** The smallest change that such runs find nine times in ten, K. */
  detectableK: number | null;
  /** What the gain is worth as fan speed at the temperature of before. */
  worth: { fanRpm: number; changeRpm: number; soundDb: number; lowRpm: number | null; highRpm: number | null } | null;
  scatter: { mountK: number; runK: number };
  cooling: Cooling;
  version: number;
}

const Z95 = 1.959964;
/** Two looks (edge, hotspot) share a 5 % rate of false claims: Šidák, level 1 − √0.95. */
const Z_JOINT = 2.236;
const Z_POWER_90 = 1.2816;
/** Standard uncertainties of what is not known (common practice of the trade, no source). */
const UNKNOWN_FAN = 0.1;
const UNKNOWN_POWER = 0.06;
/** How far rise per watt itself is not constant: share of a power correction. */
const POWER_LAW_SD = 0.1;
/** Air's properties and the card's leakage change with the room: share of the rise per kelvin. */
const AIR_SD_PER_K = 0.0015;
/** Part of the mounting and run scatter that shows in hotspot minus edge. */
const GAP_SCATTER_SHARE = 0.4;

/** What heats itself: at equal power of the card another load gives it another share of it. */
const BY_LOAD: ReadonlySet<TemperatureRole> = new Set(["memory", "vrm"]);
const LOADED: readonly TemperatureRole[] = ["edge", "hotspot"];

interface RoleRise {
  riseK: number;
  /** Standard uncertainty of the reading alone, room air left out, K. */
  sd: number;
}

/**
 * Says whether a service helped: rises before and after, corrected to the before run's power, fan and room, with an interval
 * that counts readings, corrections, one mounting and one run on each side; and a verdict that needs the interval to exclude zero.
 * Another case is made up for only where the air at the intake was measured in both runs: rises count from it then. Another load leaves
 * the die comparable at equal power, memory and VRM not.
 */
export function compare(before: Analysis, after: Analysis, options: CompareOptions = {}): Comparison {
  const scatter = { mountK: options.scatterMountK ?? 0.7, runK: options.scatterRunK ?? 0.5 };
  const cooling = options.cooling ?? USUAL_COOLING;
  const [said, saidAfter] = options.settings ?? [{}, {}];
  const inlets = inletsOf(said, saidAfter);
  const otherLoad = isOtherLoad(said, saidAfter);
  const conditions = [conditionsOf(before, inlets?.[0]), conditionsOf(after, inlets?.[1])] as const;
  const rises = (role: TemperatureRole) =>
    [riseOf(before, role, inlets?.[0]), riseOf(after, role, inlets?.[1])] as const;
  const settled = before.steady.reached && after.steady.reached;
  const differences = [
    ...settingDifferences(said, saidAfter),
    ...differencesBetween(conditions[0], conditions[1], settled),
  ];
  const shared = COMPARED_ROLES.filter((role) => rises(role).every((rise) => rise !== undefined));
  const base: Comparison = {
    comparable: false,
    air: inlets ? "intake" : "room",
    reason: null,
    differences,
    roles: {},
    atEqualConditions: null,
    hotspotGap: gapChange(before, after, conditions, scatterOfBoth(scatter, ...(options.runs ?? [1, 1]))),
    verdict: "not-comparable",
    worst: null,
    best: null,
    sameRun: before.fingerprint !== undefined && before.fingerprint === after.fingerprint,
    doubts: doubtsOf(before, after, conditions),
    detectableK: null,
    worth: null,
    scatter,
    cooling,
    version: COMPARE_VERSION,
  };
  const isApart = isOtherCase(said, saidAfter) && !inlets;
  const reason = base.sameRun ? SAME_RUN : isApart ? OTHER_CASE : whyNot(conditions, shared, otherLoad);
  if (reason) return { ...base, reason };

  const scatterSd = scatterOfBoth(scatter, ...(options.runs ?? [1, 1]));
  const roomSd = inlets ? 0 : roomSdOf(before, after);
  const edgeK = rises("edge")[1]?.riseK;
  const roles: Comparison["roles"] = {};
  const equal: NonNullable<Comparison["atEqualConditions"]>["roles"] = {};
  for (const role of shared) {
    const [was, is] = rises(role);
    if (!was || !is) continue;
    const changeK = is.riseK - was.riseK;
    const readings = Math.hypot(was.sd, is.sd, roomSd);
    const u95K = Z95 * Math.hypot(readings, scatterSd);
    roles[role] = { beforeRiseK: was.riseK, afterRiseK: is.riseK, changeK, u95K, verdict: roleVerdict(changeK, u95K) };
    const atPower = atEqual({
      was,
      is,
      conditions,
      cooling,
      share: shareFor(cooling, edgeK, is),
      readings,
      scatterSd,
      roomSd,
    });
    equal[role] = otherLoad && BY_LOAD.has(role) ? { ...atPower, verdict: null } : atPower;
  }
  const leading = LOADED.flatMap((role) => equal[role] ?? []);
  const judged = leading.length > 0 ? leading : Object.values(equal).slice(0, 1);
  const widest = judged.reduce((most, one) => Math.max(most, one.u95K), 0);
  return {
    ...base,
    comparable: true,
    roles,
    atEqualConditions: {
      powerW: conditions[1].powerW === null ? null : conditions[0].powerW,
      fanRpm: conditions[1].fanRpm === null ? null : conditions[0].fanRpm,
      ambientC: conditions[0].ambientC ?? Number.NaN,
      roles: equal,
    },
    verdict: overall(judged),
    ...claimsOf(equal),
    detectableK: (widest / Z95) * ((judged.length > 1 ? Z_JOINT : Z95) + Z_POWER_90),
    worth: worthOf(rises(equal.edge ? "edge" : "hotspot"), edgeK, conditions, cooling, equal),
  };
}

/** One mounting each, and the runs that each side stands for. */
const scatterOfBoth = (scatter: { mountK: number; runK: number }, before: number, after: number): number =>
  Math.hypot(Math.SQRT2 * scatter.mountK, scatter.runK / Math.sqrt(before), scatter.runK / Math.sqrt(after));

const SAME_RUN = "Both are the same run. Drop the log of the run after the work.";
const OTHER_CASE =
  "The case was another one. Run it again in the same case, or measure the air at the card’s intake in both runs.";
const OTHER_LOAD =
  "Another load heats memory and VRM differently at the same power, and the runs share no temperature of the die. Run it again with the same load.";

/** Šidák over all sensors: each claim is made at the level 1 − 0.95^(1/n). */
function claimsOf(equal: Partial<Record<TemperatureRole, EqualComparison>>): Pick<Comparison, "worst" | "best"> {
  const all = COMPARED_ROLES.flatMap((role): Claim[] => {
    const one = equal[role];
    return one?.verdict ? [{ role, changeK: one.changeK, u95K: one.u95K }] : [];
  });
  const stretch = all.length === 0 ? 1 : normalQuantile((1 + 0.95 ** (1 / all.length)) / 2) / Z95;
  const real = all
    .filter(({ changeK, u95K }) => Math.abs(changeK) > stretch * u95K)
    .sort((one, other) => one.changeK - other.changeK);
  const [first, last] = [real[0], real.at(-1)];
  return { best: first && first.changeK < 0 ? first : null, worst: last && last.changeK > 0 ? last : null };
}

function whyNot(
  [before, after]: readonly [Conditions, Conditions],
  shared: readonly TemperatureRole[],
  otherLoad: boolean,
): string | null {
  const without = [before.ambientC === null && "first", after.ambientC === null && "second"].filter(Boolean);
  if (without.length > 0)
    return `Room air is missing from the ${without.join(" and the ")} run. Add it, typed with its uncertainty or as a column.`;
  if (shared.length === 0)
    return "The two runs share no temperature under load. Log the same sensors in both, with a load of ten minutes or more.";
  return otherLoad && shared.every((role) => BY_LOAD.has(role)) ? OTHER_LOAD : null;
}

/** Over the room, or over the air at its intake. */
function riseOf(run: Analysis, role: TemperatureRole, inletC: number | undefined): RoleRise | undefined {
  const figures = temperatureOf(run, role);
  if (inletC === undefined) {
    const settled = settledOf(figures, run.ambient);
    return settled && { riseK: settled.riseK, sd: settled.u95K / Z95 };
  }
  const settled = settledOf(figures, run.ambient ?? { valueC: inletC, u95K: 0, source: "option" });
  // What a room that moves makes of it is the same wherever its air is measured.
  const lagK = settled && run.ambient ? settled.riseK - (settled.atC - run.ambient.valueC) : 0;
  return settled && { riseK: settled.atC - inletC + lagK, sd: settled.u95K / Z95 };
}

/** One thermometer for both runs: its error cancels. Two ways of knowing the room: it does not. */
function roomSdOf(before: Analysis, after: Analysis): number {
  if (!before.ambient || !after.ambient || before.ambient.source === after.ambient.source) return 0;
  return Math.hypot(before.ambient.u95K, after.ambient.u95K) / Z95;
}

/** The air carries the same kelvins of every sensor's rise, so its share is smaller where the rise is larger. */
function shareFor(cooling: Cooling, edgeK: number | undefined, is: RoleRise): number {
  return edgeK !== undefined && is.riseK > 0 ? Math.min(0.95, (cooling.share * edgeK) / is.riseK) : cooling.share * 0.9;
}

interface EqualInput {
  was: RoleRise;
  is: RoleRise;
  conditions: readonly [Conditions, Conditions];
  cooling: Cooling;
  share: number;
  readings: number;
  scatterSd: number;
  roomSd: number;
}

function atEqual({
  was,
  is,
  conditions: [before, after],
  cooling,
  share,
  readings,
  scatterSd,
}: EqualInput): EqualComparison {
  let corrected = is.riseK;
  let powerK = 0;
  let powerSd = UNKNOWN_POWER * is.riseK;
  if (before.powerW !== null && after.powerW !== null && after.powerW > 0 && before.powerW > 0) {
    const factor = before.powerW / after.powerW;
    powerK = corrected * (factor - 1);
    powerSd = Math.hypot(
      powerK * POWER_LAW_SD,
      (is.riseK * factor * Math.hypot(before.powerU95W / before.powerW, after.powerU95W / after.powerW)) / Z95,
    );
    corrected *= factor;
  }
  const fan = fanPair(before, after);
  let fanK = 0;
  let fanSd = share * cooling.exponent * UNKNOWN_FAN * is.riseK;
  if (fan && fan.before > 0 && fan.after > 0) {
    const { factor, sd } = fanFactor(cooling, share, fan.after, fan.before);
    fanK = corrected * (factor - 1);
    fanSd = corrected * sd * (fan.unit === "%" ? 1.5 : 1);
    corrected *= factor;
  } else if (fan && fan.before === 0 && fan.after === 0) fanSd = 0;
  else if (fan) fanSd = 0.5 * share * is.riseK;
  const airSd = AIR_SD_PER_K * is.riseK * Math.abs((before.ambientC ?? 0) - (after.ambientC ?? 0));
  const changeK = corrected - was.riseK;
  const u95K = Z95 * Math.hypot(readings, scatterSd, powerSd, fanSd, airSd);
  return {
    changeK,
    u95K,
    verdict: roleVerdict(changeK, u95K),
    correctionK: { power: powerK, fan: fanK },
    budget: { readings, scatter: scatterSd, power: powerSd, fan: fanSd, air: airSd },
  };
}

const roleVerdict = (changeK: number, u95K: number): RoleVerdict =>
  changeK < -u95K ? "cooler" : changeK > u95K ? "hotter" : "no-real-change";

/** A rise of either leading sensor is worse: it is the limit that throttles. */
function overall(judged: EqualComparison[]): Verdict {
  const stretch = judged.length > 1 ? Z_JOINT / Z95 : 1;
  const verdicts = judged.map((one) => roleVerdict(one.changeK, one.u95K * stretch));
  if (verdicts.includes("hotter")) return "worse";
  return verdicts.includes("cooler") ? "better" : "no-real-change";
}

function gapChange(
  before: Analysis,
  after: Analysis,
  [was, is]: readonly [Conditions, Conditions],
  scatterSd: number,
): Comparison["hotspotGap"] {
  const a = before.hotspotGapK;
  const b = after.hotspotGapK;
  if (!a || !b) return null;
  const u95K = Math.hypot(a.u95, b.u95, Z95 * GAP_SCATTER_SHARE * scatterSd);
  const atPower = was.powerW && is.powerW ? b.mean * (was.powerW / is.powerW) : b.mean;
  const judged = roleVerdict(atPower - a.mean, u95K);
  const words = { cooler: "smaller", "no-real-change": "no-real-change", hotter: "larger" } as const;
  return { beforeK: a.mean, afterK: b.mean, changeK: b.mean - a.mean, u95K, verdict: words[judged] };
}

function worthOf(
  [then, now]: readonly [RoleRise | undefined, RoleRise | undefined],
  edgeK: number | undefined,
  [was, is]: readonly [Conditions, Conditions],
  cooling: Cooling,
  equal: Partial<Record<TemperatureRole, EqualComparison>>,
): Comparison["worth"] {
  const role = equal.edge ? "edge" : "hotspot";
  const change = equal[role];
  if (!change || !then || !now || !was.fanRpm || !is.fanRpm) return null;
  const reference = was.fanRpm;
  const share = shareFor(cooling, edgeK, now);
  const speedFor = (changeK: number): number | undefined =>
    speedForFactor(cooling, share, reference, then.riseK / (then.riseK + changeK));
  const fanRpm = speedFor(change.changeK);
  if (fanRpm === undefined || fanRpm < 0.25 * reference || fanRpm > 4 * reference) return null;
  return {
    fanRpm,
    changeRpm: fanRpm - reference,
    soundDb: levelChangeDb(reference, fanRpm),
    lowRpm: speedFor(change.changeK - change.u95K) ?? null,
    highRpm: speedFor(change.changeK + change.u95K) ?? null,
  };
}
