import { existsSync } from "node:fs";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { Problem, type ProblemDetail } from "#core";
import { root } from "../root.ts";
import { type Ingested, type IngestRequest, ingest } from "./ingest.ts";

type Answer = { ok: Ingested } | { problem: ProblemDetail } | { fault: string };

const WORKER = join(root, "dist", "node", "ingest-worker.mjs");

/** Logs are read in a thread of their own, one at a time, so that the server goes on answering. */
export class IngestPool {
  #last: Promise<unknown> = Promise.resolve();
  #worker: Worker | undefined;

  run(request: IngestRequest): Promise<Ingested> {
    const turn = this.#last.then(() => this.#ask(request));
    this.#last = turn.catch(() => undefined);
    return turn;
  }

  async close(): Promise<void> {
    await this.#worker?.terminate();
    this.#worker = undefined;
  }

  #ask(request: IngestRequest): Promise<Ingested> {
    if (!existsSync(WORKER)) return Promise.resolve().then(() => ingest(request));
    this.#worker ??= new Worker(WORKER);
    const worker = this.#worker;
    return new Promise((resolve, reject) => {
      const fail = (error: Error): void => {
        this.#worker = undefined;
        reject(error);
      };
      worker.once("message", (answer: Answer) => {
        worker.off("error", fail);
        if ("ok" in answer) resolve(answer.ok);
        else reject("problem" in answer ? new Problem(answer.problem) : new Error(answer.fault));
      });
      worker.once("error", fail);
      worker.postMessage(request);
    });
  }
}
