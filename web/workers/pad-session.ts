import { type BoardMap, type Box, type Package, type Point, straighten } from "#core/boardmap/index.ts";
import { type Proposal, proposeParts } from "#core/boardphoto/index.ts";
import {
  checkDose,
  closing,
  leastDoseUl,
  PATTERNS,
  type Pattern,
  patternOf,
  pressing,
  type SpreadInput,
} from "#core/compound/index.ts";
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

  /** Where the compound goes, its dose and place checked first. */
  press(input: SpreadInput, cellMm: number) {
    return answer(() => {
      checkDose(input);
      return pressing(input, cellMm);
    });
  }

  /** The closing in moments, to be played. */
  closing(input: SpreadInput, moments: number, cellMm: number) {
    return answer(() => {
      checkDose(input);
      return closing(input, moments, cellMm);
    });
  }

  /** The least dose of the pattern as it lies. */
  leastDose(input: SpreadInput) {
    return answer(() => {
      checkDose(input);
      return { leastDoseUl: leastDoseUl(input) };
    });
  }

  /** Every school on this die: what this dose covers by it, and the least that would do. */
  schools(die: SpreadInput["die"], dose: number, bondLineUm: number, cellMm: number) {
    return answer(() =>
      (Object.keys(PATTERNS) as Pattern[]).map((pattern) => {
        const input = { die, bondLineUm, densityGPerMl: null, ...patternOf(pattern, die, dose) };
        const { coveragePct, squeezedOutUl, enclosedAirMm2 } = pressing(input, cellMm);
        return { pattern, coveragePct, squeezedOutUl, enclosedAirMm2, leastDoseUl: leastDoseUl(input, cellMm) };
      }),
    );
  }

  /** What a straightened photo of a die shows. */
  imprint(pixels: Uint8ClampedArray, width: number, height: number, swapped: boolean): Imprint {
    return proposeImprint(pixels, width, height, swapped);
  }

  /** Parts that a straightened photo of a board shows. */
  proposeParts(
    pixels: Uint8ClampedArray,
    width: number,
    height: number,
    place: Box,
    packages: readonly Package[],
  ): Proposal[] {
    return proposeParts(pixels, width, height, place, packages);
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
