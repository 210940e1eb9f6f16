import { join } from "node:path";
import { Worker } from "node:worker_threads";
import type { ProblemDetail } from "#core";
import { type Day, type DayPlan, startsOf } from "#core/day/index.ts";
import { root } from "../root.ts";
import type { PlanRequest } from "./worker.ts";

/** How far it is, until one of the others comes. */
type Answer = { share: number } | { ok: DayPlan } | { problem: ProblemDetail } | { fault: string };

const WORKER = join(root, "dist", "node", "planning-worker.mjs");
/** A first plan, and one after a change. */
const SECONDS = { first: 2, again: 1 };
/** A thread that says nothing for so long is ended. */
const LONGEST_MS = 20_000;

/** Plans days in a thread of its own, one at a time: of those that come meanwhile the newest is made next. */
export class Planner {
  #worker: Worker | null = null;
  #isBusy = false;
  #next: { key: string; day: Day } | null = null;
  #timer: NodeJS.Timeout | undefined;
  #share = 0;
  /** Read by the thread while it looks. */
  readonly #stop = new Int32Array(new SharedArrayBuffer(4));
  /** What the last plan was made of, and what came of it. */
  key = "";
  plan: DayPlan | null = null;
  problem: ProblemDetail | null = null;

  constructor(private readonly log: (error: unknown) => void) {}

  get isPlanning(): boolean {
    return this.#isBusy;
  }

  /** How far the plan being made is, 0…1; null where none is. */
  get progress(): number | null {
    return this.#isBusy ? this.#share : null;
  }

  /** Takes the best plan that was found so far. */
  endSearch(): void {
    if (this.#isBusy) Atomics.store(this.#stop, 0, 1);
  }

  /** Has a plan made of this day, unless it is the one that was made or is being made. */
  ask(key: string, day: Day): void {
    if (this.#isBusy) this.#next = { key, day };
    else this.#make(key, day);
  }

  async close(): Promise<void> {
    this.#next = null;
    clearTimeout(this.#timer);
    await this.#worker?.terminate();
  }

  #make(key: string, day: Day): void {
    this.#isBusy = true;
    this.#share = 0;
    Atomics.store(this.#stop, 0, 0);
    const request: PlanRequest = {
      day,
      last: this.plan ? startsOf(this.plan) : new Map(),
      seconds: this.plan ? SECONDS.again : SECONDS.first,
      stop: this.#stop,
    };
    this.#timer = setTimeout(() => this.#ended(key, { fault: "planning took too long" }), LONGEST_MS);
    this.#timer.unref();
    this.#thread(key).postMessage(request);
  }

  #thread(key: string): Worker {
    const worker = this.#worker ?? new Worker(WORKER);
    this.#worker = worker;
    worker.removeAllListeners();
    worker.on("message", (answer: Answer) => this.#heard(key, answer));
    worker.once("error", (error) => this.#ended(key, { fault: error.message }));
    worker.unref();
    return worker;
  }

  #heard(key: string, answer: Answer): void {
    if ("share" in answer) this.#share = answer.share;
    else this.#ended(key, answer);
  }

  #ended(key: string, answer: Exclude<Answer, { share: number }>): void {
    clearTimeout(this.#timer);
    this.#isBusy = false;
    this.key = key;
    if ("ok" in answer) [this.plan, this.problem] = [answer.ok, null];
    else if ("problem" in answer) this.problem = answer.problem;
    else {
      this.log(new Error(answer.fault));
      void this.#worker?.terminate();
      this.#worker = null;
    }
    const next = this.#next;
    this.#next = null;
    if (next && next.key !== key) this.#make(next.key, next.day);
  }
}
