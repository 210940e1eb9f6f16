import { last, nth } from "../numeric/index.ts";
import type { CuttingTask } from "./problem.ts";

/** A size of piece; pieces of one size are alike whatever they are called. */
export interface Size {
  widthMm: number;
  heightMm: number;
  /** How many are wanted. */
  count: number;
}

interface Bin {
  widthMm: number;
  heightMm: number;
}

export interface Laid {
  size: number;
  xMm: number;
  yMm: number;
  widthMm: number;
  heightMm: number;
}

/** Lengths are counted in thousandths of a millimetre. */
const PER_MM = 1000;
/** Cuts are looked for at so many places across a sheet at most; where there are more, pieces are rounded down to as many steps. */
const MOST_PLACES = 150;

/** Beyond this many of the smallest piece side by side there is no table. */
const MOST_ACROSS = 400;

/** Whether a table of these pieces is small enough to be worked out again and again. */
export function canBeTabled(sizes: readonly Size[], bins: readonly Bin[], gapMm: number): boolean {
  const least = Math.min(...sizes.flatMap(({ widthMm, heightMm }) => [widthMm, heightMm])) + gapMm;
  const most = Math.max(...bins.flatMap(({ widthMm, heightMm }) => [widthMm, heightMm])) + gapMm;
  return most / least <= MOST_ACROSS;
}

/** Places of cuts along one side of a sheet: sums of piece lengths are enough. */
interface Axis {
  /** In steps, rising from 0. */
  places: number[];
  /** Of each turn of each piece, in steps. */
  lengths: number[];
  /** A step in thousandths of a millimetre. */
  step: number;
  /** `down[i][k]`: the last place not above places[i] − places[k]. */
  down: Int16Array[];
  exact: boolean;
}

function axisOf(lengthsMm: readonly number[], longestMm: number): Axis {
  const wholes = lengthsMm.map((mm) => Math.floor(mm * PER_MM + 1e-3));
  const end = Math.floor(longestMm * PER_MM + 1e-3);
  const sums = sumsUpTo(wholes, end);
  // No piece may be rounded down to nothing, nor up: the smallest is one step at least.
  const step = sums ? 1 : Math.max(1, Math.min(Math.ceil(end / MOST_PLACES), ...wholes));
  const lengths = wholes.map((whole) => Math.floor(whole / step));
  const places = sums ?? Array.from({ length: Math.floor(end / step) + 1 }, (_, k) => k);
  const down = places.map((at) => Int16Array.from(places, (other) => lastBelow(places, at - other)));
  const exact = sums !== undefined && lengthsMm.every((mm, k) => Math.abs(mm * PER_MM - nth(wholes, k)) < 1e-3);
  return { places, lengths, step, down, exact };
}

function sumsUpTo(lengths: readonly number[], end: number): number[] | undefined {
  const sums = new Set([0]);
  // A set is walked through with what is added on the way.
  for (const sum of sums)
    for (const length of lengths) {
      if (sum + length <= end) sums.add(sum + length);
      if (sums.size > MOST_PLACES) return undefined;
    }
  return [...sums].sort((a, b) => a - b);
}

/** Index of the last place not above a length; −1 below 0. */
function lastBelow(places: readonly number[], length: number): number {
  let low = -1;
  let high = places.length;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (nth(places, middle) <= length) low = middle;
    else high = middle;
  }
  return low;
}

const NOTHING = 0;
const NARROWER = 1;
const LOWER = 2;
const FIRST_PIECE = 3;

/**
 * The most valuable pieces that straight cuts get out of a sheet, with as many as fit of each size; one table serves all sheets
 * (P. C. Gilmore and R. E. Gomory, 'Multistage cutting stock problems of two and more dimensions', 1965; from memory). No plan puts more
 * value on a sheet, since a plan has only so many pieces of each size.
 */
export class GuillotineTable {
  private readonly x: Axis;
  private readonly y: Axis;
  private readonly turns: Array<{ size: number; widthMm: number; heightMm: number }>;
  private readonly best: Float64Array;
  /** What the best of each cell is made of; below 0: a cut across at place −how, or along at −how − places across. */
  private readonly how: Int32Array;

  constructor(
    sizes: readonly Size[],
    bins: readonly Bin[],
    private readonly rules: Pick<CuttingTask, "cutGapMm" | "rotate">,
  ) {
    const gap = rules.cutGapMm;
    this.turns = sizes.flatMap(({ widthMm, heightMm }, size) => [
      { size, widthMm, heightMm },
      ...(rules.rotate && widthMm !== heightMm ? [{ size, widthMm: heightMm, heightMm: widthMm }] : []),
    ]);
    const longest = (of: (bin: Bin) => number): number => Math.max(...bins.map(of)) + gap;
    this.x = axisOf(
      this.turns.map((one) => one.widthMm + gap),
      longest((bin) => bin.widthMm),
    );
    this.y = axisOf(
      this.turns.map((one) => one.heightMm + gap),
      longest((bin) => bin.heightMm),
    );
    this.best = new Float64Array(this.x.places.length * this.y.places.length);
    this.how = new Int32Array(this.best.length);
  }

  /** Whether no size was rounded, so that patterns can be cut as they are. */
  get exact(): boolean {
    return this.x.exact && this.y.exact;
  }

  /** Works the table out for these values of the sizes. */
  work(values: ArrayLike<number>): void {
    const { x, y, best, how } = this;
    const across = x.places.length;
    const along = y.places.length;
    best.fill(0);
    how.fill(NOTHING);
    this.turns.forEach(({ size }, turn) => {
      const [width = 0, height = 0] = [x.lengths[turn], y.lengths[turn]];
      const cell = lastBelow(x.places, width) * along + lastBelow(y.places, height);
      const fits = width <= last(x.places) && height <= last(y.places);
      if (!fits || nth(values, size) <= nth(best, cell)) return;
      best[cell] = nth(values, size);
      how[cell] = FIRST_PIECE + turn;
    });
    // All indices lie inside, so the loops need not ask.
    for (let i = 0; i < across; i++) {
      const downX = x.down[i] as Int16Array;
      for (let j = 0; j < along; j++) {
        const downY = y.down[j] as Int16Array;
        const cell = i * along + j;
        let most = best[cell] as number;
        let found = how[cell] as number;
        const take = (value: number, from: number): void => {
          if (value <= most + 1e-12) return;
          most = value;
          found = from;
        };
        if (i > 0) take(best[cell - along] as number, NARROWER);
        if (j > 0) take(best[cell - 1] as number, LOWER);
        for (let k = 1; k <= (downX[k] as number); k++)
          take((best[k * along + j] as number) + (best[(downX[k] as number) * along + j] as number), -k);
        for (let k = 1; k <= (downY[k] as number); k++)
          take((best[i * along + k] as number) + (best[i * along + (downY[k] as number)] as number), -across - k);
        best[cell] = most;
        how[cell] = found;
      }
    }
  }

  /** The most that the pieces on one such sheet are worth. */
  valueOf(bin: Bin): number {
    const [i, j] = this.cellOf(bin);
    return nth(this.best, i * this.y.places.length + j);
  }

  /** The pieces that are worth it and where they lie, mm from the lower-left corner. */
  patternOf(bin: Bin): Laid[] {
    const { x, y, how } = this;
    const laid: Laid[] = [];
    const walk = (i: number, j: number, left: number, lower: number): void => {
      const found = how[i * y.places.length + j] ?? NOTHING;
      if (found === NARROWER) walk(i - 1, j, left, lower);
      else if (found === LOWER) walk(i, j - 1, left, lower);
      else if (found >= FIRST_PIECE) {
        const turn = this.turns[found - FIRST_PIECE];
        if (turn) laid.push({ ...turn, xMm: (left * x.step) / PER_MM, yMm: (lower * y.step) / PER_MM });
      } else if (found < -x.places.length) {
        const k = -found - x.places.length;
        walk(i, k, left, lower);
        walk(i, y.down[j]?.[k] ?? 0, left, lower + nth(y.places, k));
      } else if (found < NOTHING) {
        walk(-found, j, left, lower);
        walk(x.down[i]?.[-found] ?? 0, j, left + nth(x.places, -found), lower);
      }
    };
    walk(...this.cellOf(bin), 0, 0);
    return laid;
  }

  private cellOf({ widthMm, heightMm }: Bin): [number, number] {
    const steps = (mm: number, { step }: Axis): number =>
      Math.floor(((mm + this.rules.cutGapMm) * PER_MM + 1e-3) / step);
    return [lastBelow(this.x.places, steps(widthMm, this.x)), lastBelow(this.y.places, steps(heightMm, this.y))];
  }
}
