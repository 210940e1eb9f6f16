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

/**
 * Chooses a thickness for every padded place: the thinnest that surely touches, then thinner ones where the die does not seat; the
 * chances come from sampled gaps.
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
  const total = (index: number, single: number | null): number => (single === null ? 0 : single * (layers[index] ?? 1));
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
    const thinner = offered.filter((one) => one < now && total(worst.index, one) > (nominal[worst.index] ?? 0)).at(-1);
    chosen[worst.index] = thinner ?? null;
    solved = solve(nominal, chosen);
  }

  const count = options.samples ?? 60;
  const random = seeded(options.seed ?? 1);
  const touched = nominal.map(() => 0);
  let seats = 0;
  for (let sample = 0; sample < count; sample++) {
    const gapsMm = nominal.map((gapMm) => Math.max(0, gapMm + toleranceMm * random.between(-1, 1)));
    const drawn = solve(gapsMm, chosen, solved.unknowns);
    if (isSeated(prepared, drawn)) seats++;
    drawn.pads.forEach((pad, index) => {
      if (pad.contact) touched[index] = (touched[index] ?? 0) + 1;
    });
    options.progress?.((sample + 1) / count);
  }
  return stack.components.flatMap((component, index): Choice[] => {
    if (!component.pad) return [];
    const thicknessMm = chosen[index] ?? null;
    return [
      {
        id: component.id,
        thicknessMm,
        touchProbability: thicknessMm === null ? null : (touched[index] ?? 0) / count,
        seatProbability: thicknessMm === null ? null : seats / count,
      },
    ];
  });
}
