import { posterior } from "../durations/index.ts";

/** What ages between die and cooler. */
export type AgeingInterface = "paste" | "phase-change" | "putty" | "liquid metal" | "adhesive";

/**
 * Cycles of 40 K that half of the layers of a kind outlast (common practice of the trade, no source: paste one to two years of hard use and
 * three of light, phase-change and putty three to four years or more; a year of hard use is about 900 such cycles).
 */
const LIVES: Readonly<Record<AgeingInterface, number>> = {
  paste: 1600,
  "phase-change": 3700,
  putty: 3700,
  "liquid metal": 2000,
  adhesive: 7500,
};

/** A layer is worn out when the hotspot stands so much further over the die than after the work, K (common practice, no source). */
export const WORN_GAP_K = 5;

/** What a card that came back shows of one kind of layer. */
export interface Returned {
  /** How much wider the hotspot gap had become, K, with the half-width of its interval. */
  driftK: number;
  u95K: number;
  /** Cycles of 40 K meanwhile, as its use says. */
  cycles: number;
}

/** One standard deviation of each, relative to the usual rate of wear (assumptions, no source). */
const KINDS_DIFFER = 0.4;
const CARDS_DIFFER = 0.4;
const CYCLES_GUESSED = 0.3;
/** Nothing lasts longer than so many times what is usual, and nobody can say what is further off. */
const LEAST_RATE = 0.15;

export interface Wear {
  /** Cycles until half of such layers are worn out. */
  lifeCycles: number;
  /** Standard deviation of the next card's, of its logarithm. */
  sdLog: number;
  /** Cards that came back it rests on, and what they show, K in 1000 cycles. */
  cards: number;
  driftPer1000K: number;
  u95Per1000K: number;
}

/**
 * Wear of a kind of layer: the usual rate, drawn toward what cards that came back show.
 * @example
 * ```ts
 * wearOf("paste", []).lifeCycles // => 1600
 * ```
 */
export function wearOf(kind: AgeingInterface, returned: readonly Returned[]): Wear {
  const usual = WORN_GAP_K / LIVES[kind];
  let held = { mean: 1, variance: KINDS_DIFFER ** 2 };
  const seen = returned.filter(({ cycles, u95K }) => cycles > 0 && u95K > 0);
  for (const { driftK, u95K, cycles } of seen) {
    const rate = driftK / cycles / usual;
    const error = u95K / 1.96 / cycles / usual;
    // Weighed by what is held, not by its own rate: one that wore little by chance would else weigh most.
    const variance = error ** 2 + (CARDS_DIFFER ** 2 + CYCLES_GUESSED ** 2) * held.mean ** 2;
    held = posterior(held, { mean: rate, variance });
    held.mean = Math.max(LEAST_RATE, held.mean);
  }
  const sd = Math.sqrt(held.variance + (CARDS_DIFFER * held.mean) ** 2);
  return {
    lifeCycles: LIVES[kind] / held.mean,
    sdLog: Math.sqrt(Math.log(1 + (sd / held.mean) ** 2)),
    cards: seen.length,
    driftPer1000K: 1000 * held.mean * usual,
    u95Per1000K: 1.96 * 1000 * Math.sqrt(held.variance) * usual,
  };
}

export interface CardUse {
  hoursPerWeek: number;
  sessionsPerDay: number;
  /** Cycles of 40 K an hour, counted from a log of its use; null: from the sessions. */
  cyclesPerHour: number | null;
}

/** What a kind of use usually is (assumption, no source). */
export const USUAL_USE: Readonly<Record<string, CardUse>> = {
  office: { hoursPerWeek: 40, sessionsPerDay: 1, cyclesPerHour: null },
  games: { hoursPerWeek: 20, sessionsPerDay: 2, cyclesPerHour: null },
  "long constant load": { hoursPerWeek: 140, sessionsPerDay: 0.3, cyclesPerHour: null },
  unknown: { hoursPerWeek: 14, sessionsPerDay: 1, cyclesPerHour: null },
};
/** Share of the full rise that a session of its kind comes to, and changes of load within an hour of it, at a third of the rise. */
const DEPTH: Readonly<Record<string, number>> = { office: 0.4, games: 1, "long constant load": 1, unknown: 0.9 };
const CHANGES: Readonly<Record<string, number>> = { office: 1, games: 3, "long constant load": 0.3, unknown: 2 };
const REFERENCE_K = 40;
const WEEKS_A_MONTH = 365.25 / 12 / 7;

/**
 * Cycles of 40 K a month of a use, by Coffin and Manson with an exponent of 2.
 * @param riseK of the die under load over idle, K
 */
export function cyclesPerMonth(
  kind: string,
  { hoursPerWeek, sessionsPerDay, cyclesPerHour }: CardUse,
  riseK: number,
): number {
  if (cyclesPerHour !== null) return WEEKS_A_MONTH * hoursPerWeek * cyclesPerHour;
  const depth = (DEPTH[kind] ?? 1) * riseK;
  const within = (CHANGES[kind] ?? 2) * (depth / 3 / REFERENCE_K) ** 2;
  return WEEKS_A_MONTH * (7 * sessionsPerDay * (depth / REFERENCE_K) ** 2 + hoursPerWeek * within);
}

/** How sure a use is, of its logarithm: counted from a log, typed, or guessed from its kind. */
const USE_SD = { log: 0.15, typed: 0.25, usual: 0.45 } as const;
export type UseSource = keyof typeof USE_SD;

/** Beyond this nobody can say; then it is looked at. */
export const MOST_MONTHS = 60;

export interface NextService {
  /** Months from now; at most `MOST_MONTHS`. */
  months: number;
  /** 95 % lie between; the later is null where it may be beyond what can be said. */
  lowMonths: number;
  highMonths: number | null;
  cyclesPerMonth: number;
  wear: Wear;
}

/**
 * When a layer is due again.
 * @param riseK of the die under load over idle after the work, K
 */
export function nextService(
  layer: AgeingInterface,
  returned: readonly Returned[],
  use: { kind: string; use: CardUse; source: UseSource; riseK: number },
): NextService {
  const wear = wearOf(layer, returned);
  const perMonth = cyclesPerMonth(use.kind, use.use, use.riseK);
  const sd = Math.hypot(wear.sdLog, USE_SD[use.source]);
  const months = perMonth > 0 ? wear.lifeCycles / perMonth : Number.POSITIVE_INFINITY;
  const high = months * Math.exp(1.96 * sd);
  return {
    months: Math.min(MOST_MONTHS, months),
    lowMonths: Math.min(MOST_MONTHS, months * Math.exp(-1.96 * sd)),
    highMonths: high < MOST_MONTHS ? high : null,
    cyclesPerMonth: perMonth,
    wear,
  };
}
