import * as v from "valibot";
import type { DayPlan } from "#core/day/index.ts";
import type { ProblemDetail } from "#core/problem/index.ts";
import { number } from "./shapes.ts";
import type { StationId } from "./stations.ts";

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
export const DayTermsChange = v.object({ ...DayTermsInput.entries, version: v.number() });
export const NO_TERMS: DayTerms = { promisedAt: null, weight: 1, returnBy: null, held: {} };

/** One open card as the day shows it. */
export interface DayCardView {
  serviceId: string;
  cardId: string;
  name: string;
  serial: string;
  /** What its next station says is to be done. */
  next: string;
  station: StationId;
  ahead: StationId[];
  /** What dries or sets, by the id its block has. */
  clocks: Record<string, string>;
  terms: DayTerms;
  version: number;
  runningId: string | null;
}

export interface DayView {
  /** Whoever knows the day of this stamp needs nothing of it again but what is in `DayNow`. */
  stamp: string;
  atMs: number;
  /** Another plan is being made; this one is of before. */
  planning: boolean;
  /** How far that plan is, 0…1. */
  progress: number | null;
  plan: DayPlan | null;
  /** Why there is no plan. */
  problem: ProblemDetail | null;
  cards: DayCardView[];
  people: string[];
  benches: Array<{ id: string; name: string }>;
  closed: Array<{ fromMs: number; untilMs: number }>;
}

/** What there is to tell whoever knows the rest of the day. */
export type DayNow = Pick<DayView, "stamp" | "atMs" | "planning" | "progress"> & { unchanged: true };

/** More open cards than this are not planned at once. */
export const MOST_PLANNED = 200;
