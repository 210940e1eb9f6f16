import { Problem } from "../problem/index.ts";
import { type Unit, unitOf } from "../units/index.ts";
import { nameOf } from "./header-words.ts";
import { readStamp, type Stamp, StampKind } from "./stamp.ts";

/** How a file is written: found from its first lines, used for all of it. */
export interface Dialect {
  kind: "delimited" | "ndjson";
  /** Byte between fields; 0 where there is one column only. */
  delimiter: number;
  /** Byte of the decimal sign; 0 while no evidence was seen (then both are read). */
  decimal: number;
  headers: string[];
  /** Units from a row below the header, where there is one. */
  unitRow: Array<Unit | undefined>;
  /** Lines to pass over before the first row of data. */
  skipLines: number;
  /** The header line as it stands, to know it when the logger restarts. */
  headerLine: string;
  /** Lines of words before the header. */
  preamble: string[];
}

export const MISSING = new Set([
  "",
  "-",
  "--",
  "n/a",
  "na",
  "nan",
  "null",
  "none",
  "n.a.",
  "k.a.",
  "?",
  "inf",
  "-inf",
  "undefined",
]);

const encoder = new TextEncoder();
const stamp: Stamp = { kind: StampKind.None, seconds: 0, zoned: false };
const NUMBER = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i;
const GROUPED = /^[+-]?\d{1,3}([.,' \u00a0\u202f]\d{3})+([.,]\d+)?$/;
/** Nothing longer is a figure, a time or a unit; patterns are not tried on it. */
export const LONGEST_FIGURE = 64;
const WITH_UNIT = /^([+-]?[\d.,' ]*\d)\s*([^\d\s.,][^\d]*)$/;

const isStampText = (text: string): boolean => {
  const bytes = encoder.encode(text);
  return readStamp(bytes, 0, bytes.length, stamp);
};

/** A field that holds a figure, with or without a unit behind it, or a clock time. */
function isFigure(text: string): boolean {
  if (text.length > LONGEST_FIGURE) return false;
  if (NUMBER.test(text) || GROUPED.test(text) || isStampText(text)) return true;
  const pair = WITH_UNIT.exec(text);
  return pair !== null && unitOf(pair[2] ?? "") !== undefined;
}

/**
 * Reads a number written with either decimal sign, with or without thousands marks or a unit behind it.
 * @param decimal the file's decimal sign, or 0 when unknown
 * @returns NaN when it is not a number; `unit` is what stood behind it
 */
export function readLooseNumber(text: string, decimal: number): { value: number; unit?: Unit | undefined } {
  let body = text.trim().replace(/[\u00a0\u202f' ](?=\d)/g, "");
  let unit: Unit | undefined;
  const pair = WITH_UNIT.exec(text.trim());
  if (pair) {
    unit = unitOf(pair[2] ?? "");
    if (!unit) return { value: Number.NaN };
    body = (pair[1] ?? "").replace(/[\u00a0\u202f' ]/g, "");
  }
  if (!/^[+-]?[\d.,]+(e[+-]?\d+)?$/i.test(body)) return { value: Number.NaN };
  const comma = body.lastIndexOf(",");
  const dot = body.lastIndexOf(".");
  if (comma >= 0 && dot >= 0) {
    body = comma > dot ? body.replace(/\./g, "").replace(",", ".") : body.replace(/,/g, "");
  } else if (comma >= 0) {
    const grouped = /^[+-]?\d{1,3}(,\d{3})+$/.test(body) && decimal === 46;
    body = grouped || body.indexOf(",") !== comma ? body.replace(/,/g, "") : body.replace(",", ".");
  } else if (dot >= 0) {
    const grouped = /^[+-]?[1-9]\d{0,2}(\.\d{3})+$/.test(body) && decimal === 44;
    if (grouped || body.indexOf(".") !== dot) body = body.replace(/\./g, "");
  }
  return { value: Number(body), unit };
}

/** Nanoseconds since 1970 are 2e18; what is beyond is no reading and no time, and its square soon no number. */
export const LARGEST = 1e20;
const EXACT = /^[+-]?\d*\.?\d+e[+-]?\d+$/i;

/**
 * What a cell of a log holds, wherever the log comes from: a file that is dropped, one that is followed, a script.
 * @param decimal the file's decimal sign, or 0 when unknown
 * @returns its figure as it stands there with the unit behind it, NaN for a gap; undefined where it is text
 */
export function cellFigure(text: string, decimal: number): { value: number; unit?: Unit | undefined } | undefined {
  if (text.length > LONGEST_FIGURE) return undefined;
  if (MISSING.has(text.toLowerCase())) return { value: Number.NaN };
  const figure = EXACT.test(text) ? { value: Number(text) } : readLooseNumber(text, decimal);
  return Math.abs(figure.value) < LARGEST ? figure : undefined;
}

/** Splits one line at the delimiter, with quoted fields. */
export function splitLine(line: string, delimiter: string): string[] {
  if (delimiter === "") return [unquote(line)];
  const fields: string[] = [];
  let field = "";
  let quoted = false;
  for (let i = 0; i < line.length; i++) {
    const sign = line[i] ?? "";
    if (quoted) {
      if (sign !== '"') field += sign;
      else if (line[i + 1] === '"') {
        field += '"';
        i++;
      } else quoted = false;
    } else if (sign === '"' && field.trim() === "") {
      quoted = true;
      field = "";
    } else if (sign === delimiter) {
      fields.push(field.trim());
      field = "";
    } else field += sign;
  }
  fields.push(field.trim());
  return fields;
}

/** One JSON object, which may be the entry of a list. */
function isObject(line: string): boolean {
  const trimmed = line.trim();
  const entry = trimmed.endsWith(",") ? trimmed.slice(0, -1).trimEnd() : trimmed;
  return entry.startsWith("{") && entry.endsWith("}");
}

const unquote = (line: string): string => line.trim().replace(/^"(.*)"$/, "$1");
const isComment = (line: string): boolean => /^\s*(#|\/\/|;;|%|--\s)/.test(line);

interface Trial {
  delimiter: string;
  rows: string[][];
  columns: number;
  score: number;
}

/** How well a delimiter cuts the lines: rows of one width whose fields are figures. */
function tryDelimiter(lines: string[], delimiter: string): Trial {
  const rows = lines.map((line) => splitLine(line, delimiter));
  const widths = new Map<number, number>();
  for (const row of rows) {
    const filled = row.filter(isFigure).length;
    if (filled > 0 && (delimiter === "" || row.length > 1)) widths.set(row.length, (widths.get(row.length) ?? 0) + 1);
  }
  let columns = 0;
  let most = 0;
  for (const [width, count] of widths)
    if (count > most || (count === most && width > columns)) {
      most = count;
      columns = width;
    }
  let figures = 0;
  let fields = 0;
  for (const row of rows) {
    if (row.length !== columns) continue;
    for (const field of row) {
      if (MISSING.has(field.toLowerCase())) continue;
      fields++;
      if (isFigure(field)) figures++;
    }
  }
  const share = fields === 0 ? 0 : figures / fields;
  return { delimiter, rows, columns, score: most * share * share * (columns > 1 ? 1.5 : 1) };
}

/**
 * Finds delimiter, decimal sign and header from the beginning of a file.
 * @param text the decoded beginning
 * @param whole true when `text` is all there is, so that its last line counts
 * @throws Problem `empty`, `not-a-log`, `no-header`, `header-only`
 */
export function findDialect(text: string, whole: boolean): Dialect {
  const all = text.split(/\r\n|\n|\r/);
  if (!whole && all.length > 1) all.pop();
  const lines = all.slice(0, 400);
  if (lines.every((line) => line.trim() === ""))
    throw new Problem({
      code: "empty",
      what: "The file is empty.",
      remedy: "Export the log again and drop the new file.",
    });
  const firstFilled = lines.find((line) => line.trim() !== "") ?? "";
  if (isObject(firstFilled))
    return {
      kind: "ndjson",
      delimiter: 0,
      decimal: 46,
      headers: [],
      unitRow: [],
      skipLines: 0,
      headerLine: "",
      preamble: [],
    };

  const body = lines.filter((line) => line.trim() !== "" && !isComment(line));
  const trials = [";", "\t", ",", "|", ""].map((delimiter) => tryDelimiter(body, delimiter));
  const best = trials.reduce((top, trial) => (trial.score > top.score * 1.0001 ? trial : top));
  if (best.score === 0) {
    const looksLikeHeader = body.length === 1 && /[,;\t|]/.test(body[0] ?? "");
    throw looksLikeHeader
      ? new Problem({
          code: "header-only",
          what: "The file has a header but no rows of figures.",
          remedy: "Let the logger run during the load, then export again.",
        })
      : new Problem({
          code: "not-a-log",
          what: "No table of figures was found in this file.",
          remedy: "Choose a delimited text log with a header row, or one JSON object per line.",
        });
  }
  return locateHeader(lines, best);
}

function locateHeader(lines: string[], trial: Trial): Dialect {
  const { delimiter, columns } = trial;
  const split = lines.map((line) => splitLine(line, delimiter));
  const isData = (index: number): boolean => {
    const line = lines[index] ?? "";
    const row = split[index] ?? [];
    if (line.trim() === "" || isComment(line)) return false;
    if (columns > 1 && (row.length < Math.max(2, columns - 1) || row.length > columns + 1)) return false;
    const figures = row.filter(isFigure).length;
    return figures >= Math.max(1, 0.3 * row.filter((field) => !MISSING.has(field.toLowerCase())).length);
  };
  const first = lines.findIndex((_, index) => isData(index));
  let headerAt = -1;
  let unitRow: Array<Unit | undefined> = [];
  for (let at = first - 1; at >= 0; at--) {
    const line = lines[at] ?? "";
    if (line.trim() === "") continue;
    const row = isComment(line)
      ? splitLine(line.replace(/^\s*(#+|\/\/|;;|%|--\s)\s*/, ""), delimiter)
      : (split[at] ?? []);
    const filled = row.filter((field) => field !== "");
    const units = filled.filter((field) => unitOf(field.replace(/[[\](){}]/g, "")) !== undefined).length;
    if (
      unitRow.length === 0 &&
      filled.length > 0 &&
      units >= 0.6 * filled.length &&
      columns > 1 &&
      headerAbove(split, at, columns)
    ) {
      unitRow = row.map((field) => unitOf(field.replace(/[[\](){}]/g, "")));
      continue;
    }
    const wide = columns === 1 ? row.length === 1 : row.length >= Math.max(2, columns - 2);
    if (wide && filled.length > 0 && filled.filter(isFigure).length < 0.5 * filled.length) {
      headerAt = at;
      break;
    }
    if (!isComment(line)) break;
  }
  if (headerAt < 0)
    throw new Problem({
      code: "no-header",
      what: "The file has no header row, so its columns have no names.",
      remedy: "Add a first line with the columns' names and units.",
    });
  const headerText = lines[headerAt] ?? "";
  const headers = splitLine(
    isComment(headerText) ? headerText.replace(/^\s*(#+|\/\/|;;|%|--\s)\s*/, "") : headerText,
    delimiter,
  );
  for (const [index, header] of headers.entries()) headers[index] = nameOf(header);
  if (headers.length > columns && headers.at(-1) === "") headers.pop();
  while (headers.length < columns) headers.push(`column ${headers.length + 1}`);
  return {
    kind: "delimited",
    delimiter: delimiter === "" ? 0 : delimiter.charCodeAt(0),
    decimal: findDecimal(
      split.filter((_, index) => index >= first),
      delimiter,
    ),
    headers: headers.map((name, index) => (name === "" ? `column ${index + 1}` : name)),
    unitRow,
    skipLines: first,
    headerLine: headerText.trim(),
    preamble: lines.slice(0, headerAt).filter((line) => line.trim() !== ""),
  };
}

const headerAbove = (split: string[][], at: number, columns: number): boolean => {
  for (let above = at - 1; above >= 0; above--) {
    const row = split[above] ?? [];
    if (row.every((field) => field === "")) continue;
    return row.length >= columns - 1 && row.filter(isFigure).length === 0;
  }
  return false;
};

/** Which sign marks decimals: by the fields that can be read in one way only. */
function findDecimal(rows: string[][], delimiter: string): number {
  let comma = 0;
  let dot = 0;
  let grouped = 0;
  for (const row of rows)
    for (const field of row) {
      if (field.length > LONGEST_FIGURE || isStampText(field)) continue;
      const figure = (WITH_UNIT.exec(field)?.[1] ?? field).trim();
      if (/^[+-]?\d*,(\d{1,2}|\d{4,})$/.test(figure) || /^[+-]?0,\d+$/.test(figure) || /\.\d{3},\d+$/.test(figure))
        comma++;
      else if (/^[+-]?\d*\.\d+$/.test(figure) || /,\d{3}\.\d+$/.test(figure)) dot++;
      else if (/^[+-]?\d{1,3}(,\d{3})+$/.test(figure)) grouped++;
    }
  if (comma > 0 && comma >= dot) return 44;
  if (dot > 0) return 46;
  if (grouped > 0) return delimiter === "," ? 46 : 44;
  return 0;
}
