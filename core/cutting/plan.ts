import { type Random, seeded } from "../random/index.ts";
import { type Item, MANNERS, type Manner, type Placed, packSheet, type Rules, type Space } from "./packing.ts";
import type { CuttingTask, Sheet } from "./problem.ts";

export interface CutSheet {
  stockId: string;
  placements: Array<{
    pieceId: string;
    xMm: number;
    yMm: number;
    widthMm: number;
    heightMm: number;
    rotated: boolean;
  }>;
}

export interface CutPlan {
  sheets: CutSheet[];
  unplaced: Array<{ pieceId: string; quantity: number }>;
  utilisationPct: number;
  cost: number;
  /** Never above the true optimum. */
  lowerBoundCost: number;
}

export interface PlanOptions {
  /** Milliseconds by some clock; the plan ends when `until` is passed. */
  now?: () => number;
  until?: number;
  /** How many orders are tried at most. */
  tries?: number;
  seed?: number;
  progress?: (best: number) => void;
}

interface Used {
  sheet: Sheet;
  placed: Placed[];
  spaces: Space[];
}

interface Attempt {
  used: Used[];
  left: Item[];
  cost: number;
  /** Largest single left-over, mm². */
  leftover: number;
}

const USUAL_TRIES = 4000;
/** Without a clock, improvement stops after this many tries without any. */
const PATIENCE = 1500;

/**
 * Plans the cutting: most pieces placed first, then the cheapest sheets, then the largest left-over. Orders of pieces and manners of
 * splitting are tried again and again, from the best so far with a few pieces exchanged; sheets are taken so that each pays best.
 * @param task from `readCuts`
 */
export function planCuts(task: CuttingTask, options: PlanOptions = {}): CutPlan {
  const groups = new Map<string, { items: Item[]; stock: Sheet[] }>();
  task.pieces.forEach((piece, kind) => {
    const key = `${piece.thicknessMm} ${piece.material}`;
    const group = groups.get(key) ?? {
      items: [],
      stock: task.stock.filter((sheet) => `${sheet.thicknessMm} ${sheet.material}` === key && sheet.quantity !== 0),
    };
    for (let k = 0; k < piece.quantity; k++)
      group.items.push({ kind, widthMm: piece.widthMm, heightMm: piece.heightMm });
    groups.set(key, group);
  });
  const all = [...groups.values()];
  let lowerBoundCost = 0;
  const attempts = all.map(({ items, stock }, index) => {
    const fitting = items.filter((item) => stock.some((sheet) => fits(item, sheet, task)));
    const never = items.filter((item) => !fitting.includes(item));
    const share = options.now && options.until ? (options.until - options.now()) / (all.length - index) : undefined;
    const deadline = options.now && share !== undefined ? options.now() + share : undefined;
    const bound = lowerBound(fitting, stock, task);
    const best = search(fitting, stock, task, bound, {
      ...options,
      ...(deadline === undefined ? {} : { until: deadline }),
    });
    // With pieces left out for want of stock, only what is placed must be paid for.
    lowerBoundCost += best.left.length > 0 ? Math.min(bound, best.cost) : bound;
    return { ...best, left: [...best.left, ...never] };
  });
  return written(task, attempts, lowerBoundCost);
}

function written(task: CuttingTask, attempts: readonly Attempt[], lowerBoundCost: number): CutPlan {
  const used = attempts.flatMap((attempt) => attempt.used);
  const area = used.reduce((sum, { sheet }) => sum + sheet.widthMm * sheet.heightMm, 0);
  const filled = used.reduce(
    (sum, { placed }) => sum + placed.reduce((part, one) => part + one.widthMm * one.heightMm, 0),
    0,
  );
  const missing = new Map<number, number>();
  for (const { left } of attempts) for (const { kind } of left) missing.set(kind, (missing.get(kind) ?? 0) + 1);
  const cost = attempts.reduce((sum, attempt) => sum + attempt.cost, 0);
  return {
    sheets: used.map(({ sheet, placed }) => ({
      stockId: sheet.id,
      placements: placed.map(({ kind, xMm, yMm, widthMm, heightMm, rotated }) => ({
        pieceId: task.pieces[kind]?.id ?? "",
        xMm,
        yMm,
        widthMm,
        heightMm,
        rotated,
      })),
    })),
    unplaced: [...missing].map(([kind, quantity]) => ({ pieceId: task.pieces[kind]?.id ?? "", quantity })),
    utilisationPct: area === 0 ? 0 : (100 * filled) / area,
    cost,
    lowerBoundCost: Math.min(lowerBoundCost, cost),
  };
}

function fits(item: Item, sheet: Sheet, { rotate }: CuttingTask): boolean {
  const slack = 1e-6;
  return (
    (item.widthMm <= sheet.widthMm + slack && item.heightMm <= sheet.heightMm + slack) ||
    (rotate && item.heightMm <= sheet.widthMm + slack && item.widthMm <= sheet.heightMm + slack)
  );
}

/** Whole sheets are counted out up to this many steps; then shares of sheets bound it, which is never more. */
const MOST_NODES = 20_000;

/**
 * Least cost by area: the cheapest whole sheets whose area holds the pieces, found by branch and bound over the kinds of sheet.
 * A piece with its gap takes (w+g)(h+g) of a sheet that is larger by one gap each way.
 */
export function lowerBound(
  items: readonly Item[],
  stock: readonly Sheet[],
  { cutGapMm: gap }: Pick<CuttingTask, "cutGapMm">,
): number {
  const need = items.reduce((sum, item) => sum + (item.widthMm + gap) * (item.heightMm + gap), 0);
  if (need <= 0 || stock.length === 0) return 0;
  const areaOf = (sheet: Sheet): number => (sheet.widthMm + gap) * (sheet.heightMm + gap);
  const kinds = stock
    .map((sheet) => ({ area: areaOf(sheet), price: sheet.price, most: sheet.quantity ?? Number.POSITIVE_INFINITY }))
    .sort((a, b) => a.price / a.area - b.price / b.area);
  const byShares = (from: number, rest: number): number => {
    let cost = 0;
    let open = rest;
    for (const { area, price, most } of kinds.slice(from)) {
      const taken = Math.min(most, open / area);
      cost += taken * price;
      open -= taken * area;
      if (open <= 1e-9) return cost;
    }
    // All sheets together are too few: what is there is paid for at most.
    return cost;
  };
  if (kinds.reduce((sum, { area, most }) => sum + area * most, 0) < need) return 0;
  let best = Number.POSITIVE_INFINITY;
  let nodes = 0;
  const branch = (kind: number, rest: number, cost: number): void => {
    if (rest <= 1e-6) {
      best = Math.min(best, cost);
      return;
    }
    const one = kinds[kind];
    if (!one || nodes++ > MOST_NODES || cost + byShares(kind, rest) >= best - 1e-12) return;
    const most = Math.min(one.most, Math.ceil(rest / one.area - 1e-9));
    for (let count = most; count >= 0; count--) branch(kind + 1, rest - count * one.area, cost + count * one.price);
  };
  branch(0, need, 0);
  return nodes > MOST_NODES || best === Number.POSITIVE_INFINITY ? byShares(0, need) : best;
}

function search(
  items: readonly Item[],
  stock: readonly Sheet[],
  rules: Rules,
  bound: number,
  options: PlanOptions,
): Attempt {
  const none: Attempt = { used: [], left: [...items], cost: 0, leftover: 0 };
  if (items.length === 0 || stock.length === 0) return none;
  const random = seeded(options.seed ?? 1);
  const now = options.now ?? (() => 0);
  const until = options.until ?? Number.POSITIVE_INFINITY;
  const orders = [
    (a: Item, b: Item) => b.widthMm * b.heightMm - a.widthMm * a.heightMm,
    (a: Item, b: Item) => Math.max(b.widthMm, b.heightMm) - Math.max(a.widthMm, a.heightMm),
    (a: Item, b: Item) => Math.min(b.widthMm, b.heightMm) - Math.min(a.widthMm, a.heightMm),
    (a: Item, b: Item) => b.heightMm - a.heightMm || b.widthMm - a.widthMm,
  ];
  let best = none;
  let bestOrder: readonly Item[] = items;
  let bestManner: Manner = MANNERS[0] ?? { fit: "short-side", split: "long", turn: 1 };
  const keep = (attempt: Attempt, order: readonly Item[], manner: Manner): boolean => {
    if (!better(attempt, best)) return false;
    best = attempt;
    bestOrder = order;
    bestManner = manner;
    options.progress?.(attempt.cost);
    return true;
  };
  for (const order of orders) {
    const sorted = [...items].sort(order);
    for (const manner of MANNERS) {
      keep(
        fill(sorted, stock, rules, () => manner, random, false),
        sorted,
        manner,
      );
      if (now() > until) return best;
    }
  }
  let idle = 0;
  // With a clock given, the time that was asked for is used, unless nothing cheaper can exist.
  const timed = options.until !== undefined;
  const tries = options.tries ?? (timed ? Number.POSITIVE_INFINITY : USUAL_TRIES);
  const patience = timed ? Number.POSITIVE_INFINITY : PATIENCE;
  for (let turn = 0; turn < tries && idle < patience && now() <= until; turn++) {
    if (best.left.length === 0 && best.cost <= bound + 1e-9 && turn > 200) break;
    const order = shuffled(bestOrder, random);
    const manner = random.uniform() < 0.6 ? bestManner : anyManner(random);
    const mixed = random.uniform() < 0.5;
    const often = random.uniform();
    const mannerOf = (): Manner =>
      mixed && random.uniform() < often ? { ...anyManner(random), turn: random.pick([0.01, 1, 100]) } : manner;
    idle = keep(fill(order, stock, rules, mannerOf, random, random.uniform() < 0.5), order, manner) ? 0 : idle + 1;
  }
  return best;
}

const anyManner = (random: Random): Manner =>
  MANNERS[Math.floor(random.uniform() * MANNERS.length)] ?? { fit: "short-side", split: "long", turn: 1 };

const EPSILON = 1e-9;
function better(a: Attempt, b: Attempt): boolean {
  if (a.left.length !== b.left.length) return a.left.length < b.left.length;
  if (Math.abs(a.cost - b.cost) > EPSILON) return a.cost < b.cost;
  return a.leftover > b.leftover + EPSILON;
}

function shuffled(items: readonly Item[], random: Random): Item[] {
  const order = [...items];
  const swaps = 1 + Math.floor(random.uniform() * 4);
  for (let k = 0; k < swaps; k++) {
    const from = Math.floor(random.uniform() * order.length);
    const to = Math.floor(random.uniform() * order.length);
    const [moved] = order.splice(from, 1);
    if (moved) order.splice(to, 0, moved);
  }
  return order;
}

/** Sheet by sheet: the one on which the next pieces pay best (least price per placed area), free left-overs first. */
function fill(
  items: readonly Item[],
  stock: readonly Sheet[],
  rules: Rules,
  mannerOf: () => Manner,
  random: Random,
  loose: boolean,
): Attempt {
  const have = stock.map((sheet) => sheet.quantity ?? Number.POSITIVE_INFINITY);
  const used: Used[] = [];
  let left: Item[] = [...items];
  let cost = 0;
  while (left.length > 0) {
    let best: { index: number; rate: number; used: Used; left: Item[] } | undefined;
    for (const [index, sheet] of stock.entries()) {
      if ((have[index] ?? 0) <= 0) continue;
      const packed = packSheet(left, sheet, rules, mannerOf);
      if (packed.placed.length === 0) continue;
      const area = packed.placed.reduce((sum, one) => sum + one.widthMm * one.heightMm, 0);
      // Where all that is left fits, the area is the same for every sheet, so the cheapest wins.
      const rate = (sheet.price / area) * (loose ? random.between(0.7, 1.3) : 1);
      if (!best || rate < best.rate || (rate === best.rate && area > sumArea(best.used.placed)))
        best = { index, rate, used: { sheet, placed: packed.placed, spaces: packed.spaces }, left: packed.left };
    }
    if (!best) break;
    have[best.index] = (have[best.index] ?? 0) - 1;
    used.push(best.used);
    cost += best.used.sheet.price;
    left = best.left;
  }
  const leftover = Math.max(0, ...used.flatMap(({ spaces }) => spaces.map((space) => space.widthMm * space.heightMm)));
  return { used, left, cost, leftover };
}

const sumArea = (placed: readonly Placed[]): number => placed.reduce((sum, one) => sum + one.widthMm * one.heightMm, 0);
