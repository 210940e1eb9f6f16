import { backId, CLOSE } from "./close-up.ts";
import { foldMarks, isDone, type StepMark } from "./marks.ts";
import { STEP } from "./strip.ts";

type OfAttempt = StepMark & { attempt: number };

const OUT = "out:";

/** Screws that are out, by what was marked. */
export function outOf(marks: readonly StepMark[]): string[] {
  return [...foldMarks(marks)].flatMap(([stepId, { done }]) =>
    done && stepId.startsWith(OUT) ? [stepId.slice(OUT.length)] : [],
  );
}

/** How far taking apart is, of the attempt that is being made. */
export function stripProgress(marks: readonly OfAttempt[], attempt: number) {
  const own = marks.filter((mark) => mark.attempt === attempt);
  return {
    begun: own.length > 0,
    before: marks.some((mark) => mark.attempt < attempt),
    finished: isDone(foldMarks(own), STEP.count),
    screwsOut: outOf(own).length,
  };
}

/** How far closing is, of the attempt that is being made. */
export function closeUpProgress(strip: readonly OfAttempt[], closeUp: readonly OfAttempt[], attempt: number) {
  const own = closeUp.filter((mark) => mark.attempt === attempt);
  const out = outOf(strip.filter((mark) => mark.attempt === attempt));
  const folded = foldMarks(own);
  const tightened = new Set(
    [...folded].flatMap(([stepId, { done }]) => (done && stepId.startsWith("tighten:") ? [stepId.split(":")[1]] : [])),
  );
  return {
    opened: strip.some((mark) => mark.attempt === attempt),
    begun: own.length > 0,
    finished: isDone(folded, CLOSE.count),
    screwsLeft: out.filter((id) => !isDone(folded, backId(id)) && !tightened.has(id)).length,
  };
}
