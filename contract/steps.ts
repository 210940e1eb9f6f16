import * as v from "valibot";
import type { StepMark } from "#core/handwork/index.ts";

/** Stations that lead step by step. */
export const HAND_STATIONS = ["strip", "clean", "compound", "fans", "closeUp", "prove"] as const;
export type HandStation = (typeof HAND_STATIONS)[number];

const MARKS = ["begun", "done", "undone", "odd", "value", "photo", "pause"] as const satisfies ReadonlyArray<
  StepMark["what"]
>;

/** Marks of a day's worth of pressing, sent at once by a device that was away. */
export const MOST_MARKS_AT_ONCE = 1000;
/** As many as a service keeps. */
export const MOST_MARKS = 20_000;

export const StepMarkInput = v.object({
  id: v.pipe(v.string(), v.minLength(8, "A mark needs an id of its own."), v.maxLength(40)),
  station: v.picklist(HAND_STATIONS, "This station has no steps."),
  /** Which attempt it belongs to, from 1: what is mounted again is taken apart and closed again. */
  attempt: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(60)),
  stepId: v.pipe(v.string(), v.minLength(1, "Name the step."), v.maxLength(60)),
  what: v.picklist(MARKS),
  value: v.pipe(v.string(), v.maxLength(200)),
  text: v.pipe(v.string(), v.maxLength(12_000)),
  at: v.pipe(v.string(), v.isoTimestamp("Give the time as ISO 8601.")),
});
export interface StepMarkInput extends StepMark {
  station: HandStation;
  attempt: number;
}

export const StepMarksInput = v.object({
  marks: v.pipe(
    v.array(StepMarkInput),
    v.minLength(1, "There is no mark in it."),
    v.maxLength(MOST_MARKS_AT_ONCE, `At most ${MOST_MARKS_AT_ONCE} marks at once.`),
  ),
});

/** All marks of a service, in the order in which they came in. */
export const StepsView = v.object({
  serviceId: v.string(),
  marks: v.array(StepMarkInput),
});
export type StepsView = v.InferOutput<typeof StepsView>;

/** What the baseline tells of the layer that is on the die. */
export const CompoundFacts = v.object({
  /** The run it comes from; null where none shows a load step. */
  run: v.nullable(v.string()),
  /** Jump of the edge within seconds, K/W, with its standard uncertainty. */
  fast: v.nullable(
    v.object({
      value: v.number(),
      sd: v.number(),
    }),
  ),
  powerW: v.nullable(v.number()),
  /** Heat cycles since this attempt was closed, by its logs and test benches. */
  cycles: v.number(),
});
export type CompoundFacts = v.InferOutput<typeof CompoundFacts>;
