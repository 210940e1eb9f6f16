import { createHash } from "node:crypto";
import { gunzipSync, gzipSync } from "node:zlib";
import type { Mapping, SamplesHead } from "#contract";
import {
  type AnalyseOptions,
  type Analysis,
  analyse,
  RunReader,
  type RunTable,
  type Symptoms,
  symptomsOf,
  tabulate,
} from "#core";
import { filePieces, PIECE_BYTES } from "./file-pieces.ts";

export interface IngestRequest {
  /** A file on disk, or bytes compressed with gzip. */
  source: { path: string } | { gzip: Uint8Array };
  mapping: Mapping;
  intervalS: number | undefined;
  options: AnalyseOptions;
}

export interface Ingested {
  analysis: Analysis;
  symptoms: Symptoms;
  logHash: string;
  logGzip: Uint8Array;
  samplesHash: string;
  samplesGzip: Uint8Array;
  fileBytes: number;
  mapping: Mapping;
}

/** Reads, judges and packs one log. Heavy: runs in a worker thread for the server. Throws the Problems of `readRun`. */
export function ingest(request: IngestRequest): Ingested {
  const reader = new RunReader();
  const hash = createHash("sha256");
  const kept: Uint8Array[] = [];
  let fileBytes = 0;
  for (const piece of piecesOf(request.source)) {
    reader.push(piece);
    hash.update(piece);
    kept.push(piece);
    fileBytes += piece.length;
  }
  const table = tabulate(reader.end(), {
    intervalS: request.intervalS,
    map: request.mapping.map(({ header, role }) => [role, header] as const),
  });
  const analysis = analyse(table, request.options);
  const samplesGzip = gzipSync(packSamples(table), { level: 1 });
  return {
    analysis,
    symptoms: symptomsOf(table, analysis),
    logHash: hash.digest("hex"),
    logGzip: "gzip" in request.source ? request.source.gzip : gzipSync(Buffer.concat(kept), { level: 4 }),
    samplesHash: createHash("sha256").update(samplesGzip).digest("hex"),
    samplesGzip,
    fileBytes,
    mapping: table.columns.map(({ header, role }) => ({ header, role })),
  };
}

function* piecesOf(source: IngestRequest["source"]): Generator<Uint8Array> {
  if ("path" in source) return yield* filePieces(source.path);
  const all = gunzipSync(source.gzip);
  for (let at = 0; at < all.length; at += PIECE_BYTES) yield all.subarray(at, at + PIECE_BYTES);
}

/** Length of the head (4 bytes), head as JSON padded to 8 bytes, time as doubles, then each other column as floats. */
export function packSamples(table: RunTable): Uint8Array {
  const columns = table.columns.filter((column) => column.role !== "time");
  const head: SamplesHead = {
    rows: table.rows,
    columns: columns.map(({ header, role, unit }) => ({ header, role, unit })),
  };
  const text = new TextEncoder().encode(JSON.stringify(head));
  const from = Math.ceil((4 + text.length) / 8) * 8;
  const bytes = new Uint8Array(from + table.rows * (8 + 4 * columns.length));
  new DataView(bytes.buffer).setUint32(0, text.length, true);
  bytes.set(text, 4);
  new Float64Array(bytes.buffer, from, table.rows).set(table.timeS);
  columns.forEach((column, index) => {
    new Float32Array(bytes.buffer, from + table.rows * (8 + 4 * index), table.rows).set(column.values);
  });
  return bytes;
}
