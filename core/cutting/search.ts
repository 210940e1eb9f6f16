import { type Random, seeded } from "../random/index.ts";
import { anyTaste, packBlocks } from "./blocks.ts";
import type { Columns } from "./columns.ts";
import { type Attempt, better, byPatterns, cheaperSets, fill, fillThese, type Packer } from "./fill.ts";
import { anyJoinTaste, fillByJoins } from "./joins.ts";
import { anyManner, type Item, MANNERS, type Manner, packSheet, type Rules } from "./packing.ts";
import type { Sheet } from "./problem.ts";
import { withLargerLeftOver } from "./strips.ts";

export interface SearchOptions {
  /** Milliseconds by some clock; the search ends when `until` is passed. */
  now?: () => number;
  until?: number;
  /** How many orders are tried at most. */
  tries?: number;
  seed?: number;
  progress?: (best: number) => void;
  /** Ways that are left out, to see what they are worth. */
  without?: readonly Way[];
}

const USUAL_TRIES = 1500;
/** Without a clock, improvement stops after this many tries without any. */
const PATIENCE = 400;
/** When nothing cheaper can exist, so many tries look for a larger left-over. */
const TRIES_FOR_LEFTOVER = 150;
/** So much of the time is kept for a larger left-over. */
const STRIPS_SHARE = 0.1;
const EPSILON = 1e-9;

/**
 * The ways a turn may go. Joined rectangles take long and find much: they get a share of the time, or one turn in so many; the others are
 * by patterns, the rest of which is filled with blocks, or by blocks alone on a set of sheets that would be cheaper. `npm run bench cutting`
 * prints what each is worth: the cost without it. Turns of blocks on any sheets, and of pieces exchanged in their order, were measured so
 * too and found nothing that the others did not.
 */
export const WAYS = [{ name: "patterns" }, { name: "joins", shareOfTime: 0.5, everyTurns: 40 }] as const;
export type Way = (typeof WAYS)[number]["name"];

const JOINS = WAYS[1];

const ORDERS: ReadonlyArray<(a: Item, b: Item) => number> = [
  (a, b) => b.widthMm * b.heightMm - a.widthMm * a.heightMm,
  (a, b) => Math.max(b.widthMm, b.heightMm) - Math.max(a.widthMm, a.heightMm),
  (a, b) => Math.min(b.widthMm, b.heightMm) - Math.min(a.widthMm, a.heightMm),
  (a, b) => b.heightMm - a.heightMm || b.widthMm - a.widthMm,
  // Where the stock does not hold everything, most pieces are placed by the small ones.
  (a, b) => a.widthMm * a.heightMm - b.widthMm * b.heightMm,
];

/** The best plan by simple orders of the pieces, each laid in each manner. */
export function simplePlan(
  items: readonly Item[],
  stock: readonly Sheet[],
  rules: Rules,
  random: Random,
  stop: () => boolean,
): Attempt {
  let best: Attempt = { used: [], left: [...items], cost: 0, leftover: 0 };
  for (const compare of ORDERS) {
    const order = [...items].sort(compare);
    for (const manner of MANNERS) {
      const attempt = fill(order, stock, (left, sheet) => packSheet(left, sheet, rules, () => manner), random, false);
      if (better(attempt, best)) best = attempt;
      if (stop()) return best;
    }
  }
  return best;
}

/**
 * Looks for a better plan of one material and thickness: from the best so far, blocks of like pieces, joined rectangles and patterns of
 * the relaxed plan, on sheets as they pay or on sets of sheets that would be cheaper.
 * @param bound no plan that places everything costs less
 */
export function search(
  items: readonly Item[],
  stock: readonly Sheet[],
  rules: Rules,
  { patterns, sizeOf }: Columns,
  bound: number,
  start: Attempt,
  options: SearchOptions,
): Attempt {
  const random = seeded(options.seed ?? 1);
  const now = options.now ?? (() => 0);
  const end = options.until ?? Number.POSITIVE_INFINITY;
  const until = options.until === undefined ? end : end - STRIPS_SHARE * (end - now());
  let best = start;
  if (items.length === 0 || stock.length === 0) return best;
  const areaMm2 = items.reduce((sum, one) => sum + one.widthMm * one.heightMm, 0);
  const setsNow = (): Sheet[][] => (best.left.length > 0 ? [] : cheaperSets(stock, areaMm2, bound, best.cost));
  let sets = setsNow();
  options.progress?.(best.cost);
  const takeIfBetter = (attempt: Attempt): boolean => {
    if (!better(attempt, best)) return false;
    const cheaper = attempt.left.length < best.left.length || attempt.cost < best.cost - EPSILON;
    best = attempt;
    if (cheaper) sets = setsNow();
    options.progress?.(attempt.cost);
    return true;
  };
  /** Sheets that are filled before the others, if any. */
  const beginBy = (way: Way, set: readonly Sheet[] | undefined) => {
    if (way === "patterns" && !set && !without.includes(way)) return byPatterns(items, stock, patterns, sizeOf, random);
    const sheets = set ?? best.used.map((one) => one.sheet);
    // Half of the joins cover all sheets at once, half are made anew for each sheet from what the one before left.
    return way === "joins" && random.uniform() < 0.5
      ? fillByJoins(items, random.shuffled(sheets), rules, anyJoinTaste(random), random)
      : { used: [], left: [...items] };
  };
  let idle = 0;
  const begunAt = now();
  let spentOnJoins = 0;
  // With a clock given, the time that was asked for is used, unless nothing cheaper can exist.
  const timed = options.until !== undefined;
  const tries = options.tries ?? (timed ? Number.POSITIVE_INFINITY : USUAL_TRIES);
  const patience = timed ? Number.POSITIVE_INFINITY : PATIENCE;
  const without: readonly Way[] = options.without ?? [];
  for (let turn = 0; turn < tries && idle < patience && now() <= until; turn++) {
    if (best.left.length === 0 && best.cost <= bound + EPSILON && turn > TRIES_FOR_LEFTOVER) break;
    const joinsNow = timed ? spentOnJoins <= JOINS.shareOfTime * (now() - begunAt) : turn % JOINS.everyTurns === 0;
    const way: Way = joinsNow && !without.includes("joins") ? "joins" : "patterns";
    const turnedAt = now();
    const pack = way === "joins" ? byJoins(rules, random) : byBlocks(rules, random);
    const set = random.uniform() < 0.5 ? sets[Math.floor(random.uniform() * sets.length)] : undefined;
    const begun = beginBy(way, set);
    const attempt =
      set && begun.used.length === 0
        ? fillThese(items, random.shuffled(set), pack)
        : fill(begun.left, stock, pack, random, random.uniform() < 0.5, begun.used);
    idle = takeIfBetter(attempt) ? 0 : idle + 1;
    if (way === "joins") spentOnJoins += now() - turnedAt;
  }
  const packers = (chance: Random): Packer => chance.pick([byBlocks, byPieces, byPieces])(rules, chance);
  return withLargerLeftOver(best, rules, packers, random, () => now() > end);
}

function byJoins(rules: Rules, random: Random): Packer {
  const taste = anyJoinTaste(random);
  return (left, sheet) => {
    const { used, left: rest } = fillByJoins(left, [sheet], rules, taste, random);
    return { placed: [], spaces: [], ...used[0], left: rest };
  };
}

function byBlocks(rules: Rules, random: Random): Packer {
  const taste = anyTaste(random);
  return (left, sheet) => packBlocks(left, sheet, rules, taste, random);
}

/** One piece after the other, in one manner or in a new one every now and then. */
function byPieces(rules: Rules, random: Random): Packer {
  const manner = anyManner(random);
  const mixed = random.uniform() < 0.5;
  const often = random.uniform();
  const mannerOf = (): Manner =>
    mixed && random.uniform() < often ? { ...anyManner(random), turn: random.pick([0.01, 1, 100]) } : manner;
  return (left, sheet) => packSheet(left, sheet, rules, mannerOf);
}
