import { CLEAN, cleaningPlan } from "./clean.ts";
import { COMPOUND, readCompoundPlan } from "./compound.ts";
import { type Folded, foldMarks, isDone, type StepMark } from "./marks.ts";

/** What the steps of a service tell of how it was done; null where they don't. */
export interface HandsTold {
  done: string[];
  compound: string | null;
  compoundKind: string | null;
  /** How compound was put on. */
  pattern: string | null;
  cleaning: string | null;
  dirt: string | null;
}

/** What the last attempt's steps tell to Findings. */
export function toldByHands(marks: ReadonlyArray<StepMark & { station: string; attempt: number }>): HandsTold {
  const lastOf = (station: string): Folded => {
    const own = marks.filter((mark) => mark.station === station);
    const attempt = own.reduce((last, mark) => Math.max(last, mark.attempt), 0);
    return foldMarks(own.filter((mark) => mark.attempt === attempt));
  };
  const [clean, compound] = [lastOf("clean"), lastOf("compound")];
  const plan = isDone(compound, COMPOUND.end) ? readCompoundPlan(compound) : null;
  const how = isDone(clean, CLEAN.end) ? cleaningPlan(clean) : null;
  return {
    done: [...(plan ? ["repasted"] : []), ...(how ? ["cleaned"] : [])],
    compound: plan?.name ?? null,
    compoundKind: plan?.kind ?? null,
    pattern: plan?.pattern ?? null,
    cleaning: how ? (how.school === "wash" ? "with water" : "dry") : null,
    dirt: how?.dirt ?? null,
  };
}
