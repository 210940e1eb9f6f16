import type { SQLiteTable } from "drizzle-orm/sqlite-core";
import type * as v from "valibot";
import type { StationId } from "#contract";
import type { Reader } from "./open.ts";

/** What a station keeps and what of it its rule in `core/service` reads. */
export interface StationStore<Own = unknown> {
  id: StationId;
  /** Its tables that travel with an export, parents first; tables that stand below all stations are not among them. */
  tables: Readonly<Record<string, SQLiteTable>>;
  /** What stands in columns of its tables, where that is more than a text, a number or a yes: an import is checked by it. */
  documents?: Readonly<Record<string, Readonly<Record<string, v.GenericSchema>>>>;
  /** What its rule reads beside the facts that all share. */
  load(db: Reader, serviceId: string): Promise<Own>;
}
