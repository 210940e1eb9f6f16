/** Rounds every number of a document to at most five decimals, once, at the border. */
function rounded(value: unknown): unknown {
  if (typeof value === "number") return Number.isFinite(value) ? Math.round(value * 1e5) / 1e5 : null;
  if (Array.isArray(value)) return value.map(rounded);
  if (value !== null && typeof value === "object")
    return Object.fromEntries(Object.entries(value).map(([key, entry]) => [key, rounded(entry)]));
  return value;
}

export function printJson(document: unknown): void {
  process.stdout.write(`${JSON.stringify(rounded(document))}\n`);
}

/** A table in columns as wide as their longest cell; numbers right, words left. */
export function printTable(rows: ReadonlyArray<readonly string[]>): void {
  const widths = (rows[0] ?? []).map((_, column) => Math.max(...rows.map((row) => (row[column] ?? "").length)));
  for (const row of rows) {
    const cells = row.map((cell, column) =>
      column === 0 ? cell.padEnd(widths[column] ?? 0) : cell.padStart(widths[column] ?? 0),
    );
    process.stdout.write(`${cells.join("  ").trimEnd()}\n`);
  }
}

export const figure = (value: number | null | undefined, digits = 1): string =>
  value === null || value === undefined ? "–" : value.toFixed(digits);
export const signed = (value: number, digits = 1): string =>
  `${value > 0 ? "+" : value < 0 ? "−" : ""}${Math.abs(value).toFixed(digits)}`;
export const line = (text: string): void => {
  process.stdout.write(`${text}\n`);
};
