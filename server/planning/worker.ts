import { parentPort } from "node:worker_threads";
import { type Day, planDay } from "#core/day/index.ts";
import { Problem } from "#core/problem/index.ts";

export interface PlanRequest {
  day: Day;
  last: ReadonlyMap<string, number>;
  seconds: number;
}

const now = (): number => performance.now();

/** One day in, one plan out; Problems travel as plain details. */
parentPort?.on("message", ({ day, last, seconds }: PlanRequest) => {
  try {
    parentPort?.postMessage({ ok: planDay(day, { last, now, until: now() + 1000 * seconds }) });
  } catch (error) {
    if (error instanceof Problem) parentPort?.postMessage({ problem: error.detail() });
    else parentPort?.postMessage({ fault: error instanceof Error ? error.message : String(error) });
  }
});
