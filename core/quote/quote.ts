import { fanFactor, USUAL_COOLING } from "../compare/index.ts";
import type { ExpectedGain, Work } from "../decide/index.ts";
import type { Cause } from "../diagnose/index.ts";
import { levelChangeDb } from "../fans/index.ts";
import { priced, withTax } from "../money/index.ts";

/** What can be offered, least work first. */
export const OFFERED = [
  "leave",
  "clean",
  "fans",
  "repaste",
  "pads",
  "premium",
  "cooler",
] as const satisfies readonly Work[];
export type OfferedWork = (typeof OFFERED)[number];

/** What each kind of work mends (common practice, no source). */
const MENDS: Record<OfferedWork, readonly Cause[]> = {
  leave: [],
  clean: ["dust-or-airflow"],
  fans: ["fan-fault"],
  repaste: ["dust-or-airflow", "dry-paste", "cooler-held-off"],
  pads: ["dust-or-airflow", "dry-paste", "cooler-held-off", "memory-pads", "vrm-pads"],
  premium: ["dust-or-airflow", "dry-paste", "cooler-held-off", "memory-pads", "vrm-pads"],
  cooler: ["dust-or-airflow", "dry-paste", "cooler-held-off", "memory-pads", "vrm-pads", "fan-fault"],
};
/** No work at a card mends these. */
const BEYOND: ReadonlySet<Cause> = new Set(["healthy", "hot-room"]);

export interface Bringing {
  gainK: number;
  /** 95 % of it. */
  u95K: number;
  /** How likely it is that this work mends what is wrong, 0…1. */
  mends: number;
}

/**
 * What one kind of work is expected to bring of what the right one would: all of it where it mends the cause, else nothing; which cause it is
 * is not sure, so the spread holds both.
 * @param causes as the diagnosis has them, with their probabilities
 */
export function bringing(
  work: OfferedWork,
  causes: ReadonlyArray<{ cause: Cause; probability: number }>,
  expected: Pick<ExpectedGain, "gainK" | "sdK">,
): Bringing {
  const curable = causes.filter(({ cause }) => !BEYOND.has(cause));
  const all = curable.reduce((sum, { probability }) => sum + probability, 0);
  const mended = curable.reduce(
    (sum, { cause, probability }) => sum + (MENDS[work].includes(cause) ? probability : 0),
    0,
  );
  const mends = all > 0 ? mended / all : 0;
  const { gainK, sdK } = expected;
  const variance = mends * (sdK ** 2 + gainK ** 2) - (mends * gainK) ** 2;
  return { gainK: mends * gainK, u95K: 1.96 * Math.sqrt(Math.max(0, variance)), mends };
}

/**
 * What a gain is worth in sound, where the fan is slowed until the card is as warm as before; dB below 0 is quieter.
 * @param riseK over room air now, at this fan speed
 * @returns null where no slower speed comes to that
 */
export function quieterBy(riseK: number, gainK: number, fanRpm: number): number | null {
  if (!(riseK > 0 && fanRpm > 0) || gainK <= 0 || gainK >= riseK) return gainK === 0 ? 0 : null;
  const wanted = riseK / (riseK - gainK);
  // The rise only falls with speed: halving finds the one that brings it back.
  let [low, high] = [LEAST_SHARE * fanRpm, fanRpm];
  if (fanFactor(USUAL_COOLING, USUAL_COOLING.share, fanRpm, low).factor < wanted) return levelChangeDb(fanRpm, low);
  for (let round = 0; round < 60; round++) {
    const middle = (low + high) / 2;
    if (fanFactor(USUAL_COOLING, USUAL_COOLING.share, fanRpm, middle).factor > wanted) low = middle;
    else high = middle;
  }
  return levelChangeDb(fanRpm, low);
}
/** Fans hold no speed below so much of what they do under load (common practice, no source). */
const LEAST_SHARE = 0.3;

/** Of money, in a currency's smallest unit; minutes as they are. */
export interface QuoteTerms {
  ratePerHour: number;
  benchPerHour: number;
  taxPct: number;
  /** A kit and its work on a card worth less than so many times that is rarely sensible. */
  worthTimes: number;
}

export interface QuoteTask {
  materialUnits: number;
  minutes: number;
  benchMinutes: number;
}

export interface PricedTask {
  lines: Array<{ what: "material" | "hands" | "bench"; units: number }>;
  net: number;
  tax: number;
  gross: number;
  /** What the card is worth over what this costs; null where nobody said what it is worth, or it costs nothing. */
  times: number | null;
  isSensible: boolean | null;
}

/** Material, hands and bench of one option, with tax, held against what the card is worth. */
export function priceTask(task: QuoteTask, terms: QuoteTerms, worthUnits: number | null): PricedTask {
  const lines: PricedTask["lines"] = [
    { what: "material", units: priced(1, task.materialUnits) },
    { what: "hands", units: priced(task.minutes / 60, terms.ratePerHour) },
    { what: "bench", units: priced(task.benchMinutes / 60, terms.benchPerHour) },
  ];
  const sum = withTax(
    lines.map(({ units }) => units),
    terms.taxPct,
  );
  const times = worthUnits === null || sum.gross === 0 ? null : worthUnits / sum.gross;
  return { lines, ...sum, times, isSensible: times === null ? null : times >= terms.worthTimes };
}

/** What a card of the shop’s own stock earned, and per hour of hands; null while one of the two prices is not known. */
export function earned(
  { boughtUnits, soldUnits }: { boughtUnits: number | null; soldUnits: number | null },
  putIn: { materialUnits: number; minutes: number },
): { units: number; perHour: number | null } | null {
  if (boughtUnits === null || soldUnits === null) return null;
  const units = soldUnits - boughtUnits - putIn.materialUnits;
  return { units, perHour: putIn.minutes > 0 ? priced(60 / putIn.minutes, units) : null };
}
