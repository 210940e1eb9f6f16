import * as v from "valibot";
import { changes, number } from "./shapes.ts";
import { DayPlan } from "./shapes-of-plans.ts";
import { ProblemDetail } from "./shapes-of-runs.ts";
import { StationName } from "./stations.ts";

const moment = v.pipe(v.string(), v.isoTimestamp("Give a moment with its zone, such as 2026-11-28T16:00:00Z."));

/** What is promised of a card, and where a person holds its steps. */
export const DayTermsInput = v.object({
  promisedAt: v.nullable(moment),
  /** How much a late hour counts against one of another card. */
  weight: number(0.1, 100, "A weight lies between 0.1 and 100."),
  /** A bought card can be given back until this day. */
  returnBy: v.nullable(v.pipe(v.string(), v.isoDate("Give the day as YYYY-MM-DD."))),
  held: v.pipe(
    v.record(v.pipe(v.string(), v.maxLength(60)), moment),
    v.check((held) => Object.keys(held).length <= 20, "At most 20 held steps."),
  ),
});
export type DayTerms = v.InferOutput<typeof DayTermsInput>;
export const KeptDayTerms = v.object({ ...DayTermsInput.entries, version: v.number() });
export const DayTermsChange = v.object({ ...KeptDayTerms.entries, changes });
export const NO_TERMS: DayTerms = { promisedAt: null, weight: 1, returnBy: null, held: {} };

/** One open card as the day shows it. */
export const DayCardView = v.object({
  serviceId: v.string(),
  cardId: v.string(),
  name: v.string(),
  serial: v.string(),
  /** What its next station says is to be done. */
  next: v.string(),
  station: StationName,
  ahead: v.array(StationName),
  /** What dries or sets, by the id its block has. */
  clocks: v.record(v.string(), v.string()),
  terms: DayTermsInput,
  version: v.number(),
  runningId: v.nullable(v.string()),
});
export type DayCardView = v.InferOutput<typeof DayCardView>;

export const DayView = v.object({
  /** Whoever knows the day of this stamp needs nothing of it again but what is in `DayNow`. */
  stamp: v.string(),
  atMs: v.number(),
  /** Another plan is being made; this one is of before. */
  planning: v.boolean(),
  /** How far that plan is, 0…1. */
  progress: v.nullable(v.number()),
  plan: v.nullable(DayPlan),
  /** Why there is no plan. */
  problem: v.nullable(ProblemDetail),
  cards: v.array(DayCardView),
  people: v.array(v.string()),
  benches: v.array(
    v.object({
      id: v.string(),
      name: v.string(),
    }),
  ),
  closed: v.array(
    v.object({
      fromMs: v.number(),
      untilMs: v.number(),
    }),
  ),
});
export type DayView = v.InferOutput<typeof DayView>;

/** What there is to tell whoever knows the rest of the day. */
export const DayNow = v.object({
  /** Whoever knows the day of this stamp needs nothing of it again but what is in `DayNow`. */
  stamp: v.string(),
  atMs: v.number(),
  /** Another plan is being made; this one is of before. */
  planning: v.boolean(),
  /** How far that plan is, 0…1. */
  progress: v.nullable(v.number()),
  unchanged: v.literal(true),
});
export type DayNow = v.InferOutput<typeof DayNow>;

/** More open cards than this are not planned at once. */
export const MOST_PLANNED = 200;
