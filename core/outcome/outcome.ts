import type { Comparison } from "../compare/index.ts";
import { normalQuantile } from "../numeric/index.ts";
import { CARD_SENSORS } from "../runfile/index.ts";

export type CardSensor = (typeof CARD_SENSORS)[number];

export interface OutcomeInput {
  comparison: Comparison;
  /** Limits of the board model, °C; null where none is set. */
  limits: Readonly<Record<`${CardSensor}C`, number | null>>;
  /** The warmest room the card will work in, °C. */
  warmestRoomC: number;
  /** In the owner's words. */
  complaint: string;
  /** Fan speed after over before at the same fixed setting; undefined where the setting was not the same. */
  fanSpeedRatio?: number | undefined;
  /** How long one of the runs would have to go on until it tells; null where both told or nobody knows. */
  minutesNeeded?: number | null | undefined;
  /** Sensors whose figure was predicted from a run that was cut short: nothing is warned of by them. */
  predicted?: ReadonlySet<CardSensor> | undefined;
  /** Which run was too short to tell of the die. */
  short?: "before" | "after" | "both" | undefined;
}

export interface SensorOutcome {
  role: CardSensor;
  /** At equal conditions, K. */
  changeK: number;
  /** Half-width of its own 95 % interval, K: what stands beside it everywhere. */
  u95K: number;
  /** So large it has to be before it is claimed: all claims of a service together are false in 5 of 100 at the most, K. */
  jointU95K: number;
  verdict: "cooler" | "no-real-change" | "hotter";
  /** False while a run was too short to tell this sensor: what is said of it is "so far", and never a warning. */
  known: boolean;
  /** What it comes to in the warmest room, °C: before, and after. */
  beforeC: number;
  afterC: number;
  limitC: number | null;
  overLimit: boolean;
}

export interface Outcome {
  /**
   * Of all sensors together. `over-limit` whatever else came about; `mixed` where some got better and something worse.
   */
  verdict: "better" | "no-real-change" | "mixed" | "worse" | "over-limit" | "not-comparable";
  /** What the owner complained of first, then from the die outward. */
  sensors: SensorOutcome[];
  gap: { changeK: number; u95K: number; jointU95K: number; verdict: "smaller" | "no-real-change" | "larger" } | null;
  /** By how much the fan turns slower at the same setting, %; null where it does not, or nobody can tell. */
  fanSlowerPct: number | null;
  warmestRoomC: number;
  /** False while the die is not known: the runs must go on before anything is said of it. */
  known: boolean;
  /** How long one of the runs would have to go on until it tells; null where both told or nobody knows. */
  minutesNeeded: number | null;
  /** Which run was too short to tell of the die; null where that is not why. */
  short: "before" | "after" | "both" | null;
  /** What there is to tell, in its order; empty where nothing changed. */
  tells: Array<CardSensor | "gap" | "fan">;
}

/** What owners call it. Common practice, no source. */
const COMPLAINTS: ReadonlyArray<{ words: RegExp; roles: readonly CardSensor[] }> = [
  { words: /memory|vram|artifact|artefact|checker|speicher|mémoire/i, roles: ["memory"] },
  { words: /vrm|coil|mosfet|choke/i, roles: ["vrm"] },
  { words: /hot ?spot|junction/i, roles: ["hotspot"] },
];

const DIE: readonly CardSensor[] = ["edge", "hotspot"];
const NONE: ReadonlySet<CardSensor> = new Set();
/** Both runs' readings of a sensor are known to this, one standard deviation, or it is not known yet, K. */
const KNOWN_SD_K = 1;

/** A fan law's worth of wear or dirt; speeds at the same setting differ by less from run to run (common practice, no source). */
const SLOWER_SHARE = 0.05;

/**
 * Speaks for the whole card: every sensor that two runs share, the gap, the fan, and limits in the warmest room. The rate of false claims
 * over all of them together is 5 % (Šidák 1967: level 1 − 0.95^(1/k) each; dependence makes it smaller).
 */
export function outcomeOf({
  comparison,
  limits,
  warmestRoomC,
  complaint,
  fanSpeedRatio,
  minutesNeeded = null,
  predicted = NONE,
  short,
}: OutcomeInput): Outcome {
  const equal = comparison.atEqualConditions?.roles ?? {};
  const found = CARD_SENSORS.flatMap((role) => {
    const [at, seen] = [equal[role], comparison.roles[role]];
    return at && seen ? [{ role, at, seen }] : [];
  });
  const judged = found.filter(({ at }) => at.verdict !== null);
  const gap = comparison.hotspotGap;
  const stretch = jointStretch(judged.length + (gap ? 1 : 0));
  const first = COMPLAINTS.find(({ words }) => words.test(complaint))?.roles ?? [];
  const sensors = found
    .map(({ role, at, seen }): SensorOutcome => {
      const jointU95K = stretch * at.u95K;
      const afterC = seen.afterRiseK + warmestRoomC;
      const limitC = limits[`${role}C`];
      // Under another load only its limit is held against it.
      const isJudged = at.verdict !== null && !(predicted.has(role) && at.changeK > 0);
      const known = at.budget.readings <= KNOWN_SD_K && !predicted.has(role);
      const verdict = at.changeK < -jointU95K ? "cooler" : at.changeK > jointU95K ? "hotter" : "no-real-change";
      return {
        role,
        changeK: at.changeK,
        u95K: at.u95K,
        jointU95K,
        verdict: isJudged ? verdict : "no-real-change",
        beforeC: seen.beforeRiseK + warmestRoomC,
        known,
        afterC,
        limitC,
        // What was read with much doubt must be over by more than that.
        overLimit:
          !predicted.has(role) &&
          limitC !== null &&
          afterC - (at.budget.readings <= KNOWN_SD_K ? 0 : 2 * at.budget.readings) > limitC,
      };
    })
    .filter(({ role, overLimit }) => overLimit || equal[role]?.verdict !== null)
    .sort((one, other) => Number(first.includes(other.role)) - Number(first.includes(one.role)));
  const gapU95K = gap ? stretch * gap.u95K : 0;
  const outcome: Told = {
    sensors,
    gap: gap && {
      changeK: gap.changeK,
      u95K: gap.u95K,
      jointU95K: gapU95K,
      verdict:
        gap.changeK > gapU95K && short === undefined ? "larger" : gap.changeK < -gapU95K ? "smaller" : "no-real-change",
    },
    fanSlowerPct:
      fanSpeedRatio !== undefined && fanSpeedRatio < 1 - SLOWER_SHARE ? Math.round(100 * (1 - fanSpeedRatio)) : null,
    warmestRoomC,
    known:
      short === undefined &&
      sensors.every((one) => one.known || !DIE.includes(one.role) || one.verdict !== "no-real-change"),
    minutesNeeded,
    short: short ?? null,
  };
  if (!comparison.comparable) return { ...outcome, verdict: "not-comparable", tells: [] };
  return { ...outcome, verdict: verdictOf(outcome), tells: tellsOf(outcome, first) };
}

/** Standard deviations to either side that hold so large a share. */
const sidesOf = (share: number): number => normalQuantile(1 - (1 - share) / 2);

/** By how much a 95 % half-width grows so that so many hold together. */
function jointStretch(claims: number): number {
  return claims < 2 ? 1 : sidesOf(0.95 ** (1 / claims)) / sidesOf(0.95);
}

type Told = Omit<Outcome, "verdict" | "tells">;

function verdictOf({ sensors, gap, fanSlowerPct }: Told): Outcome["verdict"] {
  if (sensors.some((one) => one.overLimit)) return "over-limit";
  const isWorse = sensors.some((one) => one.verdict === "hotter") || gap?.verdict === "larger" || fanSlowerPct !== null;
  const isBetter = sensors.some((one) => one.verdict === "cooler");
  if (isWorse) return isBetter ? "mixed" : "worse";
  return isBetter ? "better" : "no-real-change";
}

/** What there is to tell, in its order. */
function tellsOf({ sensors, gap, fanSlowerPct }: Told, complained: readonly CardSensor[]): Outcome["tells"] {
  const edge = sensors.find((one) => one.role === "edge");
  const tells: Outcome["tells"] = sensors
    .filter(({ role, verdict, overLimit }) => {
      const isAsked = complained.includes(role);
      // The die speaks for its hotspot while both went the same way.
      if (role === "hotspot" && !isAsked && !overLimit && edge?.verdict === verdict) return false;
      return isAsked || overLimit || verdict !== "no-real-change";
    })
    .map(({ role }) => role);
  if (gap?.verdict === "larger") tells.push("gap");
  if (fanSlowerPct !== null) tells.push("fan");
  // Where the answer is about something else, the die is told too.
  if (tells.length > 0 && edge && !tells.includes("edge")) tells.push("edge");
  return tells;
}

/** Whether it may be handed over without a word: not where something got worse or stays over its limit. */
export const needsReason = ({ verdict }: Outcome): boolean =>
  verdict === "worse" || verdict === "mixed" || verdict === "over-limit";
