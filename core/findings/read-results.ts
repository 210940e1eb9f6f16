import { Problem } from "../problem/index.ts";
import { readTable } from "../tables/index.ts";
import { numberIn, type ResultRow } from "./columns.ts";

const MOST_ROWS = 100_000;

/**
 * Results from delimited text with the columns `changeK` and `u95K` and any others; what can't be used is NaN and left out later.
 * @throws Problem as `readTable`, and `no-column` where one of the two is missing
 */
export function readResults(text: string): ResultRow[] {
  const { headers, rows } = readTable(text, MOST_ROWS);
  const placeOf = (name: string): number => {
    const exact = headers.indexOf(name);
    const at = exact >= 0 ? exact : headers.findIndex((one) => one.toLowerCase() === name.toLowerCase());
    if (at < 0)
      throw new Problem({
        code: "no-column",
        what: `There is no column “${name}”.`,
        remedy: "The first line names the columns; changeK and u95K (the half-width of 95 %) are needed.",
      });
    return at;
  };
  const [change, u95] = [placeOf("changeK"), placeOf("u95K")];
  return rows.map((cells) => ({
    changeK: numberIn(cells[change]) ?? Number.NaN,
    u95K: numberIn(cells[u95]) ?? Number.NaN,
    columns: Object.fromEntries(headers.map((name, at) => [name, cells[at] ?? ""])),
  }));
}
