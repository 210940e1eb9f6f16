import { nth } from "../numeric/index.ts";
import type { Item } from "./packing.ts";
import type { CuttingTask, Sheet } from "./problem.ts";

type Rules = Pick<CuttingTask, "cutGapMm"> & { rotate?: boolean };

/**
 * Cost that no plan of `placed` of the items can go below: the best of a bound that is `known`, of whole sheets by area and of dual feasible
 * functions, raised to the next cost that whole sheets can have.
 *
 * Dual feasible functions f map shares of a length so that what fits side by side sums to 1 at most, and give large pieces more than
 * their share: products f(w/W)·g(h/H) of all pieces on one sheet sum to 1 at most (S. P. Fekete and J. Schepers, 'A general
 * framework for bounds for higher-dimensional orthogonal packing problems', 2004; rounding functions after S. Martello and
 * P. Toth; from memory). A piece is worth the least that any sheet or turn makes of it times that sheet's price; where stock is limited,
 * worth may also be told by endless sheets alone, less what the limited ones can hold above their price.
 */
export function lowerBound(
  items: readonly Item[],
  stock: readonly Sheet[],
  rules: Rules,
  { placed = items.length, known = 0 }: { placed?: number; known?: number } = {},
): number {
  if (items.length === 0) return 0;
  let best = Math.max(known, byArea(items, stock, rules, placed));
  const sizes = [...new Map(items.map((item) => [`${item.widthMm} ${item.heightMm}`, item])).values()];
  const sizeOf = items.map((item) =>
    sizes.findIndex((size) => size.widthMm === item.widthMm && size.heightMm === item.heightMm),
  );
  const limited = stock.filter((sheet) => sheet.quantity !== null);
  const endless = stock.filter((sheet) => sheet.quantity === null);
  for (const across of FUNCTIONS)
    for (const along of FUNCTIONS) {
      const worthOn = (sheets: readonly Sheet[]): number[] => {
        const worths = sizes.map((size) => leastWorth(size, sheets, rules, across, along));
        return sizeOf.map((size) => nth(worths, size));
      };
      best = Math.max(best, leastSum(worthOn(stock), placed));
      if (limited.length === 0 || endless.length === 0) continue;
      const worth = worthOn(endless);
      best = Math.max(best, leastSum(worth, placed) - heldBy(limited, items, worth, rules));
    }
  return nextCost(best, stock);
}

/** Whichever of the items are placed, they are worth at least the least of them. */
const leastSum = (worth: readonly number[], placed: number): number =>
  [...worth]
    .sort((a, b) => a - b)
    .slice(0, placed)
    .reduce((sum, one) => sum + one, 0);

/** What limited sheets can hold above their price, by the piece that is worth most for its area. */
function heldBy(
  limited: readonly Sheet[],
  items: readonly Item[],
  worth: readonly number[],
  { cutGapMm: gap }: Rules,
): number {
  const densest = Math.max(
    0,
    ...items.map((item, k) => nth(worth, k) / ((item.widthMm + gap) * (item.heightMm + gap))),
  );
  return limited.reduce((sum, { widthMm, heightMm, quantity, price }) => {
    const most = densest * (widthMm + gap) * (heightMm + gap);
    return sum + (quantity ?? 0) * Math.max(0, most - price);
  }, 0);
}

type Feasible = (share: number) => number;
const EPSILON = 1e-9;

/** x itself; everything above 1 − e counts whole and below e nothing; rounding down to k-ths of (k + 1) x. */
const FUNCTIONS: readonly Feasible[] = [
  (x) => x,
  ...[0.5, 0.4, 1 / 3, 0.25, 0.2, 0.1].map(
    (e): Feasible =>
      (x) =>
        x > 1 - e + EPSILON ? 1 : x < e - EPSILON ? 0 : x,
  ),
  ...[1, 2, 3, 4, 5].map(
    (k): Feasible =>
      (x) => {
        const steps = (k + 1) * x;
        return Math.abs(steps - Math.round(steps)) < EPSILON ? x : Math.floor(steps) / k;
      },
  ),
];

function leastWorth(
  item: Item,
  stock: readonly Sheet[],
  { cutGapMm: gap, rotate }: Rules,
  f: Feasible,
  g: Feasible,
): number {
  let least = Number.POSITIVE_INFINITY;
  for (const sheet of stock) {
    const width = sheet.widthMm + gap;
    const height = sheet.heightMm + gap;
    for (const [w, h] of rotate === false
      ? [[item.widthMm, item.heightMm]]
      : [
          [item.widthMm, item.heightMm],
          [item.heightMm, item.widthMm],
        ]) {
      const x = ((w ?? 0) + gap) / width;
      const y = ((h ?? 0) + gap) / height;
      if (x > 1 + EPSILON || y > 1 + EPSILON) continue;
      least = Math.min(least, sheet.price * f(Math.min(1, x)) * g(Math.min(1, y)));
    }
  }
  return least === Number.POSITIVE_INFINITY ? 0 : least;
}

/** The least sum of whole sheets' prices that is not below a bound; the bound itself where there are too many such sums to try. */
function nextCost(bound: number, stock: readonly Sheet[]): number {
  const most = new Map<number, number>();
  for (const { price, quantity } of stock)
    if (price > 0) most.set(price, (most.get(price) ?? 0) + (quantity ?? Number.POSITIVE_INFINITY));
  const prices = [...most].sort(([a], [b]) => b - a);
  let best = Number.POSITIVE_INFINITY;
  let nodes = 0;
  const branch = (kind: number, sum: number): void => {
    if (sum >= bound - EPSILON) {
      best = Math.min(best, sum);
      return;
    }
    const [price, quantity] = prices[kind] ?? [];
    if (price === undefined || quantity === undefined || nodes++ > MOST_NODES) return;
    const enough = Math.ceil((bound - sum) / price - EPSILON);
    for (let count = Math.min(enough, quantity); count >= 0; count--) branch(kind + 1, sum + count * price);
  };
  branch(0, 0);
  return nodes > MOST_NODES || best === Number.POSITIVE_INFINITY ? bound : best;
}

/** Whole sheets are counted out up to this many steps; then shares of sheets bound it, which is never more. */
const MOST_NODES = 20_000;

/**
 * Least cost by area: the cheapest whole sheets whose area holds the pieces, found by branch and bound over the kinds of sheet.
 * A piece with its gap takes (w+g)(h+g) of a sheet that is larger by one gap each way.
 */
function byArea(
  items: readonly Item[],
  stock: readonly Sheet[],
  { cutGapMm: gap }: Pick<CuttingTask, "cutGapMm">,
  placed: number,
): number {
  const need = leastSum(
    items.map((item) => (item.widthMm + gap) * (item.heightMm + gap)),
    placed,
  );
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
