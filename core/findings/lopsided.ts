import { isNumberColumn, numberIn, type ResultRow, textIn } from "./columns.ts";

export interface Lopsided {
  /** The levels that are held against each other, and what sets them apart besides. */
  a: string;
  b: string;
  column: string;
  /** Means of a column of numbers, or the share of services that would have to change theirs for the two to be alike. */
  aMean: number | null;
  bMean: number | null;
  apart: number;
  /** No value is shared: what belongs to which can't be told. */
  isWhole: boolean;
}

/** Standard deviations between two means, and shares of unlike values, from which a comparison is lopsided (common practice, no source). */
const MOST_SD = 0.8;
const MOST_SHARE = 0.6;
/** Fewer services of a level tell nothing of its like. */
const LEAST = 2;

/**
 * Where two levels of a column differ in something else as well, such as one that only went on old cards. Standardised mean difference for
 * numbers (P. C. Austin, Statistics in Medicine 28, 2009); half the sum of differences of shares for text.
 * @param others names of columns to look at
 */
export function lopsided(rows: readonly ResultRow[], by: string, others: readonly string[]): Lopsided[] {
  const levels = [...new Set(rows.flatMap(({ columns }) => textIn(columns[by]) ?? []))];
  const numbers = new Set(others.filter((name) => isNumberColumn(rows, name)));
  return levels.flatMap((a, i) =>
    levels.slice(i + 1).flatMap((b) =>
      others.flatMap((column) => {
        const look = numbers.has(column) ? byNumber : byText;
        return look(ofLevel(rows, by, a), ofLevel(rows, by, b), column).map((one) => ({ a, b, column, ...one }));
      }),
    ),
  );
}

const ofLevel = (rows: readonly ResultRow[], by: string, level: string): ResultRow[] =>
  rows.filter(({ columns }) => textIn(columns[by]) === level);
const meanOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
const varianceOf = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + (value - meanOf(values)) ** 2, 0) / (values.length - 1);
const shareOf = (values: readonly string[], value: string): number =>
  values.filter((one) => one === value).length / values.length;

type Apart = Omit<Lopsided, "a" | "b" | "column">;

function byNumber(one: readonly ResultRow[], other: readonly ResultRow[], column: string): Apart[] {
  const [a, b] = [one, other].map((rows) => rows.flatMap(({ columns }) => numberIn(columns[column]) ?? [])) as [
    number[],
    number[],
  ];
  if (a.length < LEAST || b.length < LEAST) return [];
  const [aMean, bMean] = [meanOf(a), meanOf(b)];
  const apart = Math.abs(aMean - bMean) / Math.sqrt((varianceOf(a) + varianceOf(b)) / 2);
  if (!(apart > MOST_SD)) return [];
  const isWhole = Math.max(...a) < Math.min(...b) || Math.max(...b) < Math.min(...a);
  return [{ aMean, bMean, apart, isWhole }];
}

function byText(one: readonly ResultRow[], other: readonly ResultRow[], column: string): Apart[] {
  const [a, b] = [one, other].map((rows) => rows.flatMap(({ columns }) => textIn(columns[column]) ?? [])) as [
    string[],
    string[],
  ];
  if (a.length < LEAST || b.length < LEAST) return [];
  const apart = [...new Set([...a, ...b])].reduce(
    (sum, value) => sum + Math.abs(shareOf(a, value) - shareOf(b, value)) / 2,
    0,
  );
  return apart > MOST_SHARE ? [{ aMean: null, bMean: null, apart, isWhole: apart > 1 - 1e-9 }] : [];
}
