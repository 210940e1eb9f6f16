import { index, real, sqliteTable, text } from "drizzle-orm/sqlite-core";
import type { PadPlanInput } from "#contract";
import type { GapReading } from "#core/gaps/index.ts";
import { boardModels, services, stamps } from "../../db/schema.ts";

/** Caliper readings and guide values of pad places. */
export const gapReadings = sqliteTable(
  "gap_readings",
  {
    id: text().primaryKey(),
    serviceId: text()
      .notNull()
      .references(() => services.id),
    boardModelId: text()
      .notNull()
      .references(() => boardModels.id),
    partId: text().notNull(),
    source: text().$type<GapReading["source"]>().notNull(),
    valueMm: real().notNull(),
    padState: text().$type<GapReading["padState"]>().notNull(),
    softness: text().$type<GapReading["softness"]>().notNull(),
    coverPct: real(),
    at: text().notNull(),
    deletedAt: text(),
  },
  (table) => [index("gap_readings_by_board").on(table.boardModelId)],
);

/** What a service puts where, and how far it is cut. */
export const padPlans = sqliteTable("pad_plans", {
  serviceId: text()
    .primaryKey()
    .references(() => services.id),
  plan: text({ mode: "json" }).$type<PadPlanInput>().notNull(),
  changeId: text(),
  ...stamps,
});
