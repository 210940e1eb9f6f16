import { parentPort } from "node:worker_threads";
import { Problem } from "#core";
import { type IngestRequest, ingest } from "./ingest.ts";

/** One request in, one answer out; Problems travel as plain details. */
parentPort?.on("message", (request: IngestRequest) => {
  try {
    parentPort?.postMessage({ ok: ingest(request) });
  } catch (error) {
    if (error instanceof Problem) parentPort?.postMessage({ problem: error.detail() });
    else parentPort?.postMessage({ fault: error instanceof Error ? error.message : String(error) });
  }
});
