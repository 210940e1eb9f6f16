import type { Random } from "../random/index.ts";
import { type Attempt, attemptOf, cheaperSets, type Used } from "./fill.ts";
import type { Item, Placed, Rules } from "./packing.ts";
import type { Sheet } from "./problem.ts";

/** Sheets that would be filled but for this share, or less, are tried. */
const MOST_WASTE = 0.04;
const PER_MM = 1000;
/** Above so many pieces, or so fine a common measure, a search from the bottom up does not come to an end. */
const MOST_PIECES = 60;
const MOST_UNITS = 4000;
/** Steps of one try, and tries, where there is no clock. */
const STEPS = 400_000;
const STEPS_AGAIN = 12_000;
const TRIES = { timed: 5000, untimed: 12 };
const EPSILON = 1e-9;

/** A piece in units of the common measure of all sides. */
interface Piece {
  item: Item;
  /** Its two ways to lie; one where they are the same or it may not be turned. */
  ways: ReadonlyArray<{ width: number; height: number; rotated: boolean }>;
  area: number;
}

interface Step {
  x: number;
  width: number;
  height: number;
}

/**
 * A plan on cheaper sheets than those known, filled with nearly no waste by cuts that need not be straight; undefined where none is found. A
 * sheet is filled from its bottom up: the lowest niche between higher neighbours is filled from its left, by pieces or, while the waste that
 * the sheets leave over allows it, by nothing. A niche that no sum of the sides left fills costs waste, which ends most tries early.
 * @param limits no plan costs less than `bound`; only those below `below` are wanted
 */
export function byNiches(
  items: readonly Item[],
  stock: readonly Sheet[],
  rules: Rules,
  { bound, below }: { bound: number; below: number },
  random: Random,
  stop: (() => boolean) | undefined,
): Attempt | undefined {
  if (rules.cutGapMm > 0 || rules.straightCuts || items.length > MOST_PIECES) return undefined;
  const area = items.reduce((sum, one) => sum + one.widthMm * one.heightMm, 0);
  const sets = cheaperSets(stock, area, bound, below)
    .map((set) => ({ set, room: set.reduce((sum, one) => sum + one.widthMm * one.heightMm, 0) - area }))
    .filter(({ room }) => room <= MOST_WASTE * area);
  const unit = commonMeasure([...items, ...sets.flatMap(({ set }) => set)]);
  for (const { set, room } of sets) {
    if (set.some((sheet) => Math.max(sheet.widthMm, sheet.heightMm) / unit > MOST_UNITS)) continue;
    const pieces = piecesOf(items, rules.rotate, unit);
    const waste = Math.floor(room / (unit * unit) + EPSILON);
    const tries = stop ? TRIES.timed : TRIES.untimed;
    for (let turn = 0; turn < tries; turn++) {
      if (stop?.()) return undefined;
      // Most luck is early luck: many short tries in other orders after one long one.
      const order = turn === 0 ? pieces : loosely(pieces, random);
      const steps = turn === 0 ? STEPS : STEPS_AGAIN;
      const found = new Filling(order, set, unit, { waste, steps }, stop).run();
      if (found) return attemptOf(found, []);
    }
  }
  return undefined;
}

/** The largest length of which all sides are multiples, mm. */
function commonMeasure(all: ReadonlyArray<{ widthMm: number; heightMm: number }>): number {
  let measure = 0;
  for (const { widthMm, heightMm } of all)
    for (const side of [widthMm, heightMm]) {
      let [a, b] = [Math.round(side * PER_MM), measure];
      while (b > 0) [a, b] = [b, a % b];
      measure = a;
    }
  return Math.max(1, measure) / PER_MM;
}

function piecesOf(items: readonly Item[], rotate: boolean, unit: number): Piece[] {
  return items
    .map((item): Piece => {
      const width = Math.round(item.widthMm / unit);
      const height = Math.round(item.heightMm / unit);
      const upright = { width, height, rotated: false };
      return {
        item,
        ways: rotate && width !== height ? [upright, { width: height, height: width, rotated: true }] : [upright],
        area: width * height,
      };
    })
    .sort((a, b) => b.area - a.area);
}

/** Large ones first, but now and then one changes its place. */
function loosely(pieces: readonly Piece[], random: Random): Piece[] {
  return pieces
    .map((piece) => ({ piece, key: piece.area * random.between(0.6, 1.4) }))
    .sort((a, b) => b.key - a.key)
    .map(({ piece }) => piece);
}

class Filling {
  readonly #used: boolean[];
  readonly #laid: Placed[][];
  #steps = 0;

  constructor(
    readonly pieces: readonly Piece[],
    readonly set: readonly Sheet[],
    readonly unit: number,
    readonly limits: { waste: number; steps: number },
    readonly stop: (() => boolean) | undefined,
  ) {
    this.#used = pieces.map(() => false);
    this.#laid = set.map(() => []);
  }

  run(): Used[] | undefined {
    if (!this.#sheet(0, this.limits.waste)) return undefined;
    return this.set.map((sheet, k) => ({ sheet, placed: this.#laid[k] ?? [], spaces: [] }));
  }

  #sheet(index: number, waste: number): boolean {
    const sheet = this.set[index];
    if (!sheet) return this.#used.every(Boolean);
    const width = Math.round(sheet.widthMm / this.unit);
    return this.#fill(index, [{ x: 0, width, height: 0 }], waste);
  }

  #isOver(): boolean {
    this.#steps++;
    return this.#steps > this.limits.steps || (this.#steps % 1024 === 0 && (this.stop?.() ?? false));
  }

  #fill(index: number, line: readonly Step[], waste: number): boolean {
    if (this.#isOver()) return false;
    if (this.#used.every(Boolean)) return true;
    const top = Math.round((this.set[index]?.heightMm ?? 0) / this.unit);
    let at = 0;
    for (let k = 1; k < line.length; k++) if ((line[k]?.height ?? 0) < (line[at]?.height ?? 0)) at = k;
    const niche = line[at];
    if (!niche) return false;
    const room = top - niche.height;
    if (room === 0) return this.#sheet(index + 1, waste);
    const walls = wallsOf(line, at, top);
    if (this.#leastWaste(line, top) > waste) return false;
    const seen = new Set<number>();
    for (let k = 0; k < this.pieces.length; k++) {
      const piece = this.pieces[k];
      if (!piece || this.#used[k]) continue;
      for (const way of piece.ways) {
        if (way.width > niche.width || way.height > room) continue;
        const key = way.width * MOST_UNITS + way.height;
        if (seen.has(key)) continue;
        seen.add(key);
        this.#used[k] = true;
        this.#laid[index]?.push({
          ...piece.item,
          xMm: niche.x * this.unit,
          yMm: niche.height * this.unit,
          widthMm: way.rotated ? piece.item.heightMm : piece.item.widthMm,
          heightMm: way.rotated ? piece.item.widthMm : piece.item.heightMm,
          rotated: way.rotated,
        });
        if (this.#fill(index, raised(line, at, way.width, niche.height + way.height), waste)) return true;
        this.#laid[index]?.pop();
        this.#used[k] = false;
        if (this.#steps > this.limits.steps) return false;
      }
    }
    // Nothing goes here: the niche is given up, as high as its lower neighbour.
    const lost = niche.width * walls;
    return lost <= waste && this.#fill(index, raised(line, at, niche.width, niche.height + walls), waste - lost);
  }

  /**
   * What is wasted at the least: of each niche between higher neighbours the width that no sum of the sides left fills, as high as the lowest
   * piece or the way up to a neighbour.
   */
  #leastWaste(line: readonly Step[], top: number): number {
    let widest = 0;
    for (const { width } of line) if (width > widest) widest = width;
    // One bit for each sum, in words.
    const words = (widest >> 5) + 1;
    const reached = new Uint32Array(words);
    reached[0] = 1;
    let least = top;
    for (let k = 0; k < this.pieces.length; k++) {
      if (this.#used[k]) continue;
      const ways = this.pieces[k]?.ways ?? [];
      const before = ways.length > 1 ? reached.slice() : reached;
      for (const { width: side, height } of ways) {
        if (height < least) least = height;
        const [far, near] = [side >> 5, side & 31];
        for (let word = words - 1; word >= far; word--) {
          const low = near === 0 ? 0 : (before[word - far - 1] ?? 0) >>> (32 - near);
          reached[word] = (reached[word] ?? 0) | ((before[word - far] ?? 0) << near) | low;
        }
      }
    }
    let waste = 0;
    for (let at = 0; at < line.length; at++) {
      const walls = wallsOf(line, at, top);
      if (walls <= 0) continue;
      const width = line[at]?.width ?? 0;
      let most = width;
      while (most > 0 && !(((reached[most >> 5] ?? 0) >>> (most & 31)) & 1)) most--;
      waste += (width - most) * Math.min(walls, least);
    }
    return waste;
  }
}

/** How far it is from a step up to the lower of its neighbours; not above nothing where one of them lies lower. */
const wallsOf = (line: readonly Step[], at: number, top: number): number =>
  Math.min(line[at - 1]?.height ?? top, line[at + 1]?.height ?? top) - (line[at]?.height ?? top);

/** The line of tops after something as wide was put at the left of a step. */
function raised(line: readonly Step[], at: number, width: number, height: number): Step[] {
  const next: Step[] = [];
  const push = (step: Step): void => {
    const last = next.at(-1);
    if (last && last.height === step.height) last.width += step.width;
    else next.push({ ...step });
  };
  line.forEach((step, k) => {
    if (k !== at) return push(step);
    push({ x: step.x, width, height });
    if (step.width > width) push({ x: step.x + width, width: step.width - width, height: step.height });
  });
  return next;
}
