import { existsSync } from "node:fs";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { Problem, type ProblemDetail } from "#core";
import { root } from "../root.ts";
import { type Ingested, type IngestRequest, ingest } from "./ingest.ts";

type Answer = { ok: Ingested } | { problem: ProblemDetail } | { fault: string };

const WORKER = join(root, "dist", "node", "ingest-worker.mjs");

/** Reading the largest log that is taken needs a fifth of that on two cores. */
const LONGEST_MS = 60_000;
/** A second thread goes on with other logs while a slow one is read. */
const THREADS = 2;

export interface PoolOptions {
  longestMs?: number;
}

/** Logs are read in threads of their own, so that the server goes on answering, and for a limited time each. */
export class IngestPool {
  readonly #workers = new Set<Worker>();
  readonly #idle: Worker[] = [];
  readonly #waiting: Array<() => void> = [];
  readonly #longestMs: number;
  #free = THREADS;

  constructor({ longestMs = LONGEST_MS }: PoolOptions = {}) {
    this.#longestMs = longestMs;
  }

  /** @throws Problem those of `ingest`, and `too-slow` */
  async run(request: IngestRequest): Promise<Ingested> {
    if (!existsSync(WORKER)) return ingest(request);
    if (this.#free > 0) this.#free--;
    else await new Promise<void>((resolve) => this.#waiting.push(resolve));
    try {
      return await this.#ask(request);
    } finally {
      const next = this.#waiting.shift();
      if (next) next();
      else this.#free++;
    }
  }

  async close(): Promise<void> {
    await Promise.all([...this.#workers].map((worker) => worker.terminate()));
  }

  async #ask(request: IngestRequest): Promise<Ingested> {
    const worker = this.#idle.pop() ?? new Worker(WORKER);
    this.#workers.add(worker);
    try {
      const answer = await answerOf(worker, request, this.#longestMs);
      this.#idle.push(worker);
      if ("ok" in answer) return answer.ok;
      throw "problem" in answer ? new Problem(answer.problem) : new Error(answer.fault);
    } catch (error) {
      if (!this.#idle.includes(worker)) {
        this.#workers.delete(worker);
        await worker.terminate();
      }
      throw error;
    }
  }
}

function answerOf(worker: Worker, request: IngestRequest, longestMs: number): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const done = (): void => {
      clearTimeout(timer);
      worker.off("message", answered);
      worker.off("error", failed);
      worker.off("exit", ended);
    };
    const answered = (answer: Answer): void => {
      done();
      resolve(answer);
    };
    const failed = (error: Error): void => {
      done();
      reject(error);
    };
    const ended = (): void => failed(new Error("The reading of a log was ended."));
    const timer = setTimeout(
      () =>
        failed(
          new Problem({
            code: "too-slow",
            what: `Reading this log took more than ${longestMs / 1000} s and was stopped.`,
            remedy: "Drop a shorter part of it, or one with fewer columns.",
          }),
        ),
      longestMs,
    );
    worker.on("message", answered);
    worker.on("error", failed);
    worker.on("exit", ended);
    worker.postMessage(request);
  });
}
