import type { SQLiteTable } from "drizzle-orm/sqlite-core";
import type * as v from "valibot";
import type { StationId } from "#contract";
import type { Reader } from "./open.ts";

export interface SheetWanted {
  serviceId: string;
  offerId: string;
  materialId: string;
  thicknessMm: number;
  widthMm: number;
  heightMm: number;
}

/** What a station keeps and what of it its rule in `core/service` reads. */
export interface StationStore<Own = unknown> {
  id: StationId;
  /** Its tables that travel with an export, parents first; tables that stand below all stations are not among them. */
  tables: Readonly<Record<string, SQLiteTable>>;
  /** What stands in columns of its tables, where that is more than a text, a number or a yes: an import is checked by it. */
  documents?: Readonly<Record<string, Readonly<Record<string, v.GenericSchema>>>>;
  /** Sheets on the price list that open services need and nobody has bought yet. */
  waitsFor?(db: Reader, serviceIds: readonly string[]): Promise<SheetWanted[]>;
  /** What its plan takes of material at what it costs, in the workshop's currency; null where nothing is planned. */
  materialCost?(db: Reader, serviceId: string): Promise<number | null>;
  /** What it tells Findings of a service, by the name of a column. */
  tells?(db: Reader, serviceId: string): Promise<Record<string, string>>;
  /** What its rule reads beside the facts that all share. */
  load(db: Reader, serviceId: string): Promise<Own>;
}
