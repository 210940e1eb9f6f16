import { seeded } from "../random/index.ts";
import { lowerBound } from "./bound.ts";
import { type Columns, columnsOf } from "./columns.ts";
import type { Attempt } from "./fill.ts";
import { cutLines } from "./lines.ts";
import { byNiches } from "./niches.ts";
import type { Item, Space } from "./packing.ts";
import type { CuttingTask, Sheet } from "./problem.ts";
import { type SearchOptions, search, simplePlan } from "./search.ts";
import { byWholeSheets } from "./whole.ts";

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
  /** Rectangles that stay whole, largest first. */
  leftOvers: Space[];
}

export interface CutPlan {
  sheets: CutSheet[];
  unplaced: Array<{ pieceId: string; quantity: number }>;
  utilisationPct: number;
  cost: number;
  /** Never above the true optimum. */
  lowerBoundCost: number;
}

/**
 * Plans the cutting: most pieces placed first, then the cheapest sheets, then the largest left-over. Simple
 * orders come first, then sheets filled without waste, then what `search` finds from the best so far.
 * @param task from `readCuts`
 */
export function planCuts(task: CuttingTask, options: SearchOptions = {}): CutPlan {
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
    const random = seeded(options.seed ?? 1);
    const stopAt = (part: number) => endOf(options, part, share, deadline);
    let start = simplePlan(fitting, stock, task, random, stopAt(SIMPLE_SHARE) ?? (() => false));
    const easy = lowerBound(fitting, stock, task);
    const above = (attempt: Attempt): boolean => attempt.left.length > 0 || attempt.cost > easy + EPSILON;
    if (above(start)) {
      const below = start.left.length > 0 ? Number.POSITIVE_INFINITY : start.cost;
      const limits = { bound: easy, below };
      start =
        byWholeSheets(fitting, stock, task, limits, random, stopAt) ??
        byNiches(fitting, stock, task, limits, random, stopAt(NICHES_SHARE)) ??
        start;
    }
    // Bound and patterns are for what is not the cheapest yet.
    const columns = above(start) ? columnsOf(fitting, stock, task, stopAt(COLUMNS_SHARE)) : null;
    // Where cuts need not be straight the patterns serve all the same, but something cheaper may exist.
    const known = task.straightCuts ? (columns?.bound ?? 0) : 0;
    const bound = columns ? lowerBound(fitting, stock, task, { known }) : easy;
    const best = search(fitting, stock, task, columns ?? NO_COLUMNS, bound, start, {
      ...options,
      ...(deadline === undefined ? {} : { until: deadline }),
    });
    const placed = fitting.length - best.left.length;
    // With pieces left out for want of stock, only as many as could be placed must be paid for.
    lowerBoundCost += best.left.length > 0 ? lowerBound(fitting, stock, task, { placed }) : bound;
    return { ...best, left: [...best.left, ...never] };
  });
  return written(task, attempts, lowerBoundCost);
}

const EPSILON = 1e-9;
const NO_COLUMNS: Columns = { bound: 0, patterns: [], sizeOf: () => 0 };
/** Of the time for a material and thickness, so much may go into simple orders, the first of which is always laid to its end. */
const SIMPLE_SHARE = 0.4;
/** The same for sheets filled from the bottom up. */
const NICHES_SHARE = 0.4;
/** The same for bound and patterns. */
const COLUMNS_SHARE = 0.4;

function endOf(
  { now }: SearchOptions,
  part: number,
  share: number | undefined,
  deadline = Number.POSITIVE_INFINITY,
): (() => boolean) | undefined {
  if (!now || share === undefined) return undefined;
  const until = Math.min(deadline, now() + part * share);
  return () => now() > until;
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
    sheets: used.map(({ sheet, placed, spaces }) => ({
      stockId: sheet.id,
      leftOvers:
        task.straightCuts || spaces.length === 0
          ? cutLines(sheet, placed).leftOvers
          : [...spaces].sort((a, b) => b.widthMm * b.heightMm - a.widthMm * a.heightMm),
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
