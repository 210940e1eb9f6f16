import { nth, Simplex } from "../numeric/index.ts";
import type { Item } from "./packing.ts";
import type { CuttingTask, Sheet } from "./problem.ts";
import { canBeTabled, GuillotineTable, type Laid, type Size } from "./raster.ts";

/** A way to cut one sheet. */
export interface Pattern {
  sheet: Sheet;
  laid: Laid[];
  /** How often the relaxed plan takes it; shares of a sheet are allowed there. */
  share: number;
}

export interface Columns {
  /** No plan with straight cuts costs less. */
  bound: number;
  /** Of the relaxed plan; empty where sizes had to be rounded. */
  patterns: Pattern[];
  /** Index of each item's size. */
  sizeOf: (item: Item) => number;
}

const MOST_ROUNDS = 120;
const MOST_SIZES = 60;
/** A piece that no pattern holds yet costs this many times the dearest sheet. */
const DEAR = 10;
const PAYS = 1e-7;
/** Kept off a bound for the digits that are lost in the table. */
const GUARD = 1e-9;

type Rules = Pick<CuttingTask, "cutGapMm" | "rotate">;

/**
 * Bound and patterns by column generation (P. C. Gilmore and R. E. Gomory, 1961 and 1965): a linear programme takes shares of patterns, its
 * dual values price the pieces, and the table of straight cuts finds the pattern that pays best, until none pays. Any prices give a bound
 * (Lagrange): Σ price × wanted − Σ over limited sheets of quantity × what the best pattern is worth above its cost; where unlimited sheets
 * would be worth more than they cost, all prices are lowered until none is.
 * @param ends whether to stop early; what is known by then is returned
 */
export function columnsOf(
  items: readonly Item[],
  stock: readonly Sheet[],
  rules: Rules,
  ends: () => boolean = () => false,
): Columns {
  const { sizes, sizeOf } = sizesOf(items, rules);
  const none: Columns = { bound: 0, patterns: [], sizeOf };
  if (items.length === 0 || stock.length === 0 || sizes.length > MOST_SIZES) return none;
  if (!canBeTabled(sizes, stock, rules.cutGapMm)) return none;
  const table = new GuillotineTable(sizes, stock, rules);
  const limited = stock.filter((sheet) => sheet.quantity !== null);
  const dearest = Math.max(...stock.map((sheet) => sheet.price), 1e-6);
  const rowCount = sizes.length + limited.length;
  const unit = (row: number, value: number): number[] =>
    Array.from({ length: rowCount }, (_, k) => (k === row ? value : 0));
  const programme = new Simplex(
    [...sizes.map((size) => size.count), ...limited.map((sheet) => sheet.quantity ?? 0)],
    Array.from({ length: rowCount }, (_, row) => ({
      cost: row < sizes.length ? DEAR * dearest : 0,
      rows: unit(row, 1),
    })),
  );
  // More than is wanted of a size may come out of the sheets.
  sizes.forEach((_, row) => programme.add({ cost: 0, rows: unit(row, -1) }));
  const known = new Map<number, Omit<Pattern, "share">>();
  let bound = 0;
  for (let round = 0; round < MOST_ROUNDS && !ends(); round++) {
    const worth = programme.solve();
    const prices = sizes.map((_, size) => Math.max(0, nth(worth, size)));
    table.work(prices);
    bound = Math.max(bound, boundBy(prices, sizes, stock, table));
    let paid = false;
    for (const sheet of stock) {
      const row = limited.indexOf(sheet);
      const costs = sheet.price - (row < 0 ? 0 : nth(worth, sizes.length + row));
      if (table.valueOf(sheet) <= costs + PAYS * dearest) continue;
      const laid = table.patternOf(sheet);
      const rows = unit(row < 0 ? -1 : sizes.length + row, 1);
      for (const { size } of laid) rows[size] = nth(rows, size) + 1;
      known.set(programme.add({ cost: sheet.price, rows }), { sheet, laid });
      paid = true;
    }
    if (!paid) break;
  }
  const patterns = programme.used().flatMap(({ column, share }): Pattern[] => {
    const pattern = known.get(column);
    return pattern ? [{ ...pattern, share }] : [];
  });
  return { bound, patterns: table.exact ? patterns : [], sizeOf };
}

function boundBy(
  prices: readonly number[],
  sizes: readonly Size[],
  stock: readonly Sheet[],
  table: GuillotineTable,
): number {
  let lower = 1;
  for (const sheet of stock) {
    const value = table.valueOf(sheet);
    if (sheet.quantity === null && value > sheet.price) lower = Math.min(lower, sheet.price / value);
  }
  let bound = sizes.reduce((sum, { count }, size) => sum + count * lower * nth(prices, size), 0);
  for (const sheet of stock) bound -= (sheet.quantity ?? 0) * Math.max(0, lower * table.valueOf(sheet) - sheet.price);
  return bound * (1 - GUARD);
}

function sizesOf(items: readonly Item[], { rotate }: Rules): { sizes: Size[]; sizeOf: (item: Item) => number } {
  const keyOf = ({ widthMm: w, heightMm: h }: Item): string => (rotate && h > w ? `${h} ${w}` : `${w} ${h}`);
  const index = new Map<string, number>();
  const sizes: Size[] = [];
  for (const item of items) {
    const key = keyOf(item);
    const at = index.get(key) ?? sizes.push({ widthMm: item.widthMm, heightMm: item.heightMm, count: 0 }) - 1;
    index.set(key, at);
    const size = sizes[at];
    if (size) size.count++;
  }
  return { sizes, sizeOf: (item) => index.get(keyOf(item)) ?? -1 };
}
