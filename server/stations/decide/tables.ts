import { sqliteTable, text } from "drizzle-orm/sqlite-core";
import type { Quote, QuoteAccepted } from "#contract";
import { services, stamps } from "../../db/schema.ts";

/** What work on a card was offered for, and what its owner said. */
export const quotes = sqliteTable("quotes", {
  serviceId: text()
    .primaryKey()
    .references(() => services.id),
  quote: text({ mode: "json" }).$type<Quote>().notNull(),
  accepted: text({ mode: "json" }).$type<QuoteAccepted>(),
  /** Of the last change of the quote, for who had no answer to it. */
  changeId: text(),
  ...stamps,
});
