import { join } from "node:path";
import { Worker } from "node:worker_threads";
import type { ProblemDetail } from "#core";
import { type Day, type DayPlan, startsOf } from "#core/day/index.ts";
import { root } from "../root.ts";
import type { PlanRequest } from "./worker.ts";

type Answer = { ok: DayPlan } | { problem: ProblemDetail } | { fault: string };

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
  /** What the last plan was made of, and what came of it. */
  key = "";
  plan: DayPlan | null = null;
  problem: ProblemDetail | null = null;

  constructor(private readonly log: (error: unknown) => void) {}

  get isPlanning(): boolean {
    return this.#isBusy;
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
    const request: PlanRequest = {
      day,
      last: this.plan ? startsOf(this.plan) : new Map(),
      seconds: this.plan ? SECONDS.again : SECONDS.first,
    };
    this.#timer = setTimeout(() => this.#ended(key, { fault: "planning took too long" }), LONGEST_MS);
    this.#timer.unref();
    this.#thread(key).postMessage(request);
  }

  #thread(key: string): Worker {
    const worker = this.#worker ?? new Worker(WORKER);
    this.#worker = worker;
    worker.removeAllListeners();
    worker.once("message", (answer: Answer) => this.#ended(key, answer));
    worker.once("error", (error) => this.#ended(key, { fault: error.message }));
    worker.unref();
    return worker;
  }

  #ended(key: string, answer: Answer): void {
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
