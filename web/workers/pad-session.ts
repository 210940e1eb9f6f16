import { type Point, straighten } from "#core/boardmap/index.ts";
import { type CuttingTask, planCuts } from "#core/cutting/index.ts";
import { type ChoosePadsInput, choosePads, judgeOn, type LastJudged, type PadWork } from "#core/padplan/index.ts";
import { Problem, type ProblemDetail } from "#core/problem/index.ts";

export type PadAnswer<T> = { ok: T } | { problem: ProblemDetail };

/** Contact, choosing and cutting off the page's thread. */
export class PadSession {
  #last: LastJudged | undefined;

  /** Starts from the answer before, which is near while something is dragged. */
  judge(work: PadWork) {
    return answer(() => {
      const { judgement, ...last } = judgeOn(work, this.#last);
      this.#last = last;
      return judgement;
    });
  }

  choose(input: ChoosePadsInput, progress: (share: number) => void) {
    return answer(() => choosePads(input, { progress }));
  }

  /** @param seconds how long better plans are looked for */
  cut(task: CuttingTask, seconds: number) {
    return answer(() => planCuts(task, { now: () => performance.now(), until: performance.now() + 1000 * seconds }));
  }

  straighten(
    pixels: Uint8ClampedArray,
    width: number,
    height: number,
    marks: readonly Point[],
    out: { width: number; height: number },
  ) {
    return answer(() => straighten(pixels, width, height, marks, out));
  }
}

function answer<T>(work: () => T): PadAnswer<T> {
  try {
    return { ok: work() };
  } catch (error) {
    if (error instanceof Problem) return { problem: error.detail() };
    throw error;
  }
}
