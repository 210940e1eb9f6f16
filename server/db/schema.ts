import { blob, index, integer, real, sqliteTable, text } from "drizzle-orm/sqlite-core";
import type { CardInput, Limits, Mapping, NoteInput } from "#contract";
import type { Analysis } from "#core";

const stamps = { createdAt: text().notNull(), updatedAt: text().notNull(), version: integer().notNull() };

export const boardModels = sqliteTable("board_models", {
  id: text().primaryKey(),
  name: text().notNull().unique(),
  notes: text().notNull(),
  limits: text({ mode: "json" }).$type<Limits>().notNull(),
  ...stamps,
});

export const cards = sqliteTable("cards", {
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
  ...stamps,
});

export const services = sqliteTable(
  "services",
  {
    id: text().primaryKey(),
    cardId: text()
      .notNull()
      .references(() => cards.id),
    openedAt: text().notNull(),
    closedAt: text(),
    skips: text({ mode: "json" }).$type<Partial<Record<string, string>>>().notNull(),
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
  (table) => [index("work_notes_by_service").on(table.serviceId)],
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
    sidePanel: text().$type<"open bench" | "panel off" | "panel on" | "unknown">().notNull(),
    clocks: text().notNull(),
    powerLimitPct: real(),
    picture: text().$type<"works" | "no picture" | "faulty" | "not checked">().notNull(),
    ambientC: real(),
    ambientU95K: real(),
    intervalS: real(),
    mapping: text({ mode: "json" }).$type<Mapping>().notNull(),
    window: text({ mode: "json" }).$type<{ fromS: number; toS: number } | null>(),
    analysis: text({ mode: "json" }).$type<Analysis>().notNull(),
    deletedAt: text(),
    ...stamps,
  },
  (table) => [index("runs_by_service").on(table.serviceId)],
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
  (table) => [index("photos_by_card").on(table.cardId)],
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
