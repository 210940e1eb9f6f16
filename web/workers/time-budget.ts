import type { Answer } from "./run-session.ts";

/** Reading the largest log that is taken needs a fifth of that on two cores. */
const LONGEST_MS = 60_000;

/**
 * What a worker answers, within its time.
 * @param stop ends the worker, which reads on otherwise
 */
export function withinBudget<T>(
  work: Promise<Answer<T>>,
  stop: () => void,
  longestMs = LONGEST_MS,
): Promise<Answer<T>> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => {
      stop();
      resolve({
        problem: {
          code: "too-slow",
          what: `Reading this log took more than ${longestMs / 1000} s and was stopped.`,
          remedy: "Drop a shorter part of it, or one with fewer columns.",
        },
      });
    }, longestMs);
    work.then(resolve, reject).finally(() => clearTimeout(timer));
  });
}
