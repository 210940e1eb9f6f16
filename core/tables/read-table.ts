import Papa from "papaparse";
import { Problem } from "../problem/index.ts";

export interface Table {
  headers: string[];
  /** One cell for each header; what is missing at the end of a line is empty. */
  rows: string[][];
  /** Line of the file each row begins near, from 1; for words only. */
  firstLine: number;
}

const MOST_COLUMNS = 200;

/**
 * Reads delimited text with a header; comma, semicolon, tab or bar is found out.
 * @param most rows at most
 * @throws Problem `empty-table`, `many-rows`, `many-columns`, `same-headers`
 * @example
 * ```ts
 * readTable("a;b\n1,5;x\n", 10).rows // => [["1,5", "x"]]
 * ```
 */
export function readTable(text: string, most: number): Table {
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ""), {
    skipEmptyLines: "greedy",
    delimitersToGuess: [",", ";", "\t", "|"],
    preview: most + 20,
  });
  // A title stands above: the header is the first line with two filled cells, or the only line there is.
  const at = Math.max(
    0,
    data.slice(0, 20).findIndex((cells) => cells.filter((cell) => cell.trim() !== "").length > 1),
  );
  const headers = (data[at] ?? []).map((cell) => cell.trim());
  while (headers.at(-1) === "") headers.pop();
  if (headers.length === 0 || data.length <= at + 1)
    throw new Problem({
      code: "empty-table",
      what: "There are no rows below a header.",
      remedy: "Give delimited text whose first line names its columns.",
    });
  if (headers.length > MOST_COLUMNS)
    throw new Problem({
      code: "many-columns",
      what: `The header names ${headers.length} columns.`,
      remedy: `At most ${MOST_COLUMNS} are read: leave out what is not needed.`,
    });
  const twice = headers.find((name, index) => name !== "" && headers.indexOf(name) !== index);
  if (twice !== undefined)
    throw new Problem({
      code: "same-headers",
      what: `Two columns are named “${twice}”.`,
      remedy: "Give each column a name of its own.",
    });
  const rows = data.slice(at + 1).map((cells) => headers.map((_, column) => (cells[column] ?? "").trim()));
  if (rows.length > most)
    throw new Problem({
      code: "many-rows",
      what: `There are more than ${most} rows.`,
      remedy: `Split the file: at most ${most} are read at once.`,
    });
  return { headers, rows, firstLine: at + 2 };
}
