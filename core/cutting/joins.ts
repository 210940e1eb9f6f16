import { nth } from "../numeric/index.ts";
import type { Random } from "../random/index.ts";
import { anyTaste, packBlocks } from "./blocks.ts";
import type { Used } from "./fill.ts";
import type { Item, Placed, Rules, Space } from "./packing.ts";
import type { Sheet } from "./problem.ts";

/** A rectangle that is one piece, or two rectangles side by side or one above the other. */
export interface Joined {
  widthMm: number;
  heightMm: number;
  /** Of its pieces, without gaps, mm². */
  areaMm2: number;
  /** How many of each kind are in it. */
  counts: Uint8Array;
  made: { kind: number; rotated: boolean } | { across: boolean; first: Joined; second: Joined };
}

export interface JoinTaste {
  /** Share of a joined rectangle that may be waste. */
  waste: number;
  /** How many rectangles are kept at most. */
  most: number;
  /** One that fills less than the best by this share may be taken too. */
  loose: number;
}

type Reach = readonly [waste: number, most: number];
/** The less may be wasted, the more rectangles it takes until a sheet is full; none at all is looked for in `whole.ts`. */
const REACHES: readonly [Reach, ...Reach[]] = [
  [0, 1500],
  [0.005, 4000],
  [0.01, 3000],
  [0.03, 1500],
  [0.05, 800],
  [0.08, 400],
];

export function anyJoinTaste(random: Random): JoinTaste {
  const [waste, most] = random.pick(REACHES);
  return { waste, most, loose: random.pick([0, 0.01, 0.03]) };
}

const SLACK_MM = 1e-6;
const MOST_COUNT = 255;
/** How often sheets are covered anew from one pool of rectangles, and among how many the next is drawn. */
const COVERS = 200;
const MOST_GOOD = 40;

/**
 * Fills the given sheets from the pieces up: rectangles are joined edge to edge while little is wasted (P. Y. Wang, 'Two algorithms for
 * constrained two-dimensional cutting stock problems', 1983; from memory), and one is laid on each sheet so that together they hold most;
 * what is free beside them is filled with blocks. Where pieces are all different this finds the close fits that laying one after the
 * other misses. Straight cuts only.
 */
export function fillByJoins(
  items: readonly Item[],
  sheets: readonly Sheet[],
  rules: Pick<Rules, "cutGapMm" | "rotate">,
  taste: JoinTaste,
  random: Random,
): { used: Used[]; left: Item[] } {
  const kinds = kindsOf(items);
  const have = Uint8Array.from(kinds.values(), (items) => Math.min(MOST_COUNT, items.length));
  const pools = new Map<Sheet, Joined[]>();
  for (const sheet of new Set(sheets))
    pools.set(
      sheet,
      joinsOf([...kinds.values()], sheet, rules, taste, random).sort((a, b) => b.areaMm2 - a.areaMm2),
    );
  let best: Array<Joined | undefined> = [];
  let most = -1;
  for (let turn = 0; turn < COVERS; turn++) {
    const left = have.slice();
    const picks = sheets.map((sheet) => {
      const pick = anyFullest(pools.get(sheet) ?? [], left, taste.loose, random);
      pick?.counts.forEach((count, kind) => {
        left[kind] = nth(left, kind) - count;
      });
      return pick;
    });
    const area = picks.reduce((sum, pick) => sum + (pick?.areaMm2 ?? 0), 0);
    if (area <= most) continue;
    best = picks;
    most = area;
  }
  const used = sheets.flatMap((sheet, index): Used[] => {
    const pick = best[index];
    return pick ? [layOn(sheet, pick, kinds, rules.cutGapMm, random)] : [];
  });
  let left = [...kinds.values()].flat();
  for (const one of used) {
    const free = one.spaces;
    one.spaces = [];
    for (const space of free) {
      const more = packBlocks(left, space, rules, anyTaste(random), random);
      const moved = <T extends Space>(box: T): T => ({ ...box, xMm: box.xMm + space.xMm, yMm: box.yMm + space.yMm });
      one.placed.push(...more.placed.map(moved));
      one.spaces.push(...more.spaces.map(moved));
      left = more.left;
    }
  }
  return { used, left };
}

export function kindsOf(items: readonly Item[]): Map<number, Item[]> {
  const kinds = new Map<number, Item[]>();
  for (const item of items) {
    const items = kinds.get(item.kind);
    if (items) items.push(item);
    else kinds.set(item.kind, [item]);
  }
  return kinds;
}

/** One of the rectangles that hold most of what is left; `pool` has the fullest first. */
function anyFullest(pool: readonly Joined[], left: Uint8Array, loose: number, random: Random): Joined | undefined {
  const good: Joined[] = [];
  for (const one of pool) {
    const fullest = good[0]?.areaMm2 ?? 0;
    if (good.length >= MOST_GOOD || one.areaMm2 < fullest * (1 - loose)) break;
    if (one.counts.every((count, kind) => count <= nth(left, kind))) good.push(one);
  }
  return good[Math.floor(random.uniform() * good.length)];
}

function layOn(sheet: Sheet, pick: Joined, kinds: Map<number, Item[]>, gap: number, random: Random): Used {
  const placed: Placed[] = [];
  lay(pick, 0, 0, kinds, gap, placed);
  return { sheet, placed, spaces: beside(pick, sheet, gap, random.uniform() < 0.5) };
}

function joinsOf(
  kinds: readonly Item[][],
  sheet: { widthMm: number; heightMm: number },
  { cutGapMm: gap, rotate }: Pick<Rules, "cutGapMm" | "rotate">,
  { waste, most }: JoinTaste,
  random: Random,
): Joined[] {
  const have = kinds.map((items) => Math.min(MOST_COUNT, items.length));
  const fits = (widthMm: number, heightMm: number): boolean =>
    widthMm <= sheet.widthMm + SLACK_MM && heightMm <= sheet.heightMm + SLACK_MM;
  const pool: Joined[] = [];
  kinds.forEach(([item], kind) => {
    if (!item) return;
    for (const rotated of rotate && item.widthMm !== item.heightMm ? [false, true] : [false]) {
      const widthMm = rotated ? item.heightMm : item.widthMm;
      const heightMm = rotated ? item.widthMm : item.heightMm;
      if (!fits(widthMm, heightMm)) continue;
      const counts = new Uint8Array(kinds.length);
      counts[kind] = 1;
      pool.push({ widthMm, heightMm, areaMm2: widthMm * heightMm, counts, made: { kind: item.kind, rotated } });
    }
  });
  const singles = random.shuffled(pool);
  pool.splice(0, pool.length, ...singles);
  const seen = new Set<string>();
  const poolIfNew = (first: Joined, second: Joined, across: boolean, widthMm: number, heightMm: number): void => {
    const counts = first.counts.map((count, kind) => count + nth(second.counts, kind));
    if (counts.some((count, kind) => count > nth(have, kind))) return;
    const key = `${widthMm.toFixed(3)} ${heightMm.toFixed(3)} ${counts.join()}`;
    if (seen.has(key)) return;
    seen.add(key);
    pool.push({ widthMm, heightMm, areaMm2: first.areaMm2 + second.areaMm2, counts, made: { across, first, second } });
  };
  for (let i = 0; i < pool.length && pool.length < most; i++)
    for (let j = 0; j <= i && pool.length < most; j++) {
      const [first, second] = [pool[i], pool[j]];
      if (!first || !second) continue;
      const full = (first.areaMm2 + second.areaMm2 + SLACK_MM) / (1 - waste);
      const width = first.widthMm + gap + second.widthMm;
      const height = first.heightMm + gap + second.heightMm;
      const widest = Math.max(first.widthMm, second.widthMm);
      const highest = Math.max(first.heightMm, second.heightMm);
      if (width * highest <= full && fits(width, highest)) poolIfNew(first, second, true, width, highest);
      if (height * widest <= full && fits(widest, height)) poolIfNew(first, second, false, widest, height);
    }
  return pool;
}

export function lay(
  joined: Joined,
  xMm: number,
  yMm: number,
  kinds: Map<number, Item[]>,
  gap: number,
  placed: Placed[],
): void {
  const { made } = joined;
  if ("kind" in made) {
    const item = kinds.get(made.kind)?.pop();
    if (item)
      placed.push({ ...item, xMm, yMm, widthMm: joined.widthMm, heightMm: joined.heightMm, rotated: made.rotated });
    return;
  }
  const { first, second, across } = made;
  lay(first, xMm, yMm, kinds, gap, placed);
  if (across) lay(second, xMm + first.widthMm + gap, yMm, kinds, gap, placed);
  else lay(second, xMm, yMm + first.heightMm + gap, kinds, gap, placed);
}

/** What is left of the sheet beside and above a rectangle in its corner. */
function beside(
  { widthMm, heightMm }: Joined,
  sheet: { widthMm: number; heightMm: number },
  gap: number,
  upright: boolean,
): Space[] {
  const right = sheet.widthMm - widthMm - gap;
  const above = sheet.heightMm - heightMm - gap;
  return [
    { xMm: widthMm + gap, yMm: 0, widthMm: right, heightMm: upright ? sheet.heightMm : heightMm },
    { xMm: 0, yMm: heightMm + gap, widthMm: upright ? widthMm : sheet.widthMm, heightMm: above },
  ].filter((one) => one.widthMm > SLACK_MM && one.heightMm > SLACK_MM);
}
