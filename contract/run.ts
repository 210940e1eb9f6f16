import * as v from "valibot";
import { SIDE_PANELS } from "#core/compare/index.ts";
import { ROLES } from "#core/runfile/index.ts";
import type { PairFacts } from "#core/service/index.ts";
import { Analysis } from "./shapes-of-runs.ts";

const note = v.pipe(v.string(), v.trim(), v.maxLength(300));
const within = (low: number, high: number, message: string) =>
  v.nullable(v.pipe(v.number(message), v.minValue(low, message), v.maxValue(high, message)));

/** The largest log that is taken in, bytes. */
export const MOST_LOG_BYTES = 256 * 1024 * 1024;

export const Mapping = v.array(v.object({ header: v.string(), role: v.nullable(v.picklist(ROLES)) }));
export type Mapping = v.InferOutput<typeof Mapping>;

const RANGE = "A temperature lies between 0 and 150 °C. Is it in Fahrenheit?";
const typedC = within(0, 150, RANGE);

/** What was read off a display and written down at the end of a run; see `TypedFigures` in `core/soak`. */
export const TypedInput = v.pipe(
  v.object({
    edgeC: typedC,
    hotspotC: typedC,
    memoryC: typedC,
    vrmC: typedC,
    fanRpm: within(0, 20_000, "A fan speed lies between 0 and 20,000 rpm."),
    fanPct: within(0, 100, "A fan's duty lies between 0 and 100 %."),
    powerW: within(1, 2000, "Power lies between 1 and 2,000 W."),
    coreClockMHz: within(1, 10_000, "A clock lies between 1 and 10,000 MHz."),
    minutes: within(0.5, 1440, "Between half a minute and a day."),
  }),
  v.forward(
    v.check(
      ({ edgeC, hotspotC, memoryC, vrmC }) => [edgeC, hotspotC, memoryC, vrmC].some((value) => value !== null),
      "Type one temperature or more.",
    ),
    ["edgeC"],
  ),
);

export type TypedInput = v.InferOutput<typeof TypedInput>;

/** Under which conditions a run was made; what the log can't say by itself. */
export const RunInput = v.object({
  side: v.picklist(["before", "after"]),
  name: v.pipe(v.string(), v.trim(), v.maxLength(120)),
  fanMode: v.picklist(["fixed", "automatic", "unknown"]),
  fanPct: within(0, 100, "A fan setting lies between 0 and 100 %."),
  loadName: note,
  sidePanel: v.picklist(SIDE_PANELS),
  clocks: note,
  powerLimitPct: within(20, 200, "A power limit lies between 20 and 200 %."),
  picture: v.picklist(["works", "no picture", "faulty", "not checked"]),
  /** Room air typed by hand, °C; null where the log has a column or nobody measured. */
  ambientC: within(-10, 45, "Room air lies between −10 and 45 °C. Is it in Fahrenheit?"),
  ambientU95K: within(0, 10, "The uncertainty lies between 0 and 10 K."),
  intervalS: within(0.001, 3600, "The interval lies between 0.001 and 3600 s."),
  mapping: Mapping,
  window: v.nullable(v.object({ fromS: v.number(), toS: v.number() })),
  /** Which of several loads in the log, from 1; null for the one that is chosen by itself. */
  load: v.optional(v.nullable(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(10_000))), null),
  /** Room air read again at the end of the run, °C; between the two it is taken to have changed evenly. */
  ambientEndC: v.optional(within(-10, 45, "Room air lies between −10 and 45 °C. Is it in Fahrenheit?"), null),
  /** Air measured at the card’s own intake under load, °C; null where nobody did. */
  inletC: v.optional(within(-10, 80, "The air at the intake lies between −10 and 80 °C. Is it in Fahrenheit?"), null),
  /** How the card was set; null where nobody said. */
  coreOffsetMHz: v.optional(within(-2000, 2000, "A clock offset lies between −2,000 and 2,000 MHz."), null),
  memoryOffsetMHz: v.optional(within(-5000, 5000, "A memory offset lies between −5,000 and 5,000 MHz."), null),
  undervoltMv: v.optional(within(-500, 500, "An undervolt lies between −500 and 500 mV."), null),
  frameCapFps: v.optional(within(1, 2000, "A frame cap lies between 1 and 2,000 frames a second."), null),
  /** What it did with it, typed beside the run. */
  frameRateFps: v.optional(within(0.1, 5000, "A frame rate lies between 0.1 and 5,000 a second."), null),
  score: v.optional(within(0.001, 1e9, "A score is a number above nothing."), null),
  /** Which attempt an after-run proves, from 1; null for the one that is being made. */
  attempt: v.optional(v.nullable(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(99))), null),
  /** Why it does not count; empty where it does. */
  leftOut: v.optional(note, ""),
  /** Typed from paper: there is no log; null where there is one. */
  typed: v.optional(v.nullable(TypedInput), null),
});
export type RunInput = v.InferOutput<typeof RunInput>;
/** What nobody said of a run. */
export const UNTOLD = {
  load: null,
  ambientEndC: null,
  inletC: null,
  coreOffsetMHz: null,
  memoryOffsetMHz: null,
  undervoltMv: null,
  frameCapFps: null,
  frameRateFps: null,
  score: null,
  attempt: null,
  leftOut: "",
  typed: null,
} as const satisfies Partial<RunInput>;
export const RunChange = v.object({ ...RunInput.entries, version: v.number() });

export const Run = v.object({
  ...RunInput.entries,
  id: v.string(),
  attempt: v.number(),
  serviceId: v.string(),
  cardId: v.string(),
  fileName: v.string(),
  fileBytes: v.number(),
  analysis: Analysis,
  createdAt: v.string(),
  version: v.number(),
});
export type Run = v.InferOutput<typeof Run>;

export type PairedComparison = PairFacts;

/** Head of the binary document at `/api/runs/:id/samples`; columns follow as numbers, time as 8 bytes each, others as 4. */
export interface SamplesHead {
  rows: number;
  columns: Array<{ header: string; role: string | null; unit: string | null }>;
}
