import * as v from "valibot";

export const EXPORT_FORMAT = "algidus-export";
export const EXPORT_VERSION = 1;

const row = v.record(v.string(), v.unknown());

/** The open file that carries a whole workshop to another machine. Bytes are base64. */
export const ExportFile = v.object({
  format: v.literal(EXPORT_FORMAT, "This is not an export of this application."),
  version: v.pipe(
    v.number(),
    v.maxValue(EXPORT_VERSION, "This export was written by a newer version. Update this one first."),
  ),
  exportedAt: v.string(),
  /** Those of the first version must be there; what came later, stations' own included, may be missing from older exports. */
  tables: v.objectWithRest(
    {
      boardModels: v.array(row),
      cards: v.array(row),
      services: v.array(row),
      workNotes: v.array(row),
      blobs: v.array(row),
      runs: v.array(row),
      photos: v.array(row),
      headerChoices: v.array(row),
      settings: v.array(row),
      events: v.array(row),
    },
    v.array(row),
  ),
});
export type ExportFile = v.InferOutput<typeof ExportFile>;

export interface ImportReport {
  added: Record<string, number>;
  alreadyHere: Record<string, number>;
}
