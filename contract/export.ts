import * as v from "valibot";
export const EXPORT_FORMAT = "algidus-export";
export const EXPORT_VERSION = 1;
/** The largest export that is taken in, bytes. */
export const MOST_IMPORT_BYTES = 2 ** 30;

/** Tables of the first version must be there; what came later, stations' own included, may be missing from older exports. */
export const FIRST_TABLES = [
  "boardModels",
  "cards",
  "services",
  "workNotes",
  "blobs",
  "runs",
  "photos",
  "headerChoices",
  "settings",
  "events",
] as const;

type Rows = Array<Record<string, unknown>>;

/** The open file that carries a whole workshop to another machine. Bytes are base64. */
export interface ExportFile {
  format: typeof EXPORT_FORMAT;
  version: number;
  exportedAt: string;
  tables: Record<(typeof FIRST_TABLES)[number], Rows> & Record<string, Rows>;
}

export const ImportReport = v.object({
  added: v.record(v.string(), v.number()),
  alreadyHere: v.record(v.string(), v.number()),
});
export type ImportReport = v.InferOutput<typeof ImportReport>;
