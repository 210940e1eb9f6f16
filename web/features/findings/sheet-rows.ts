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

const TEMPERATURES: ReadonlySet<ColumnField> = new Set(["beforeC", "afterC", "roomBeforeC", "roomAfterC"]);
/** What is measured before and after as well, and is never a temperature. */
const OTHER_FIGURE =
  /power|watt|leistung|puissance|\bw\b|rpm|u\/min|\bfans?\b|noise|sound|\bdba?\b|clock|takt|mhz|score|\bfps\b|price|cost|hours|minutes/i;
/** A rise: kelvins over the room's air. */
const RISE =
  /\brise\b|(over|above) (the )?(room|ambient|air)|[Δδ]\s?t\b|\bdelta[ -]?t?\b|\bdt\b|\bk\b|über (raum|umgebung)/i;

function mayBe(field: ColumnField, header: string): boolean {
  if (!TEMPERATURES.has(field)) return true;
  if (OTHER_FIGURE.test(header)) return false;
  return !(field.startsWith("room") && RISE.test(header));
}

/** What the columns seem to be, from their names and what stands in them. */
export function guessMapping({ headers, rows }: Table): SheetMapping {
  const fields: SheetMapping["fields"] = {};
  const free = new Set(headers);
  for (const [field, words] of WORDS) {
    const header = [...free].find((name) => words.test(name) && mayBe(field, name));
    if (header === undefined) continue;
    fields[field] = header;
    free.delete(header);
  }
  const hot = (["beforeC", "afterC"] as const).flatMap((field) => {
    const at = headers.indexOf(fields[field] ?? "");
    return at < 0 ? [] : rows.flatMap((cells) => numberCell(cells[at] ?? "") ?? []);
  });
  const rises = [fields.beforeC, fields.afterC].every((header) => header !== undefined && RISE.test(header));
  return { fields, fahrenheit: !rises && looksFahrenheit(hot), rises, monthFirst: false };
}

/** No service changes a card by more: it is another column, or another unit. */
const MOST_CHANGE_K = 60;
/** A rise stands over some air; which one is no matter to the change. */
const RISE_FROM_C = 22;

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

const isTemperature = (value: number | null | undefined): value is number =>
  typeof value === "number" && value >= 0 && value <= 150;

/** What becomes of each row: a result, or why not. Nothing is kept by this. */
export function fatesOf(
  { headers, rows, firstLine }: Table,
  { fields, fahrenheit, rises, monthFirst }: SheetMapping,
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
    const overRoom = (field: ColumnField): number | null => {
      const value = number(field);
      return value === null ? null : Math.round(10 * (RISE_FROM_C + (fahrenheit ? value / 1.8 : value))) / 10;
    };
    const [beforeC, afterC] = (["beforeC", "afterC"] as const).map(rises ? overRoom : temperature);
    const rooms = rises
      ? ([RISE_FROM_C, RISE_FROM_C] as const)
      : ([temperature("roomBeforeC"), temperature("roomAfterC")] as const);
    const doneOn = text("doneOn") === "" ? null : dayCell(text("doneOn"), monthFirst);
    if (doneOn === undefined) wrong.push(`“${text("doneOn")}” is no day`);
    if (isTemperature(beforeC) && isTemperature(afterC) && Math.abs(afterC - beforeC) > MOST_CHANGE_K)
      wrong.push(
        `“${fields.beforeC}” and “${fields.afterC}” differ by ${Math.round(Math.abs(afterC - beforeC))} K: one of them is another column or unit`,
      );
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
