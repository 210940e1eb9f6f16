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
  tables: v.object({
    boardModels: v.array(row),
    cards: v.array(row),
    services: v.array(row),
    workNotes: v.array(row),
    blobs: v.array(row),
    runs: v.array(row),
    photos: v.array(row),
    headerChoices: v.array(row),
    /** Not in exports from before there were any. */
    protocols: v.optional(v.array(row)),
    readings: v.optional(v.array(row)),
    boardMaps: v.optional(v.array(row)),
    gapReadings: v.optional(v.array(row)),
    padPlans: v.optional(v.array(row)),
    materials: v.optional(v.array(row)),
    lots: v.optional(v.array(row)),
    offers: v.optional(v.array(row)),
    lotUses: v.optional(v.array(row)),
    settings: v.array(row),
    events: v.array(row),
  }),
});
export type ExportFile = v.InferOutput<typeof ExportFile>;

export interface ImportReport {
  added: Record<string, number>;
  alreadyHere: Record<string, number>;
}
