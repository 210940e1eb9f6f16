import { readlinkSync } from "node:fs";
import { constants, setPriority } from "node:os";
import { parentPort } from "node:worker_threads";
import { Problem } from "#core";
import { type IngestRequest, ingest } from "./ingest.ts";

/** Whoever waits for a page comes before whoever waits for a log. Linux alone ranks threads, by their own number. */
function stepBack(): void {
  try {
    setPriority(Number(readlinkSync("/proc/thread-self").split("/").at(-1)), constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // Elsewhere all threads of a process are ranked alike.
  }
}

stepBack();

/** One request in, one answer out; Problems travel as plain details. */
parentPort?.on("message", (request: IngestRequest) => {
  try {
    parentPort?.postMessage({ ok: ingest(request) });
  } catch (error) {
    if (error instanceof Problem) parentPort?.postMessage({ problem: error.detail() });
    else parentPort?.postMessage({ fault: error instanceof Error ? error.message : String(error) });
  }
});
