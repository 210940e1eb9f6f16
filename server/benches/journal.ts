import { createWriteStream } from "node:fs";
import { gunzipSync, gzipSync } from "node:zlib";
import { and, asc, eq, gt } from "drizzle-orm";
import Papa from "papaparse";
import type { BenchChannel } from "#core";
import { liveChunks } from "../db/schema.ts";
import type { Context } from "../services/context.ts";

const CHUNKS_AT_ONCE = 32;

/** One sample as it is kept: time, segment, values. */
export type JournalRow = readonly [tS: number, segment: number, ...values: number[]];

export function packRows(rows: readonly JournalRow[], width: number): Buffer {
  const flat = new Float64Array(rows.length * width);
  rows.forEach((row, index) => flat.set(row, index * width));
  return gzipSync(Buffer.from(flat.buffer), { level: 1 });
}

export function unpackRows(bytes: Uint8Array): Float64Array {
  const plain = gunzipSync(bytes);
  return new Float64Array(plain.buffer.slice(plain.byteOffset, plain.byteOffset + plain.byteLength));
}

/** Walks through the kept samples of a live run in order, a few chunks at a time, so that a long run needs no more memory than a short one. */
export async function* chunksOf(
  { store }: Context,
  liveId: string,
): AsyncGenerator<{ flat: Float64Array; rows: number; seq: number }> {
  for (let after = -1; ; ) {
    const some = await store.db
      .select({ seq: liveChunks.seq, rows: liveChunks.rows, bytes: liveChunks.bytes })
      .from(liveChunks)
      .where(and(eq(liveChunks.liveId, liveId), gt(liveChunks.seq, after)))
      .orderBy(asc(liveChunks.seq))
      .limit(CHUNKS_AT_ONCE);
    for (const { rows, bytes, seq } of some) yield { flat: unpackRows(bytes), rows, seq };
    const last = some.at(-1);
    if (!last || some.length < CHUNKS_AT_ONCE) return;
    after = last.seq;
  }
}

/** The kept samples, thinned to about `most` rows by means, for drawing. */
export async function thinnedRows(
  context: Context,
  liveId: string,
  width: number,
  total: number,
  afterS: number,
  most: number,
): Promise<Array<Array<number | null>>> {
  const every = Math.max(1, Math.ceil(total / most));
  const thin = new Thinner(width, every);
  for await (const { flat, rows } of chunksOf(context, liveId))
    for (let row = 0; row < rows; row++)
      if ((flat[row * width] ?? 0) > afterS) thin.add(flat.subarray(row * width, (row + 1) * width));
  return thin.take();
}

/** Means of every few rows, time and values alike; the segment of the last. */
export class Thinner {
  readonly #sums: Float64Array;
  readonly #counts: Uint32Array;
  #held = 0;
  #segment = 0;
  #done: Array<Array<number | null>> = [];

  constructor(
    readonly width: number,
    readonly every: number,
  ) {
    this.#sums = new Float64Array(width);
    this.#counts = new Uint32Array(width);
  }

  add(row: ArrayLike<number>): void {
    for (let column = 0; column < this.width; column++) {
      const value = row[column] ?? Number.NaN;
      if (Number.isNaN(value)) continue;
      this.#sums[column] = (this.#sums[column] ?? 0) + value;
      this.#counts[column] = (this.#counts[column] ?? 0) + 1;
    }
    this.#segment = row[1] ?? 0;
    this.#held++;
    if (this.#held >= this.every) this.#close();
  }

  /** What is ready; an unfinished mean is closed too. */
  take(): Array<Array<number | null>> {
    if (this.#held > 0) this.#close();
    const done = this.#done;
    this.#done = [];
    return done;
  }

  #close(): void {
    const row = Array.from(this.#sums, (sum, column): number | null => {
      const count = this.#counts[column] ?? 0;
      return count === 0 ? null : Math.round((sum / count) * 100) / 100;
    });
    row[1] = this.#segment;
    this.#done.push(row);
    this.#sums.fill(0);
    this.#counts.fill(0);
    this.#held = 0;
  }
}

/** Writes one segment of a live run as a log file. @returns how many rows it has */
export async function writeSegment(
  context: Context,
  liveId: string,
  channels: readonly BenchChannel[],
  segment: number,
  startedMs: number,
  path: string,
): Promise<number> {
  const out = createWriteStream(path);
  const width = channels.length + 2;
  out.write(`${Papa.unparse([["Time", ...channels.map((channel) => channel.header)]])}\n`);
  let count = 0;
  for await (const { flat, rows } of chunksOf(context, liveId)) {
    const lines: string[] = [];
    for (let row = 0; row < rows; row++) {
      const at = row * width;
      if (flat[at + 1] !== segment) continue;
      const tS = flat[at] ?? 0;
      // The log keeps its own clock: its day, and how long ago its load was, are told by it.
      let text = new Date(startedMs + Math.round(tS * 1000)).toISOString();
      for (let column = 2; column < width; column++) {
        const value = flat[at + column] ?? Number.NaN;
        text += Number.isNaN(value) ? "," : `,${Math.round(value * 1000) / 1000}`;
      }
      lines.push(text);
      count++;
    }
    if (lines.length > 0 && !out.write(`${lines.join("\n")}\n`))
      await new Promise<void>((resolve) => out.once("drain", resolve));
  }
  await new Promise<void>((resolve, reject) => {
    out.once("error", reject);
    out.end(resolve);
  });
  return count;
}
