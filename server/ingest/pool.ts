import { Problem } from "#core";
import { Threads } from "../threads.ts";
import { type Ingested, type IngestRequest, ingest } from "./ingest.ts";

/** Reading the largest log that is taken needs a fifth of that on two cores. */
const LONGEST_MS = 60_000;
/** A second thread goes on with other logs while a slow one is read. */
const THREADS = 2;

/** Reads logs: so that the server goes on answering, and for a limited time each. */
export class IngestPool extends Threads<IngestRequest, Ingested> {
  /** @throws (from `run`) Problem those of `ingest`, and `too-slow` */
  constructor({ longestMs = LONGEST_MS }: { longestMs?: number } = {}) {
    super({
      entry: "ingest-worker",
      threads: THREADS,
      longestMs,
      here: ingest,
      tooSlow: (seconds) =>
        new Problem({
          code: "too-slow",
          what: `Reading this log took more than ${seconds} s and was stopped.`,
          remedy: "Drop a shorter part of it, or one with fewer columns.",
        }),
    });
  }
}
