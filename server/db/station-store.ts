import type { SQLiteTable } from "drizzle-orm/sqlite-core";
import type { StationId } from "#contract";
import type { Reader } from "./open.ts";

/** What a station keeps and what of it its rule in `core/service` reads. */
export interface StationStore<Own = unknown> {
  id: StationId;
  /** Its tables that travel with an export, parents first; tables that stand below all stations are not among them. */
  tables: Readonly<Record<string, SQLiteTable>>;
  /** What its rule reads beside the facts that all share. */
  load(db: Reader, serviceId: string): Promise<Own>;
}
