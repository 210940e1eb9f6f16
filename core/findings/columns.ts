/** What a column may hold; null or an empty text where it was not noted. */
export type Value = string | number | null;

/** One service, or one row of a file. */
export interface ResultRow {
  /** What it came to, K; what is colder is below 0. */
  changeK: number;
  /** Half-width of its 95 % interval, K, above 0. */
  u95K: number;
  columns: Readonly<Record<string, Value>>;
}

export type Column =
  | { name: string; kind: "number"; values: Float64Array }
  | { name: string; kind: "text"; values: string[]; levels: string[] };

/** What stands in a cell that nobody filled. */
const NOT_NOTED: ReadonlySet<string> = new Set(["", "-", "–", "?", "n/a", "na", "nan", "null", "none", "unknown"]);
/** Nothing longer is a number. */
const LONGEST = 64;
/** A column with this share of numbers is one of numbers; the rest can't be used. */
const MOSTLY = 0.8;

/** A number as it is written in any dialect: 3.5, −3,5, 1e-3; undefined for what is none. */
export function numberIn(value: Value | undefined): number | undefined {
  if (typeof value === "number") return Number.isFinite(value) ? value : undefined;
  if (value != null && value.length > LONGEST) return undefined;
  const text = (value ?? "").trim().replace("−", "-").replace(",", ".");
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text)) return undefined;
  return Number(text);
}

export const textIn = (value: Value | undefined): string | undefined => {
  const text = String(value ?? "").trim();
  return NOT_NOTED.has(text.toLowerCase()) ? undefined : text;
};

/** Whether what is noted under a name are numbers. */
export function isNumberColumn(rows: readonly ResultRow[], name: string): boolean {
  let noted = 0;
  let numbers = 0;
  for (const { columns } of rows) {
    if (textIn(columns[name]) === undefined) continue;
    noted++;
    if (numberIn(columns[name]) !== undefined) numbers++;
  }
  return noted > 0 && numbers >= MOSTLY * noted;
}

/**
 * A column of rows that all have it noted; levels of text with the commonest first, ties as they come.
 * @throws RangeError where one has not
 */
export function columnOf(rows: readonly ResultRow[], name: string, isNumber: boolean): Column {
  if (isNumber) {
    const values = Float64Array.from(rows, ({ columns }) => numberIn(columns[name]) ?? Number.NaN);
    if (values.some(Number.isNaN)) throw new RangeError(`columnOf: “${name}” is not noted in every row`);
    return { name, kind: "number", values };
  }
  const values = rows.map(({ columns }) => textIn(columns[name]) ?? "");
  if (values.includes("")) throw new RangeError(`columnOf: “${name}” is not noted in every row`);
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  const levels = [...counts].toSorted((a, b) => b[1] - a[1]).map(([level]) => level);
  return { name, kind: "text", values, levels };
}
