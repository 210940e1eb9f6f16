import { nth } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";
import { seeded } from "../random/index.ts";
import { isSeated } from "./contact.ts";
import { type Chances, searchPads } from "./search.ts";
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

const USUAL_SAMPLES = 60;
/** Boards bow toward or away from the cooler by tenths of a millimetre: pads beyond are not tried, mm. */
const MOST_BOW_MM = { toward: 0.6, away: 0.8 };

/**
 * Chooses a thickness for every padded place by solved contact (`searchPads`): with the die seated, as many places as can be touched, as surely
 * as can be, with the least force; the chances come from sampled gaps.
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
  const { components } = stack;
  const nominal = components.map((component) => component.gapMm);
  const places = [...components.keys()].filter((index) => components[index]?.pad);
  const singles = places.map((index) => {
    const layers = components[index]?.pad?.layers ?? 1;
    const gapMm = nth(nominal, index);
    const surely = offered.find((one) => one * layers >= gapMm + toleranceMm) ?? 0;
    return offered.filter(
      (one) => one * layers > gapMm - MOST_BOW_MM.toward && (one <= surely || one * layers <= gapMm + MOST_BOW_MM.away),
    );
  });
  const offersMm = singles.map((list, k) => list.map((one) => one * (components[nth(places, k)]?.pad?.layers ?? 1)));
  const thicknessesOf = (choice: readonly number[]): number[] => {
    const all = components.map(() => 0);
    choice.forEach((pick, k) => {
      if (pick >= 0) all[nth(places, k)] = nth(offersMm[k] ?? [], pick);
    });
    return all;
  };
  const settled = new Map<string, Solved>();
  let last: Solved | undefined;
  /** With the gaps as they are meant; from the choice before, which is nearly the same. */
  const solve = (choice: readonly number[]): Solved => {
    const key = choice.join();
    const found =
      settled.get(key) ??
      solveContact(prepared, { gapsMm: nominal, thicknessesMm: thicknessesOf(choice) }, last?.unknowns);
    settled.set(key, found);
    last = found;
    return found;
  };
  // The same cases for every choice: what differs is then the choice's doing.
  const cases = sampledGaps(nominal, toleranceMm, options.seed ?? 1, options.samples ?? USUAL_SAMPLES);
  const sample = (choice: readonly number[], count: number, progress?: (share: number) => void): Chances => {
    const thicknessesMm = thicknessesOf(choice);
    const start = solve(choice).unknowns;
    const drawn = cases.slice(0, count).map((gapsMm, k) => {
      const found = solveContact(prepared, { gapsMm, thicknessesMm }, start);
      progress?.((k + 1) / count);
      return { seated: isSeated(prepared, found), touches: places.map((index) => found.pads[index]?.contact ?? false) };
    });
    const share = (holds: (one: (typeof drawn)[number]) => boolean): number =>
      drawn.filter(holds).length / drawn.length;
    return {
      touches: places.map((_, k) => share((one) => one.touches[k] ?? false)),
      seats: share((one) => one.seated),
    };
  };
  /** Of a flat board: the thinnest that reaches so far above each gap. */
  const flat = (aboveMm: number): number[] =>
    offersMm.map((list, k) => {
      const wanted = nth(nominal, nth(places, k)) + aboveMm;
      return (
        Math.max(
          0,
          list.findIndex((one) => one >= wanted),
        ) - Number(list.length === 0)
      );
    });
  const choice = searchPads(
    {
      offersMm,
      alike: alikePlaces(stack, places),
      toleranceMm: places.map(() => toleranceMm),
      solve: (picks) => {
        const found = solve(picks);
        const pads = places.map((index) => found.pads[index]);
        return {
          seated: isSeated(prepared, found),
          clearanceMm: pads.map((pad) => pad?.clearanceMm ?? Number.POSITIVE_INFINITY),
          forceN: pads.map((pad) => pad?.forceN ?? 0),
        };
      },
      sample,
    },
    [flat(toleranceMm), flat(0), flat(-0.15), flat(0.3)],
  );
  const { touches, seats } = sample(choice, cases.length, options.progress);
  return places.map((index, k): Choice => {
    const pick = nth(choice, k);
    const isBare = pick < 0 || (nth(touches, k) === 0 && toleranceMm > 0);
    return {
      id: components[index]?.id ?? "",
      thicknessMm: isBare ? null : nth(singles[k] ?? [], pick),
      touchProbability: isBare ? null : nth(touches, k),
      seatProbability: isBare ? null : seats,
    };
  });
}

function sampledGaps(nominal: readonly number[], toleranceMm: number, seed: number, count: number): number[][] {
  const random = seeded(seed);
  return Array.from({ length: count }, () =>
    nominal.map((gapMm) => Math.max(0, gapMm + toleranceMm * random.between(-1, 1))),
  );
}

/** Places of one kind, size, gap and pad. */
function alikePlaces({ components }: Stack, places: readonly number[]): number[][] {
  const groups = new Map<string, number[]>();
  places.forEach((index, k) => {
    const one = components[index];
    const key = JSON.stringify([
      one?.kind,
      one?.widthMm,
      one?.heightMm,
      one?.gapMm,
      one?.pad?.material,
      one?.pad?.layers,
    ]);
    groups.set(key, [...(groups.get(key) ?? []), k]);
  });
  return [...groups.values()];
}
