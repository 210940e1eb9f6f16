import * as v from "valibot";
import { COLUMN_FIELDS, type ColumnField, PaperInput, type SheetMapping, USE_KINDS } from "#contract";
import { celsiusOf, dayCell, looksFahrenheit, numberCell, type Table } from "#core/tables/index.ts";

export interface RowFate {
  /** Of the file, for words. */
  line: number;
  paper: PaperInput | null;
  /** Why it can't be taken in; empty where it can. */
  why: string;
}

/** Header words by which a column is known; the first field that claims one has it. */
const WORDS: ReadonlyArray<readonly [ColumnField, RegExp]> = [
  ["roomAfterC", /(room|ambient|air).*(after|end|2)|(after|nach).*(room|ambient|air)/i],
  ["roomBeforeC", /room|ambient|\bair\b|raum|umgebung/i],
  ["beforeC", /before|vorher|avant|prima|\bpre\b/i],
  ["afterC", /after|nachher|après|apres|dopo|\bpost\b/i],
  ["serial", /serial|s\/n|\bsn\b|seriennummer/i],
  ["doneOn", /date|\bday\b|datum|\bdone on\b|when/i],
  ["pads", /pad/i],
  ["compound", /paste|compound|\btim\b/i],
  ["fan", /\bfans?\b/i],
  ["ageYears", /\bage\b|years|alter/i],
  ["use", /\buse\b|usage|used for/i],
  ["work", /work|job|service|done|arbeit/i],
  ["model", /model|card|gpu|board|karte/i],
  ["note", /note|remark|comment|bemerkung/i],
];

/** What the columns seem to be, from their names and what stands in them. */
export function guessMapping({ headers, rows }: Table): SheetMapping {
  const fields: SheetMapping["fields"] = {};
  const free = new Set(headers);
  for (const [field, words] of WORDS) {
    const header = [...free].find((name) => words.test(name));
    if (header === undefined) continue;
    fields[field] = header;
    free.delete(header);
  }
  const hot = (["beforeC", "afterC"] as const).flatMap((field) => {
    const at = headers.indexOf(fields[field] ?? "");
    return at < 0 ? [] : rows.flatMap((cells) => numberCell(cells[at] ?? "") ?? []);
  });
  return { fields, fahrenheit: looksFahrenheit(hot), monthFirst: false };
}

const WORK: ReadonlyArray<readonly [RegExp, string]> = [
  [/block|water|cooler|heatsink swap/i, "another cooler"],
  [/pad.*past|past.*pad/i, "paste and pads"],
  [/pad|putty/i, "pads"],
  [/past|compound|\btim\b/i, "repasted"],
  [/clean|dust/i, "cleaned"],
  [/fan/i, "fans"],
];
const workOf = (text: string): string => WORK.find(([words]) => words.test(text))?.[1] ?? text;

const fanOf = (text: string): PaperInput["fan"] =>
  /not|no\b|nein|diff|auto/i.test(text)
    ? "not the same"
    : /same|yes|ja|equal|fixed|\d/i.test(text)
      ? "same"
      : "unknown";

const useOf = (text: string): PaperInput["use"] =>
  /office|work/i.test(text)
    ? "office"
    : /game|gaming|play/i.test(text)
      ? "games"
      : /render|mining|constant|load|server/i.test(text)
        ? "long constant load"
        : (USE_KINDS.find((one) => one === text) ?? "unknown");

/** What becomes of each row: a result, or why not. Nothing is kept by this. */
export function fatesOf(
  { headers, rows, firstLine }: Table,
  { fields, fahrenheit, monthFirst }: SheetMapping,
): RowFate[] {
  const places = new Map(COLUMN_FIELDS.map((field) => [field, headers.indexOf(fields[field] ?? "")]));
  return rows.map((cells, index) => {
    const text = (field: ColumnField): string => {
      const at = places.get(field) ?? -1;
      return at < 0 ? "" : (cells[at] ?? "");
    };
    const wrong: string[] = [];
    const number = (field: ColumnField): number | null => {
      if (text(field) === "") return null;
      const value = numberCell(text(field));
      if (value === undefined) wrong.push(`“${text(field)}” under “${fields[field]}” is no number`);
      return value ?? null;
    };
    const temperature = (field: ColumnField): number | null => {
      const value = number(field);
      return value === null || !fahrenheit ? value : Math.round(10 * celsiusOf(value)) / 10;
    };
    const [beforeC, afterC] = [temperature("beforeC"), temperature("afterC")];
    const rooms = [temperature("roomBeforeC"), temperature("roomAfterC")] as const;
    const doneOn = text("doneOn") === "" ? null : dayCell(text("doneOn"), monthFirst);
    if (doneOn === undefined) wrong.push(`“${text("doneOn")}” is no day`);
    if (beforeC === null && wrong.length === 0) wrong.push("no temperature before");
    if (afterC === null && wrong.length === 0) wrong.push("no temperature after");
    const parsed = v.safeParse(PaperInput, {
      model: text("model"),
      serial: text("serial"),
      doneOn: doneOn ?? null,
      work: workOf(text("work")),
      compound: text("compound"),
      pads: text("pads"),
      beforeC: beforeC ?? 0,
      afterC: afterC ?? 0,
      roomBeforeC: rooms[0],
      roomAfterC: rooms[1],
      roomIsRead: rooms[0] !== null && rooms[1] !== null,
      fan: fanOf(text("fan")),
      ageYears: number("ageYears"),
      use: useOf(text("use")),
      note: text("note").slice(0, 500),
    });
    const why = wrong[0] ?? parsed.issues?.[0]?.message ?? "";
    return { line: firstLine + index, paper: why === "" && parsed.success ? parsed.output : null, why };
  });
}
