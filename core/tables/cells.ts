/** Nothing longer is a number. */
const LONGEST_CELL = 200;

/**
 * A number as people write one in a cell, with its unit left out: 79, 79,5, 79 °C, ~22; undefined for what is none.
 * @example
 * ```ts
 * numberCell("~ 22,5 °C") // => 22.5
 * ```
 */
export function numberCell(text: string): number | undefined {
  if (text.length > LONGEST_CELL) return undefined;
  const found = /^[~≈]?\s*([+\-−]?\d+(?:[.,]\d+)?)\s*(?:°\s*)?[a-z%]*\s*$/i.exec(text.trim());
  return found?.[1] === undefined ? undefined : Number(found[1].replace("−", "-").replace(",", "."));
}

/**
 * A day as people write one: 2024-03-09, 9.3.2024, 9/3/24; undefined for what is none.
 * @param monthFirst whether 3/9/2024 is the ninth of March
 * @example
 * ```ts
 * dayCell("9.3.24", false) // => "2024-03-09"
 * ```
 */
export function dayCell(text: string, monthFirst: boolean): string | undefined {
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})/.exec(text.trim());
  if (iso) return dayOf(iso[1], iso[2], iso[3]);
  const other = /^(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+(\d{4}|\d{2})$/.exec(text.trim());
  if (!other) return undefined;
  const [one, two] = [other[1], other[2]];
  // A month beyond twelve is a day.
  const first = monthFirst && Number(one) <= 12 ? [two, one] : [one, two];
  const [day, month] = Number(first[1]) > 12 ? [first[1], first[0]] : first;
  return dayOf((other[3] ?? "").padStart(4, "20"), month, day);
}

function dayOf(year = "", month = "", day = ""): string | undefined {
  const [y, m, d] = [year, month, day].map(Number) as [number, number, number];
  const most = [31, y % 4 === 0 && (y % 100 !== 0 || y % 400 === 0) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
  if (!(d >= 1 && d <= (most[m - 1] ?? 0))) return undefined;
  return `${year}-${month.padStart(2, "0")}-${day.padStart(2, "0")}`;
}

/** Temperatures under load that are mostly above this are in Fahrenheit: no card runs so hot in °C. */
const TOO_HOT = 115;

export const celsiusOf = (fahrenheit: number): number => ((fahrenheit - 32) * 5) / 9;

/**
 * Whether figures that should be °C look like Fahrenheit.
 * @example
 * ```ts
 * looksFahrenheit([174, 165, 158]) // => true
 * ```
 */
export function looksFahrenheit(values: readonly number[]): boolean {
  return values.length > 0 && values.filter((value) => value > TOO_HOT).length > values.length / 2;
}
