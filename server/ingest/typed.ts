import { createHash } from "node:crypto";
import { gzipSync } from "node:zlib";
import { type AnalyseOptions, type RunTable, symptomsOf, type TypedFigures, typedAnalysis } from "#core";
import { type Ingested, packSamples } from "./ingest.ts";

/** There are no samples. */
const NONE: RunTable = {
  rows: 0,
  timeS: new Float64Array(0),
  timeForm: "s",
  start: null,
  intervalS: 0,
  notices: [],
  cards: [],
  columns: [],
};

/** Figures typed from paper as if they had been read from a log: what is kept as the original is what was typed. */
export function ingestTyped(typed: TypedFigures, options: AnalyseOptions): Ingested {
  const log = Buffer.from(`${JSON.stringify({ typed }, null, 2)}\n`);
  const analysis = typedAnalysis(typed, options);
  const samplesGzip = gzipSync(packSamples(NONE));
  return {
    analysis,
    symptoms: symptomsOf(NONE, analysis),
    logHash: createHash("sha256").update(log).digest("hex"),
    logGzip: gzipSync(log),
    samplesHash: createHash("sha256").update(samplesGzip).digest("hex"),
    samplesGzip,
    fileBytes: log.length,
    mapping: [],
  };
}
