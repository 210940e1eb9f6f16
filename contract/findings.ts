import * as v from "valibot";
import { USE_KINDS } from "./card.ts";
import { number } from "./shapes.ts";
import { Findings } from "./shapes-of-plans.ts";
import { ProblemDetail } from "./shapes-of-runs.ts";
import { StationName } from "./stations.ts";

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

export const ImportView = v.object({
  id: v.string(),
  name: v.string(),
  at: v.string(),
  rows: v.number(),
  removed: v.boolean(),
});
export type ImportView = v.InferOutput<typeof ImportView>;

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
export const ResultLine = v.object({
  id: v.string(),
  /** Null for a result from paper. */
  cardId: v.nullable(v.string()),
  name: v.string(),
  serial: v.string(),
  at: v.string(),
  changeK: v.number(),
  u95K: v.number(),
});
export type ResultLine = v.InferOutput<typeof ResultLine>;

export const FindingsView = v.object({
  /** Of all that count; null where nothing can be said. */
  overall: v.nullable(Findings),
  /** By the chosen column; null where there is none or it tells nothing. */
  found: v.nullable(Findings),
  problem: v.nullable(ProblemDetail),
  notices: v.array(v.string()),
  lopsided: v.array(
    v.object({
      /** The levels that are held against each other, and what sets them apart besides. */
      a: v.string(),
      b: v.string(),
      column: v.string(),
      /** Means of a column of numbers; null for text. */
      aMean: v.nullable(v.number()),
      bMean: v.nullable(v.number()),
      /** Standard deviations between the means, or the share of services that would have to change theirs for the two to be alike. */
      apart: v.number(),
      /** No value is shared: what belongs to which can't be told. */
      isWhole: v.boolean(),
      words: v.string(),
    }),
  ),
  groups: v.array(
    v.object({
      level: v.string(),
      k: v.number(),
      meanK: v.number(),
      u95K: v.number(),
      lines: v.array(ResultLine),
    }),
  ),
  contrasts: v.array(
    v.object({
      a: v.string(),
      b: v.string(),
      /** a − b. */
      differenceK: v.number(),
      u95K: v.number(),
      /** Adjusted for all pairs having been looked at. */
      pHolm: v.number(),
      words: v.string(),
    }),
  ),
  /** What can be chosen to look at, with how many have it. */
  values: v.array(
    v.object({
      factor: v.picklist(FACTORS.map(({ id }) => id)),
      values: v.array(
        v.object({
          value: v.string(),
          k: v.number(),
        }),
      ),
    }),
  ),
  lines: v.array(ResultLine),
  /** All that count, of which `lines` are the newest. */
  services: v.number(),
  paper: v.number(),
  leftOut: v.array(v.object({ ...ResultLine.entries, reason: v.string() })),
});
export type FindingsView = v.InferOutput<typeof FindingsView>;

export const Spread = v.object({
  count: v.number(),
  medianK: v.number(),
  /** Nine in ten lie between. */
  lowK: v.number(),
  highK: v.number(),
});
export type Spread = v.InferOutput<typeof Spread>;
export const Counted = v.object({
  what: v.string(),
  count: v.number(),
});
export type Counted = v.InferOutput<typeof Counted>;

/** All that the shop knows of a board model. */
export const ModelView = v.object({
  boardId: v.string(),
  services: v.number(),
  /** Over room air at load, as cards came and as they went. */
  rises: v.array(
    v.object({
      role: v.string(),
      before: v.nullable(Spread),
      after: v.nullable(Spread),
    }),
  ),
  gap: v.object({
    before: v.nullable(Spread),
    after: v.nullable(Spread),
  }),
  causes: v.array(Counted),
  helped: v.array(
    v.object({
      work: v.string(),
      count: v.number(),
      changeK: v.number(),
      u95K: v.number(),
    }),
  ),
  minutes: v.array(
    v.object({
      station: StationName,
      medianMin: v.number(),
      count: v.number(),
    }),
  ),
  pads: v.array(Counted),
  compounds: v.array(Counted),
  odd: v.array(Counted),
  photos: v.array(
    v.object({
      id: v.string(),
      caption: v.string(),
      cardId: v.string(),
    }),
  ),
  last: v.array(
    v.object({
      cardId: v.string(),
      name: v.string(),
      serial: v.string(),
      changeK: v.nullable(v.number()),
      u95K: v.nullable(v.number()),
      closed: v.boolean(),
    }),
  ),
});
export type ModelView = v.InferOutput<typeof ModelView>;
