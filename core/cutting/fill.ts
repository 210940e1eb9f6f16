import { nth } from "../numeric/index.ts";
import type { Random } from "../random/index.ts";
import type { Pattern } from "./columns.ts";
import type { Item, Packed, Placed, Space } from "./packing.ts";
import type { Sheet } from "./problem.ts";

export interface Used {
  sheet: Sheet;
  placed: Placed[];
  spaces: Space[];
}

export interface Attempt {
  used: Used[];
  left: Item[];
  cost: number;
  /** Largest single left-over, mm². */
  leftover: number;
}

export type Packer = (left: readonly Item[], sheet: Sheet) => Packed;

export const attemptOf = (used: Used[], left: Item[]): Attempt => ({
  used,
  left,
  cost: used.reduce((sum, { sheet }) => sum + sheet.price, 0),
  leftover: Math.max(0, ...used.flatMap(({ spaces }) => spaces.map((space) => space.widthMm * space.heightMm))),
});

const EPSILON = 1e-9;

/** Most pieces placed first, then the cheapest, then the largest left-over. */
export function better(a: Attempt, b: Attempt): boolean {
  if (a.left.length !== b.left.length) return a.left.length < b.left.length;
  if (Math.abs(a.cost - b.cost) > EPSILON) return a.cost < b.cost;
  return a.leftover > b.leftover + EPSILON;
}

const sumArea = (placed: readonly Placed[]): number => placed.reduce((sum, one) => sum + one.widthMm * one.heightMm, 0);

/**
 * Sheet by sheet: the one on which the next pieces pay best (least price per placed area), free left-overs first.
 * @param loose whether a sheet that pays a little less may be taken by chance
 * @param begun sheets that are filled already
 */
export function fill(
  items: readonly Item[],
  stock: readonly Sheet[],
  pack: Packer,
  random: Random,
  loose: boolean,
  begun: readonly Used[] = [],
): Attempt {
  const have = stock.map(
    (sheet) => (sheet.quantity ?? Number.POSITIVE_INFINITY) - begun.filter((one) => one.sheet === sheet).length,
  );
  const used: Used[] = [...begun];
  let left: Item[] = [...items];
  while (left.length > 0) {
    let best: { index: number; rate: number; used: Used; left: Item[] } | undefined;
    for (const [index, sheet] of stock.entries()) {
      if (nth(have, index) <= 0) continue;
      const packed = pack(left, sheet);
      if (packed.placed.length === 0) continue;
      const area = sumArea(packed.placed);
      // Where all that is left fits, the area is the same for every sheet, so the cheapest wins.
      const rate = (sheet.price / area) * (loose ? random.between(0.7, 1.3) : 1);
      if (!best || rate < best.rate || (rate === best.rate && area > sumArea(best.used.placed)))
        best = { index, rate, used: { sheet, placed: packed.placed, spaces: packed.spaces }, left: packed.left };
    }
    if (!best) break;
    have[best.index] = nth(have, best.index) - 1;
    used.push(best.used);
    left = best.left;
  }
  return attemptOf(used, left);
}

/** Just these sheets, one after the other; those that take nothing are not used. */
export function fillThese(items: readonly Item[], sheets: readonly Sheet[], pack: Packer): Attempt {
  const used: Used[] = [];
  let left: Item[] = [...items];
  for (const sheet of sheets) {
    if (left.length === 0) break;
    const packed = pack(left, sheet);
    if (packed.placed.length === 0) continue;
    used.push({ sheet, placed: packed.placed, spaces: packed.spaces });
    left = packed.left;
  }
  return attemptOf(used, left);
}

const MOST_SETS = 60;
const MOST_NODES = 5000;

/** Sets of sheets that cost less than `below` and not less than `bound`, with room for so much area: what a cheaper plan may be made of. */
export function cheaperSets(stock: readonly Sheet[], areaMm2: number, bound: number, below: number): Sheet[][] {
  const kinds = [...stock].sort((a, b) => b.price - a.price);
  const sets: Sheet[][] = [];
  let nodes = 0;
  const branch = (kind: number, taken: readonly Sheet[], cost: number, room: number): void => {
    if (nodes++ > MOST_NODES || sets.length >= MOST_SETS) return;
    const sheet = kinds[kind];
    if (!sheet) {
      if (room >= areaMm2 - EPSILON && cost >= bound - EPSILON) sets.push([...taken]);
      return;
    }
    const sheetAreaMm2 = sheet.widthMm * sheet.heightMm;
    // No more of one kind than hold everything alone.
    const most = Math.min(sheet.quantity ?? Number.POSITIVE_INFINITY, Math.ceil(areaMm2 / sheetAreaMm2) + 1);
    for (let count = 0; count <= most && cost + count * sheet.price < below - EPSILON; count++)
      branch(
        kind + 1,
        [...taken, ...Array.from({ length: count }, () => sheet)],
        cost + count * sheet.price,
        room + count * sheetAreaMm2,
      );
  };
  branch(0, [], 0, 0);
  return sets;
}

/** Whole sheets cut by the relaxed plan's patterns, its shares rounded up or down by chance; pieces that are not wanted any more are left off. */
export function byPatterns(
  items: readonly Item[],
  stock: readonly Sheet[],
  patterns: readonly Pattern[],
  sizeOf: (item: Item) => number,
  random: Random,
): { used: Used[]; left: Item[] } {
  const open = new Map<number, Item[]>();
  for (const item of items) open.set(sizeOf(item), [...(open.get(sizeOf(item)) ?? []), item]);
  const have = new Map(stock.map((sheet) => [sheet, sheet.quantity ?? Number.POSITIVE_INFINITY]));
  const used: Used[] = [];
  for (const { sheet, laid, share } of random.shuffled(patterns))
    for (let times = Math.floor(share + random.uniform()); times > 0 && (have.get(sheet) ?? 0) > 0; times--) {
      const placed = laid.flatMap(({ size, ...box }): Placed[] => {
        const item = open.get(size)?.pop();
        return item ? [{ ...item, ...box, rotated: box.widthMm !== item.widthMm }] : [];
      });
      if (placed.length === 0) break;
      have.set(sheet, (have.get(sheet) ?? 0) - 1);
      // What is left over of a whole pattern is looked for only where it stays the plan.
      used.push({ sheet, placed, spaces: [] });
    }
  return { used, left: [...open.values()].flat() };
}
