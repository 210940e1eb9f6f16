import * as v from "valibot";
import type { Contrast, Findings, Group, Lopsided } from "#core/findings/index.ts";
import type { ProblemDetail } from "#core/problem/index.ts";
import { USE_KINDS } from "./card.ts";
import { number } from "./shapes.ts";
import type { StationId } from "./stations.ts";

/** What a result may be told apart by. */
export const FACTORS = [
  { id: "work", label: "Kind of work", kind: "text" },
  { id: "compound", label: "Compound", kind: "text" },
  { id: "compoundKind", label: "Kind of compound", kind: "text" },
  { id: "pads", label: "Pads", kind: "text" },
  { id: "pattern", label: "How compound was put on", kind: "text" },
  { id: "cleaning", label: "School of cleaning", kind: "text" },
  { id: "dirt", label: "Dirt", kind: "text" },
  { id: "use", label: "Use", kind: "text" },
  { id: "model", label: "Board model", kind: "text" },
  { id: "cooler", label: "Cooler", kind: "text" },
  { id: "age", label: "Age (years)", kind: "number" },
] as const;
export type FactorId = (typeof FACTORS)[number]["id"];
export const FACTOR_IDS = FACTORS.map(({ id }) => id);

/** What one proved service says, at equal conditions; kept in its line. */
export interface ServiceResult {
  changeK: number;
  u95K: number;
  /** Of the hotspot over the die; null without both sensors. */
  gap: { changeK: number; u95K: number } | null;
  /** Null where nobody noted it; the model is its card's own. */
  told: Record<Exclude<FactorId, "model" | "age" | "use">, string | null>;
  /** When it was proved, ISO 8601. */
  provedAt: string;
}

const text = (most: number) => v.pipe(v.string(), v.trim(), v.maxLength(most, `At most ${most} characters.`));
const temperature = number(0, 150, "A temperature lies between 0 and 150 °C.");
const room = v.nullable(number(-10, 50, "Room air lies between −10 and 50 °C."));

export const FAN_KEPT = ["same", "not the same", "unknown"] as const;

/** A result of before, from paper or a spreadsheet. */
export const PaperInput = v.pipe(
  v.object({
    model: v.pipe(text(200), v.minLength(1, "Type which card or board model it was.")),
    serial: text(120),
    doneOn: v.nullable(v.pipe(v.string(), v.isoDate("Give the day as YYYY-MM-DD."))),
    work: v.pipe(text(80), v.minLength(1, "Say what was done.")),
    compound: text(120),
    pads: text(120),
    beforeC: temperature,
    afterC: temperature,
    roomBeforeC: room,
    roomAfterC: room,
    roomIsRead: v.boolean(),
    fan: v.picklist(FAN_KEPT),
    ageYears: v.nullable(number(0, 40, "An age lies between 0 and 40 years.")),
    use: v.picklist(USE_KINDS),
    note: text(500),
  }),
  v.forward(
    v.check(
      ({ beforeC, roomBeforeC }) => roomBeforeC === null || beforeC > roomBeforeC,
      "A card under load is warmer than its room.",
    ),
    ["beforeC"],
  ),
  v.forward(
    v.check(
      ({ afterC, roomAfterC }) => roomAfterC === null || afterC > roomAfterC,
      "A card under load is warmer than its room.",
    ),
    ["afterC"],
  ),
);
export type PaperInput = v.InferOutput<typeof PaperInput>;

export const EMPTY_PAPER: PaperInput = {
  model: "",
  serial: "",
  doneOn: null,
  work: "repasted",
  compound: "",
  pads: "",
  beforeC: 0,
  afterC: 0,
  roomBeforeC: null,
  roomAfterC: null,
  roomIsRead: false,
  fan: "same",
  ageYears: null,
  use: "unknown",
  note: "",
};

/** So many rows of a spreadsheet are taken at once. */
export const MOST_IMPORTED = 5000;

/** What each of a spreadsheet’s columns is; remembered by its headers. */
export const COLUMN_FIELDS = [
  "model",
  "serial",
  "doneOn",
  "work",
  "compound",
  "pads",
  "beforeC",
  "afterC",
  "roomBeforeC",
  "roomAfterC",
  "fan",
  "ageYears",
  "use",
  "note",
] as const;
export type ColumnField = (typeof COLUMN_FIELDS)[number];
export const SheetMapping = v.object({
  fields: v.record(v.picklist(COLUMN_FIELDS), v.optional(v.string())),
  /** Temperatures are in Fahrenheit. */
  fahrenheit: v.boolean(),
  /** Before and after are rises over the room's air, K, not temperatures. */
  rises: v.optional(v.boolean(), false),
  /** Days are written with the month first. */
  monthFirst: v.boolean(),
});
export type SheetMapping = v.InferOutput<typeof SheetMapping>;

export const PaperImport = v.object({
  /** The file's name, for words. */
  name: text(200),
  headers: v.pipe(v.array(v.string()), v.maxLength(200)),
  mapping: SheetMapping,
  rows: v.pipe(v.array(PaperInput), v.minLength(1, "No row can be taken in."), v.maxLength(MOST_IMPORTED)),
});
export type PaperImport = v.InferOutput<typeof PaperImport>;

export interface ImportView {
  id: string;
  name: string;
  at: string;
  rows: number;
  removed: boolean;
}

export const LeaveOutInput = v.object({
  reason: v.pipe(text(300), v.minLength(3, "Say in a few words why it does not count.")),
});

const ids = v.picklist(FACTOR_IDS);
export const FindingsAsked = v.object({
  by: v.nullable(ids),
  adjust: v.pipe(v.array(ids), v.maxLength(6, "At most six at once.")),
  /** Only results that have this. */
  only: v.record(ids, v.optional(v.string())),
  measure: v.picklist(["die", "gap"]),
  paper: v.boolean(),
});
export type FindingsAsked = v.InferOutput<typeof FindingsAsked>;

/** One service, or one result from paper, behind a figure. */
export interface ResultLine {
  id: string;
  /** Null for a result from paper. */
  cardId: string | null;
  name: string;
  serial: string;
  at: string;
  changeK: number;
  u95K: number;
}

export interface FindingsView {
  /** Of all that count; null where nothing can be said. */
  overall: Findings | null;
  /** By the chosen column; null where there is none or it tells nothing. */
  found: Findings | null;
  problem: ProblemDetail | null;
  notices: string[];
  lopsided: Array<Lopsided & { words: string }>;
  groups: Array<Group & { lines: ResultLine[] }>;
  contrasts: Array<Contrast & { words: string }>;
  /** What can be chosen to look at, with how many have it. */
  values: Array<{ factor: FactorId; values: Array<{ value: string; k: number }> }>;
  lines: ResultLine[];
  /** All that count, of which `lines` are the newest. */
  services: number;
  paper: number;
  leftOut: Array<ResultLine & { reason: string }>;
}

interface Spread {
  count: number;
  medianK: number;
  /** Nine in ten lie between. */
  lowK: number;
  highK: number;
}
interface Counted {
  what: string;
  count: number;
}

/** All that the shop knows of a board model. */
export interface ModelView {
  boardId: string;
  services: number;
  /** Over room air at load, as cards came and as they went. */
  rises: Array<{ role: string; before: Spread | null; after: Spread | null }>;
  gap: { before: Spread | null; after: Spread | null };
  causes: Counted[];
  helped: Array<{ work: string; count: number; changeK: number; u95K: number }>;
  minutes: Array<{ station: StationId; medianMin: number; count: number }>;
  pads: Counted[];
  compounds: Counted[];
  odd: Counted[];
  photos: Array<{ id: string; caption: string; cardId: string }>;
  last: Array<{
    cardId: string;
    name: string;
    serial: string;
    changeK: number | null;
    u95K: number | null;
    closed: boolean;
  }>;
}
