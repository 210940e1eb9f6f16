import { isNumberColumn, numberIn, type ResultRow, textIn } from "./columns.ts";

export interface Lopsided {
  /** The levels that are held against each other, and what sets them apart besides. */
  a: string;
  b: string;
  column: string;
  /** Means of a column of numbers; null for text. */
  aMean: number | null;
  bMean: number | null;
  /** Standard deviations between the means, or the share of services that would have to change theirs for the two to be alike. */
  apart: number;
  /** No value is shared: what belongs to which can't be told. */
  isWhole: boolean;
}

/** Standard deviations between two means, and shares of unlike values, from which a comparison is lopsided (common practice, no source). */
const MOST_SD = 0.8;
const MOST_SHARE = 0.6;
/** Fewer services of a level tell nothing of its like. */
const LEAST = 2;
/** Of more levels every pair is not looked at. */
const MOST_LEVELS = 20;

/**
 * Where two levels of a column differ in something else as well, such as one that only went on old cards. Standardised mean difference for
 * numbers (P. C. Austin, Statistics in Medicine 28, 2009); half the sum of differences of shares for text. Time: rows × columns.
 * @param others names of columns to look at
 * @returns nothing for more than 20 levels
 */
export function lopsided(rows: readonly ResultRow[], by: string, others: readonly string[]): Lopsided[] {
  const groups = new Map<string, ResultRow[]>();
  for (const row of rows) {
    const level = textIn(row.columns[by]);
    if (level === undefined) continue;
    const group = groups.get(level);
    if (group) group.push(row);
    else groups.set(level, [row]);
  }
  if (groups.size > MOST_LEVELS) return [];
  const levels = [...groups];
  return others.flatMap((column) => {
    if (isNumberColumn(rows, column)) {
      const known = levels.map(([level, group]) => ({ level, ...numbersOf(group, column) }));
      return pairsOf(known).flatMap(([a, b]) => byNumber(a, b, column));
    }
    const known = levels.map(([level, group]) => ({ level, shares: sharesOf(group, column) }));
    return pairsOf(known).flatMap(([a, b]) => byText(a, b, column));
  });
}

const pairsOf = <T>(all: readonly T[]): Array<[T, T]> =>
  all.flatMap((a, i) => all.slice(i + 1).map((b): [T, T] => [a, b]));

interface Numbers {
  count: number;
  mean: number;
  variance: number;
  low: number;
  high: number;
}

function numbersOf(rows: readonly ResultRow[], column: string): Numbers {
  const values = rows.flatMap(({ columns }) => numberIn(columns[column]) ?? []);
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return {
    count: values.length,
    mean,
    variance: values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (values.length - 1),
    low: values.reduce((low, value) => Math.min(low, value), Number.POSITIVE_INFINITY),
    high: values.reduce((high, value) => Math.max(high, value), Number.NEGATIVE_INFINITY),
  };
}

type Named<T> = T & { level: string };

function byNumber(a: Named<Numbers>, b: Named<Numbers>, column: string): Lopsided[] {
  if (a.count < LEAST || b.count < LEAST) return [];
  const apart = Math.abs(a.mean - b.mean) / Math.sqrt((a.variance + b.variance) / 2);
  if (!(apart > MOST_SD)) return [];
  const isWhole = a.high < b.low || b.high < a.low;
  return [{ a: a.level, b: b.level, column, aMean: a.mean, bMean: b.mean, apart, isWhole }];
}

interface Shares {
  count: number;
  of: ReadonlyMap<string, number>;
}

function sharesOf(rows: readonly ResultRow[], column: string): Shares {
  const values = rows.flatMap(({ columns }) => textIn(columns[column]) ?? []);
  const of = new Map<string, number>();
  for (const value of values) of.set(value, (of.get(value) ?? 0) + 1 / values.length);
  return { count: values.length, of };
}

function byText(a: Named<{ shares: Shares }>, b: Named<{ shares: Shares }>, column: string): Lopsided[] {
  if (a.shares.count < LEAST || b.shares.count < LEAST) return [];
  const apart = [...new Set([...a.shares.of.keys(), ...b.shares.of.keys()])].reduce(
    (sum, value) => sum + Math.abs((a.shares.of.get(value) ?? 0) - (b.shares.of.get(value) ?? 0)) / 2,
    0,
  );
  return apart > MOST_SHARE
    ? [{ a: a.level, b: b.level, column, aMean: null, bMean: null, apart, isWhole: apart > 1 - 1e-9 }]
    : [];
}
