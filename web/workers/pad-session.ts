import { type BoardMap, type Point, straighten } from "#core/boardmap/index.ts";
import { type CuttingTask, planCuts } from "#core/cutting/index.ts";
import { type Fastening, fasten } from "#core/fasteners/index.ts";
import { fastenStackOf } from "#core/handwork/index.ts";
import { type Imprint, proposeImprint } from "#core/imprint/index.ts";
import {
  bareStackOf,
  type ChoosePadsInput,
  choosePads,
  judgeOn,
  type LastJudged,
  type PadWork,
  stackOf,
} from "#core/padplan/index.ts";
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

  /**
   * How the cooler's screws are turned.
   * @param work the pads they close over; null for die and screws alone
   */
  fasten(map: BoardMap, work: PadWork | null, progress: (share: number) => void): PadAnswer<Fastening> {
    return answer(() =>
      fasten(fastenStackOf(map, work ? stackOf({ ...work, map }) : bareStackOf(map)), { onProgress: progress }),
    );
  }

  /** What a straightened photo of a die shows. */
  imprint(pixels: Uint8ClampedArray, width: number, height: number, swapped: boolean): Imprint {
    return proposeImprint(pixels, width, height, swapped);
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
