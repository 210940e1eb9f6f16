import * as v from "valibot";
import type { Analysis, Comparison } from "#core";
import type { Outcome } from "#core/outcome/index.ts";
import { ROLES } from "#core/runfile/index.ts";

const note = v.pipe(v.string(), v.trim(), v.maxLength(300));
const within = (low: number, high: number, message: string) =>
  v.nullable(v.pipe(v.number(message), v.minValue(low, message), v.maxValue(high, message)));

/** The largest log that is taken in, bytes. */
export const MOST_LOG_BYTES = 256 * 1024 * 1024;

export const Mapping = v.array(v.object({ header: v.string(), role: v.nullable(v.picklist(ROLES)) }));
export type Mapping = v.InferOutput<typeof Mapping>;

/** Under which conditions a run was made; what the log can't say by itself. */
export const RunInput = v.object({
  side: v.picklist(["before", "after"]),
  name: v.pipe(v.string(), v.trim(), v.maxLength(120)),
  fanMode: v.picklist(["fixed", "automatic", "unknown"]),
  fanPct: within(0, 100, "A fan setting lies between 0 and 100 %."),
  loadName: note,
  sidePanel: v.picklist(["open bench", "panel off", "panel on", "unknown"]),
  clocks: note,
  powerLimitPct: within(20, 200, "A power limit lies between 20 and 200 %."),
  picture: v.picklist(["works", "no picture", "faulty", "not checked"]),
  /** Room air typed by hand, °C; null where the log has a column or nobody measured. */
  ambientC: within(-10, 45, "Room air lies between −10 and 45 °C. Is it in Fahrenheit?"),
  ambientU95K: within(0, 10, "The uncertainty lies between 0 and 10 K."),
  intervalS: within(0.001, 3600, "The interval lies between 0.001 and 3600 s."),
  mapping: Mapping,
  window: v.nullable(v.object({ fromS: v.number(), toS: v.number() })),
});
export type RunInput = v.InferOutput<typeof RunInput>;
export const RunChange = v.object({ ...RunInput.entries, version: v.number() });

export interface Run extends RunInput {
  id: string;
  serviceId: string;
  cardId: string;
  fileName: string;
  fileBytes: number;
  analysis: Analysis;
  createdAt: string;
  version: number;
}

export interface PairedComparison {
  beforeId: string;
  afterId: string;
  comparison: Comparison;
  /** What it comes to for the whole card. */
  outcome: Outcome;
}

/** Head of the binary document at `/api/runs/:id/samples`; columns follow as numbers, time as 8 bytes each, others as 4. */
export interface SamplesHead {
  rows: number;
  columns: Array<{ header: string; role: string | null; unit: string | null }>;
}
