import { nth } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";
import { seeded } from "../random/index.ts";
import { isSeated } from "./contact.ts";
import { prepare, type Solved, solveContact } from "./solve.ts";
import type { Stack } from "./stack.ts";

export interface Choice {
  id: string;
  /** Null where no offered thickness touches without unseating the die. */
  thicknessMm: number | null;
  touchProbability: number | null;
  seatProbability: number | null;
}

export interface ChooseOptions {
  /** Half-width of the independent, uniform error of every gap, mm. */
  toleranceMm?: number;
  samples?: number;
  seed?: number;
  /** Called with the share done, 0…1. */
  progress?: (share: number) => void;
}

const MOST_TRIES = 24;
const MOST_MENDS = 3;
/** Cases drawn to see which pads hardly touch, and how often one must to be left as it is. */
const FEW = 16;
const SURE = 0.9;
const USUAL_SAMPLES = 60;

interface Chances {
  /** Of each component's pad. */
  touches: number[];
  seats: number;
}

/**
 * Chooses a thickness for every padded place: the thinnest that surely touches, then thinner ones where the die does not seat, then thicker
 * ones where the board bends away from a pad and the die still seats with them; the chances come from sampled gaps.
 * @param thicknessesMm offered single pads, mm; `layers` of each pad stays as given
 * @throws Problem `bad-thickness` when none is offered
 */
export function choose(stack: Stack, thicknessesMm: readonly number[], options: ChooseOptions = {}): Choice[] {
  const offered = [...new Set(thicknessesMm)].filter((one) => one > 0).sort((a, b) => a - b);
  if (offered.length === 0)
    throw new Problem({
      code: "bad-thickness",
      what: "No thickness is offered.",
      remedy: "Give them in millimetres, such as 0.5,1,1.5,2.",
    });
  const toleranceMm = options.toleranceMm ?? 0.1;
  const prepared = prepare(stack);
  const nominal = stack.components.map((component) => component.gapMm);
  const layers = stack.components.map(({ pad }) => pad?.layers ?? 1);
  const has = stack.components.map(({ pad }) => pad !== null);
  const total = (index: number, single: number | null): number => (single === null ? 0 : single * nth(layers, index));
  const chosen = nominal.map((gapMm, index): number | null => {
    if (!has[index]) return null;
    // Surely touching, bow of the board left out: above the largest gap that may be meant.
    return (
      offered.find((one) => total(index, one) >= gapMm + toleranceMm) ??
      offered.find((one) => total(index, one) > gapMm) ??
      null
    );
  });
  const solve = (gapsMm: readonly number[], picks: ReadonlyArray<number | null>, start?: Float64Array): Solved =>
    solveContact(prepared, { gapsMm, thicknessesMm: picks.map((pick, index) => total(index, pick)) }, start);

  let solved = solve(nominal, chosen);
  for (let turn = 0; turn < MOST_TRIES && !isSeated(prepared, solved); turn++) {
    // The place that pushes hardest gives way: a thinner pad that still touches, else none.
    const worst = solved.pads
      .map(({ forceN }, index) => ({ forceN, index }))
      .filter(({ index }) => chosen[index] !== null && chosen[index] !== undefined)
      .sort((a, b) => b.forceN - a.forceN)[0];
    if (!worst || worst.forceN <= 0) break;
    const now = chosen[worst.index] ?? 0;
    const thinner = offered.filter((one) => one < now && total(worst.index, one) > nth(nominal, worst.index)).at(-1);
    chosen[worst.index] = thinner ?? null;
    solved = solve(nominal, chosen, solved.unknowns);
  }

  const random = seeded(options.seed ?? 1);
  const drawn = (count: number, progress?: (share: number) => void): Chances => {
    const gapsOf = (): number[] => nominal.map((gapMm) => Math.max(0, gapMm + toleranceMm * random.between(-1, 1)));
    const cases = Array.from({ length: count }, (_, k) => {
      const found = solve(gapsOf(), chosen, solved.unknowns);
      progress?.((k + 1) / count);
      return found;
    });
    const share = (holds: (found: Solved) => boolean): number => cases.filter(holds).length / count;
    return {
      touches: nominal.map((_, index) => share((found) => found.pads[index]?.contact ?? false)),
      seats: share((found) => isSeated(prepared, found)),
    };
  };
  // The board may bend away from a pad that would do on a flat one: the next thicker there, while the die still seats.
  for (let turn = 0; turn < MOST_MENDS && isSeated(prepared, solved); turn++) {
    const { touches } = drawn(FEW);
    const tried = chosen.map((pick, index) =>
      pick !== null && nth(touches, index) < SURE ? (offered.find((one) => one > pick) ?? pick) : pick,
    );
    if (tried.every((pick, index) => pick === chosen[index])) break;
    const found = solve(nominal, tried, solved.unknowns);
    if (!isSeated(prepared, found)) break;
    tried.forEach((pick, index) => {
      chosen[index] = pick;
    });
    solved = found;
  }
  chosen.forEach((_, index) => {
    if (!solved.pads[index]?.contact) chosen[index] = null;
  });
  const { touches, seats } = drawn(options.samples ?? USUAL_SAMPLES, options.progress);
  return stack.components.flatMap((component, index): Choice[] => {
    if (!component.pad) return [];
    const thicknessMm = chosen[index] ?? null;
    return [
      {
        id: component.id,
        thicknessMm,
        touchProbability: thicknessMm === null ? null : nth(touches, index),
        seatProbability: thicknessMm === null ? null : seats,
      },
    ];
  });
}
