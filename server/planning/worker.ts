import { parentPort } from "node:worker_threads";
import { type Day, planDay } from "#core/day/index.ts";
import { Problem } from "#core/problem/index.ts";
import { stepBack } from "../threads.ts";

export interface PlanRequest {
  day: Day;
  last: ReadonlyMap<string, number>;
  seconds: number;
  /** Set to 1: the best plan so far is taken. */
  stop: Int32Array;
}

/** Of the time, from one word of how far it is to the next. */
const STEP = 0.05;

const now = (): number => performance.now();

stepBack();

/** One day in, one plan out; Problems travel as plain details. */
parentPort?.on("message", ({ day, last, seconds, stop }: PlanRequest) => {
  let said = 0;
  const onProgress = (share: number): void => {
    if (share < said + STEP) return;
    said = share;
    parentPort?.postMessage({ share });
  };
  const isCancelled = (): boolean => Atomics.load(stop, 0) === 1;
  try {
    parentPort?.postMessage({
      ok: planDay(day, { last, now, until: now() + 1000 * seconds, onProgress, isCancelled }),
    });
  } catch (error) {
    if (error instanceof Problem) parentPort?.postMessage({ problem: error.detail() });
    else parentPort?.postMessage({ fault: error instanceof Error ? error.message : String(error) });
  }
});
