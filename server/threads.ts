import { existsSync, readlinkSync } from "node:fs";
import { constants, setPriority } from "node:os";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { Problem, type ProblemDetail } from "#core";
import { root } from "./root.ts";

/** What a thread gives back; Problems travel as plain details. */
export type ThreadAnswer<T> = { ok: T } | { problem: ProblemDetail } | { fault: string };

export interface ThreadsOptions<Asked, T> {
  /** Name of the bundle's entry that serves in a thread. */
  entry: string;
  /** At most so many. */
  threads: number;
  /** A request that takes longer is ended with its thread, ms. */
  longestMs: number;
  tooSlow: (seconds: number) => Problem;
  /** Serves here where there is no bundle. */
  here: (asked: Asked) => Promise<T> | T;
}

/** What would stand on the server's thread, in threads of its own: so many at a time, the rest in line, each for a limited time. */
export class Threads<Asked, T> {
  readonly #workers = new Set<Worker>();
  readonly #idle: Worker[] = [];
  readonly #waiting: Array<() => void> = [];
  #free: number;
  #isClosed = false;

  constructor(private readonly options: ThreadsOptions<Asked, T>) {
    this.#free = options.threads;
  }

  /** @throws Problem what the thread says, and `tooSlow` */
  async run(asked: Asked): Promise<T> {
    const entry = join(root, "dist", "node", `${this.options.entry}.mjs`);
    if (!existsSync(entry)) return this.options.here(asked);
    if (this.#free > 0) this.#free--;
    else await new Promise<void>((resolve) => this.#waiting.push(resolve));
    try {
      return await this.#ask(entry, asked);
    } finally {
      const next = this.#waiting.shift();
      if (next) next();
      else this.#free++;
    }
  }

  async close(): Promise<void> {
    this.#isClosed = true;
    await Promise.all([...this.#workers].map((worker) => worker.terminate()));
  }

  async #ask(entry: string, asked: Asked): Promise<T> {
    if (this.#isClosed) throw ended();
    const worker = this.#idle.pop() ?? new Worker(entry);
    this.#workers.add(worker);
    try {
      const answer = await this.#answerOf(worker, asked);
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

  #answerOf(worker: Worker, asked: Asked): Promise<ThreadAnswer<T>> {
    const { longestMs, tooSlow } = this.options;
    return new Promise((resolve, reject) => {
      const done = (): void => {
        clearTimeout(timer);
        worker.off("message", answered);
        worker.off("error", failed);
        worker.off("exit", gone);
      };
      const answered = (answer: ThreadAnswer<T>): void => {
        done();
        resolve(answer);
      };
      const failed = (error: Error): void => {
        done();
        reject(error);
      };
      const gone = (): void => failed(ended());
      const timer = setTimeout(() => failed(tooSlow(longestMs / 1000)), longestMs);
      worker.on("message", answered);
      worker.on("error", failed);
      worker.on("exit", gone);
      worker.postMessage(asked);
    });
  }
}

const ended = (): Error => new Error("The server is closing: its threads were ended.");

/** Serves a thread's requests, one after the other. */
export async function answerFor<T>(serve: () => Promise<T> | T): Promise<ThreadAnswer<T>> {
  try {
    return { ok: await serve() };
  } catch (error) {
    if (error instanceof Problem) return { problem: error.detail() };
    return { fault: error instanceof Error ? (error.stack ?? error.message) : String(error) };
  }
}

/** Called in a thread: whoever waits for a page comes before it. Linux alone ranks threads, by their own number. */
export function stepBack(): void {
  try {
    setPriority(Number(readlinkSync("/proc/thread-self").split("/").at(-1)), constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // Elsewhere all threads of a process are ranked alike.
  }
}
