import { sql } from "drizzle-orm";
import { blob, index, integer, real, sqliteTable, text } from "drizzle-orm/sqlite-core";
import type {
  BenchInput,
  CardEnds,
  CardInput,
  CoolerPlan,
  DayTerms,
  Decision,
  HandOverInput,
  HandStation,
  Limits,
  LiveStart,
  LiveStatus,
  Mapping,
  MaterialInput,
  NextServiceInput,
  NoteInput,
  PaperInput,
  PowerOnInput,
  ProtocolInput,
  ReadingInput,
  RunInput,
  SampleCounts,
  ServiceResult,
  SheetMapping,
  StationId,
  Underlay,
} from "#contract";
import type { Analysis, BenchChannel, Cause, Symptoms, TypedFigures, Verdict } from "#core";
import type { BoardMap } from "#core/boardmap/index.ts";
import type { Cooler } from "#core/coolers/index.ts";
import type { StepMark } from "#core/handwork/index.ts";
import type { Clock, LadderRung } from "#core/service/index.ts";

/** When a row was made and last changed, and by which change. */
export const stamps = { createdAt: text().notNull(), updatedAt: text().notNull(), version: integer().notNull() };

export const boardModels = sqliteTable("board_models", {
  id: text().primaryKey(),
  name: text().notNull().unique(),
  notes: text().notNull(),
  limits: text({ mode: "json" }).$type<Limits>().notNull(),
  ...stamps,
});

export const cards = sqliteTable(
  "cards",
  {
    id: text().primaryKey(),
    maker: text().notNull(),
    model: text().notNull(),
    serial: text().notNull(),
    boardModelId: text().references(() => boardModels.id),
    holder: text().$type<CardInput["holder"]>().notNull(),
    ownerName: text().notNull(),
    price: real(),
    ageYears: real(),
    useKind: text().$type<CardInput["useKind"]>().notNull(),
    complaint: text().notNull(),
    seal: text().$type<CardInput["seal"]>().notNull(),
    warranty: text().$type<CardInput["warranty"]>().notNull(),
    lookOver: text({ mode: "json" }).$type<CardInput["lookOver"]>().notNull(),
    deletedAt: text(),
    ...stamps,
  },
  (table) => [
    index("cards_by_board").on(table.boardModelId),
    index("cards_removed").on(table.deletedAt).where(sql`deleted_at is not null`),
  ],
);

export const services = sqliteTable(
  "services",
  {
    id: text().primaryKey(),
    cardId: text()
      .notNull()
      .references(() => cards.id),
    openedAt: text().notNull(),
    closedAt: text(),
    /** Why it was handed over although something got worse; empty where it needs no reason. */
    closedReason: text().notNull().default(""),
    /** What the work costs its owner, in the workshop's currency; null where nobody said. */
    workPrice: real(),
    /** What was changed before each attempt after the first. */
    attempts: text({ mode: "json" }).$type<Array<{ changed: string; startedAt: string }>>().notNull().default([]),
    skips: text({ mode: "json" }).$type<Partial<Record<string, string>>>().notNull(),
    powerOn: text({ mode: "json" }).$type<PowerOnInput>(),
    decision: text({ mode: "json" }).$type<Decision>(),
    version: integer().notNull(),
  },
  (table) => [index("services_by_card").on(table.cardId)],
);

export const workNotes = sqliteTable(
  "work_notes",
  {
    id: text().primaryKey(),
    serviceId: text()
      .notNull()
      .references(() => services.id),
    doneOn: text().notNull(),
    person: text().notNull(),
    work: text({ mode: "json" }).$type<NoteInput["work"]>().notNull(),
    compound: text().notNull(),
    minutes: real(),
    text: text().notNull(),
    deletedAt: text(),
    ...stamps,
  },
  (table) => [
    index("work_notes_by_service").on(table.serviceId),
    index("work_notes_removed").on(table.deletedAt).where(sql`deleted_at is not null`),
  ],
);

/**
 * What hands did at the stations that lead step by step: only ever added to, in the order in which it came in. A mark keeps the id its sender
 * gave it.
 */
export const stepMarks = sqliteTable(
  "step_marks",
  {
    id: text().primaryKey(),
    serviceId: text()
      .notNull()
      .references(() => services.id),
    station: text().$type<HandStation>().notNull(),
    attempt: integer().notNull(),
    /** Its place among the marks of the service, from 1. */
    seq: integer().notNull(),
    stepId: text().notNull(),
    what: text().$type<StepMark["what"]>().notNull(),
    value: text().notNull(),
    text: text().notNull(),
    at: text().notNull(),
  },
  (table) => [index("step_marks_by_service").on(table.serviceId, table.station, table.seq)],
);

/** Content-addressed bytes: original logs (gzip), samples for display (gzip), photos. */
export const blobs = sqliteTable("blobs", {
  hash: text().primaryKey(),
  kind: text().$type<"log" | "samples" | "photo">().notNull(),
  bytes: blob({ mode: "buffer" }).notNull(),
});

export const runs = sqliteTable(
  "runs",
  {
    id: text().primaryKey(),
    serviceId: text()
      .notNull()
      .references(() => services.id),
    side: text().$type<"before" | "after">().notNull(),
    name: text().notNull(),
    fileName: text().notNull(),
    fileBytes: integer().notNull(),
    logHash: text()
      .notNull()
      .references(() => blobs.hash),
    samplesHash: text()
      .notNull()
      .references(() => blobs.hash),
    fanMode: text().$type<"fixed" | "automatic" | "unknown">().notNull(),
    fanPct: real(),
    loadName: text().notNull(),
    sidePanel: text().$type<RunInput["sidePanel"]>().notNull(),
    clocks: text().notNull(),
    powerLimitPct: real(),
    picture: text().$type<"works" | "no picture" | "faulty" | "not checked">().notNull(),
    ambientC: real(),
    ambientU95K: real(),
    intervalS: real(),
    mapping: text({ mode: "json" }).$type<Mapping>().notNull(),
    window: text({ mode: "json" }).$type<{ fromS: number; toS: number } | null>(),
    load: integer(),
    ambientEndC: real(),
    inletC: real(),
    coreOffsetMHz: real(),
    memoryOffsetMHz: real(),
    undervoltMv: real(),
    frameCapFps: real(),
    frameRateFps: real(),
    score: real(),
    attempt: integer().notNull().default(1),
    leftOut: text().notNull().default(""),
    /** What was typed from paper instead of a log. */
    typed: text({ mode: "json" }).$type<TypedFigures>(),
    analysis: text({ mode: "json" }).$type<Analysis>().notNull(),
    /** Kept for the diagnosis of other cards of the board model; null in runs from before it was computed. */
    symptoms: text({ mode: "json" }).$type<Symptoms>(),
    deletedAt: text(),
    ...stamps,
  },
  (table) => [
    index("runs_by_service").on(table.serviceId),
    index("runs_removed").on(table.deletedAt).where(sql`deleted_at is not null`),
  ],
);

export const photos = sqliteTable(
  "photos",
  {
    id: text().primaryKey(),
    cardId: text()
      .notNull()
      .references(() => cards.id),
    hash: text()
      .notNull()
      .references(() => blobs.hash),
    width: integer().notNull(),
    height: integer().notNull(),
    caption: text().notNull(),
    deletedAt: text(),
    createdAt: text().notNull(),
  },
  (table) => [
    index("photos_by_card").on(table.cardId),
    index("photos_removed").on(table.deletedAt).where(sql`deleted_at is not null`),
  ],
);

/** What the columns of a header were last taken for. */
export const headerChoices = sqliteTable("header_choices", {
  headerKey: text().primaryKey(),
  mapping: text({ mode: "json" }).$type<Mapping>().notNull(),
  updatedAt: text().notNull(),
});

export const settings = sqliteTable("settings", {
  key: text().primaryKey(),
  value: text({ mode: "json" }).$type<unknown>().notNull(),
});

export const sessions = sqliteTable("sessions", { tokenHash: text().primaryKey(), expiresAt: text().notNull() });

/** Who did what when; only ever added to. */
export const events = sqliteTable("events", {
  id: text().primaryKey(),
  at: text().notNull(),
  what: text().notNull(),
  subject: text().notNull(),
  detail: text({ mode: "json" }).$type<unknown>(),
});

/** Test benches: how each is connected. The token of a pushing script is kept as its hash. */
export const testBenches = sqliteTable("test_benches", {
  id: text().primaryKey(),
  name: text().notNull(),
  driver: text().$type<BenchInput["driver"]>().notNull(),
  intervalS: real().notNull(),
  seed: real().notNull(),
  speed: real().notNull(),
  path: text().notNull(),
  tokenHash: text(),
  deletedAt: text(),
  createdAt: text().notNull(),
});

/** Protocols of the workshop's own. */
export const protocols = sqliteTable("protocols", {
  id: text().primaryKey(),
  name: text().notNull(),
  about: text().notNull(),
  steps: text({ mode: "json" }).$type<ProtocolInput["steps"]>().notNull(),
  deletedAt: text(),
  createdAt: text().notNull(),
});

export interface LiveOrder {
  tS: number;
  kind: "confirm" | "skip";
}

/** Live runs: under way, ended, or cut off; what became of them are `runs`. */
export const liveRuns = sqliteTable("live_runs", {
  id: text().primaryKey(),
  benchId: text()
    .notNull()
    .references(() => testBenches.id),
  serviceId: text()
    .notNull()
    .references(() => services.id),
  side: text().$type<"before" | "after">().notNull(),
  protocol: text({ mode: "json" }).$type<ProtocolInput>().notNull(),
  loadName: text().notNull(),
  sidePanel: text().$type<LiveStart["sidePanel"]>().notNull(),
  roomC: real(),
  channels: text({ mode: "json" }).$type<BenchChannel[]>().notNull(),
  status: text().$type<LiveStatus>().notNull(),
  reason: text(),
  counts: text({ mode: "json" }).$type<SampleCounts>().notNull(),
  elapsedS: real().notNull(),
  runIds: text({ mode: "json" }).$type<string[]>().notNull(),
  startedAt: text().notNull(),
  endedAt: text(),
  /** Where its device's driver was, and when the last samples were written: from there a restarted server goes on. */
  place: real(),
  lastAt: text(),
  /** What a person ordered meanwhile, at which second of the run. */
  orders: text({ mode: "json" }).$type<LiveOrder[]>().notNull().default([]),
});

/** Samples of live runs as they came in: rows of doubles (time, segment, values), gzip. Emptied once the runs are kept. */
export const liveChunks = sqliteTable(
  "live_chunks",
  {
    id: text().primaryKey(),
    liveId: text()
      .notNull()
      .references(() => liveRuns.id),
    seq: integer().notNull(),
    rows: integer().notNull(),
    bytes: blob({ mode: "buffer" }).notNull(),
  },
  (table) => [index("live_chunks_by_run").on(table.liveId, table.seq)],
);

/** Single measurements by hand. */
export const readings = sqliteTable(
  "readings",
  {
    id: text().primaryKey(),
    serviceId: text()
      .notNull()
      .references(() => services.id),
    liveId: text(),
    kind: text().$type<ReadingInput["kind"]>().notNull(),
    place: text().notNull(),
    shown: real().notNull(),
    value: real().notNull(),
    emissivity: real(),
    surroundC: real(),
    note: text().notNull(),
    warning: text(),
    atS: real(),
    at: text().notNull(),
    deletedAt: text(),
  },
  (table) => [index("readings_by_service").on(table.serviceId)],
);

/** Plan of each board model, with the photo under it. */
export const boardMaps = sqliteTable("board_maps", {
  boardModelId: text()
    .primaryKey()
    .references(() => boardModels.id),
  map: text({ mode: "json" }).$type<BoardMap>().notNull(),
  underlay: text({ mode: "json" }).$type<Underlay | null>(),
  changeId: text(),
  ...stamps,
});

/** Coolers as they are drawn and measured: one document each. */
export const coolers = sqliteTable("coolers", {
  id: text().primaryKey(),
  name: text().notNull(),
  kind: text().$type<Cooler["kind"]>().notNull(),
  cooler: text({ mode: "json" }).$type<Cooler>().notNull(),
  changeId: text(),
  deletedAt: text(),
  ...stamps,
});

/** What is planned and measured for another cooler on a card. */
/** What is promised of an open card, and where a person holds its steps. */
export const dayTerms = sqliteTable("day_terms", {
  serviceId: text()
    .primaryKey()
    .references(() => services.id),
  promisedAt: text(),
  weight: real().notNull(),
  returnBy: text(),
  held: text({ mode: "json" }).$type<DayTerms["held"]>().notNull(),
  changeId: text(),
  ...stamps,
});

export const coolerPlans = sqliteTable(
  "cooler_plans",
  {
    serviceId: text()
      .primaryKey()
      .references(() => services.id),
    coolerId: text().references(() => coolers.id),
    plan: text({ mode: "json" }).$type<CoolerPlan>().notNull(),
    changeId: text(),
    ...stamps,
  },
  (table) => [index("cooler_plans_by_cooler").on(table.coolerId)],
);

export const materials = sqliteTable("materials", {
  id: text().primaryKey(),
  kind: text().$type<MaterialInput["kind"]>().notNull(),
  name: text().notNull(),
  note: text().notNull(),
  conductivityWPerMK: real(),
  curve: text({ mode: "json" }).$type<MaterialInput["curve"]>(),
  curveSource: text().notNull(),
  mostMm: real(),
  densityGPerMl: real(),
  conductsElectricity: integer({ mode: "boolean" }).notNull(),
  attacksAluminium: integer({ mode: "boolean" }).notNull(),
  lowAt: real(),
  deletedAt: text(),
  ...stamps,
});

/** What is in stock: a sheet size or a package, and how much of it is left. */
export const lots = sqliteTable(
  "lots",
  {
    id: text().primaryKey(),
    materialId: text()
      .notNull()
      .references(() => materials.id),
    label: text().notNull(),
    thicknessMm: real(),
    widthMm: real(),
    heightMm: real(),
    amount: real().notNull(),
    /** What all uses that stand are taken from: what was put in, or typed since and they added. Null in exports from before it was kept. */
    beforeUses: real(),
    price: real().notNull(),
    openedOn: text(),
    useBefore: text(),
    leftOverOf: text().references(() => services.id),
    /** The booking of a cut sheet that it came from. */
    bookingId: text(),
    deletedAt: text(),
    ...stamps,
  },
  (table) => [index("lots_by_material").on(table.materialId)],
);

/** The price list: sheets that can be bought. */
export const offers = sqliteTable("offers", {
  leadDays: real(),
  orderedOn: text(),
  id: text().primaryKey(),
  materialId: text()
    .notNull()
    .references(() => materials.id),
  label: text().notNull(),
  thicknessMm: real(),
  widthMm: real(),
  heightMm: real(),
  price: real().notNull(),
  deletedAt: text(),
  ...stamps,
});

/** What a service took from the stock. */
export const lotUses = sqliteTable(
  "lot_uses",
  {
    id: text().primaryKey(),
    lotId: text()
      .notNull()
      .references(() => lots.id),
    serviceId: text()
      .notNull()
      .references(() => services.id),
    amount: real().notNull(),
    what: text().notNull(),
    accepted: integer({ mode: "boolean" }).notNull(),
    /** The booking of a cut sheet that took it; null for what was taken by hand. */
    bookingId: text(),
    at: text().notNull(),
    deletedAt: text(),
  },
  (table) => [index("lot_uses_by_service").on(table.serviceId)],
);

/** What the changes of requests with an `Idempotency-Key` made, for a day: sent again, they get it again and change nothing. */
export const changesMade = sqliteTable(
  "changes_made",
  {
    name: text().primaryKey(),
    made: text({ mode: "json" }).$type<unknown>(),
    at: text().notNull(),
  },
  (table) => [index("changes_made_by_time").on(table.at)],
);

/**
 * A service in one line of a list. Triggers mark a line stale when anything it rests on changes; it is worked out anew before that change
 * is committed (`services/summaries.ts`), so that lists never read history.
 */
export const serviceSummaries = sqliteTable(
  "service_summaries",
  {
    serviceId: text()
      .primaryKey()
      .references(() => services.id),
    cardId: text()
      .notNull()
      .references(() => cards.id),
    station: text().$type<StationId>().notNull(),
    figure: text().notNull(),
    next: text().notNull(),
    verdict: text().$type<Verdict>(),
    ladder: text({ mode: "json" }).$type<LadderRung[]>().notNull(),
    clocks: text({ mode: "json" }).$type<Clock[]>().notNull().default([]),
    /** Stations that still come. */
    ahead: text({ mode: "json" }).$type<StationId[]>().notNull().default([]),
    /** Minutes of hands by station, of those that are done. */
    handMin: text({ mode: "json" }).$type<Partial<Record<StationId, number>>>().notNull().default({}),
    closed: integer({ mode: "boolean" }).notNull(),
    /** Leading cause of its baseline and what the die gained, K: what services of other cards learn from. */
    leadCause: text().$type<Cause>(),
    gainK: real(),
    /** How the card came and how it went. */
    ends: text({ mode: "json" }).$type<CardEnds>().notNull().default({ before: null, after: null }),
    /** What it says to Findings; null while it is not proved. */
    result: text({ mode: "json" }).$type<ServiceResult>(),
    /** What it is found by, in small letters. */
    words: text().notNull(),
    updatedAt: text().notNull(),
    /** The computation that made it. */
    madeBy: text().notNull(),
    stale: integer({ mode: "boolean" }).notNull(),
  },
  (table) => [
    index("service_summaries_by_day").on(table.closed, table.updatedAt, table.serviceId),
    index("service_summaries_by_time").on(table.updatedAt, table.serviceId),
    index("service_summaries_by_cause").on(table.leadCause),
    index("service_summaries_proved").on(table.updatedAt).where(sql`result is not null`),
    index("service_summaries_by_card").on(table.cardId),
    index("service_summaries_stale").on(table.serviceId).where(sql`stale = 1`),
  ],
);

/** One spreadsheet that was taken in, or results typed from paper. */
export const paperImports = sqliteTable("paper_imports", {
  id: text().primaryKey(),
  name: text().notNull(),
  at: text().notNull(),
  deletedAt: text(),
});

/** A result of before, without a log. */
export const paperResults = sqliteTable(
  "paper_results",
  {
    id: text().primaryKey(),
    importId: text()
      .notNull()
      .references(() => paperImports.id),
    paper: text({ mode: "json" }).$type<PaperInput>().notNull(),
    changeK: real().notNull(),
    u95K: real().notNull(),
  },
  (table) => [index("paper_results_by_import").on(table.importId)],
);

/** What the columns of a spreadsheet are, by its headers. */
export const sheetMappings = sqliteTable("sheet_mappings", {
  headerKey: text().primaryKey(),
  mapping: text({ mode: "json" }).$type<SheetMapping>().notNull(),
  updatedAt: text().notNull(),
});

/** Results that don't count, with the reason: of a service, or from paper. */
export const leftOutResults = sqliteTable("left_out_results", {
  id: text().primaryKey(),
  reason: text().notNull(),
  at: text().notNull(),
});

/** What a record shows by choice, and what leaves with the card. */
export const handOvers = sqliteTable("hand_overs", {
  serviceId: text()
    .primaryKey()
    .references(() => services.id),
  chosen: text({ mode: "json" }).$type<HandOverInput>().notNull(),
  changeId: text(),
  ...stamps,
});

/** How a card is used, and when it is due again. */
export const nextServices = sqliteTable(
  "next_services",
  {
    serviceId: text()
      .primaryKey()
      .references(() => services.id),
    told: text({ mode: "json" }).$type<NextServiceInput>().notNull(),
    /** The first day of the month; null where nothing wears out. */
    dueOn: text(),
    changeId: text(),
    ...stamps,
  },
  (table) => [index("next_services_by_day").on(table.dueOn)],
);
