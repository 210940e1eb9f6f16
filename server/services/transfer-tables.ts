import { getTableColumns } from "drizzle-orm";
import type { SQLiteColumn, SQLiteTable } from "drizzle-orm/sqlite-core";
import * as v from "valibot";
import {
  AnalysisFile,
  BoardMapFile,
  CardInput,
  CoolerFile,
  CoolerPlanFile,
  DayTermsInput,
  DecisionInput,
  HandOverInput,
  LimitsInput,
  Mapping,
  MaterialInput,
  NextServiceInput,
  NoteInput,
  PackageList,
  PaperInput,
  PowerOnInput,
  ProtocolInput,
  ReadingInput,
  RunInput,
  SettingsInput,
  SheetMapping,
  StepMarkInput,
  SymptomsFile,
  UnderlayPlace,
} from "#contract";
import {
  blobs,
  boardMaps,
  boardModels,
  cards,
  coolerPlans,
  coolers,
  dayTerms,
  events,
  handOvers,
  headerChoices,
  leftOutResults,
  lots,
  lotUses,
  materials,
  nextServices,
  offers,
  paperImports,
  paperResults,
  photos,
  protocols,
  readings,
  runs,
  services,
  settings,
  sheetMappings,
  stepMarks,
  workNotes,
} from "../db/schema.ts";
import type { StationStore } from "../db/station-store.ts";

/** Tables of an export, parents first. Sessions, the passphrase, benches and what is running on them stay where they are; summaries are worked out anew. */
export const tablesOf = (stations: readonly StationStore[]): Array<[name: string, table: SQLiteTable]> =>
  Object.entries<SQLiteTable>({
    boardModels,
    cards,
    services,
    workNotes,
    stepMarks,
    blobs,
    runs,
    photos,
    headerChoices,
    protocols,
    readings,
    boardMaps,
    coolers,
    coolerPlans,
    dayTerms,
    paperImports,
    paperResults,
    sheetMappings,
    leftOutResults,
    handOvers,
    nextServices,
    ...Object.assign({}, ...stations.map((station) => station.tables)),
    materials,
    lots,
    offers,
    lotUses,
    settings,
    events,
  });

/** Settings that travel; the passphrase and the folder of the backups belong to a machine. */
const SETTINGS: Record<string, v.GenericSchema> = { workshop: v.partial(SettingsInput), packages: PackageList };
export const travels = (table: string, row: Record<string, unknown>): boolean =>
  table !== "settings" || Object.hasOwn(SETTINGS, String(row.key));

/** What stands in a column, where that is more than a text, a number or a yes. */
type Documents = Readonly<Record<string, Readonly<Record<string, v.GenericSchema>>>>;

const Skips = v.record(v.string(), v.pipe(v.string(), v.maxLength(300)));

/** Exports from before Work became three stations: skipped as Work is skipped as all of them. */
export function newerSkips({ work, ...skips }: v.InferOutput<typeof Skips>): Record<string, string> {
  return work === undefined ? skips : { clean: work, compound: work, fans: work, ...skips };
}

const run = RunInput.entries;
const card = CardInput.entries;
const DOCUMENTS: Documents = {
  boardModels: { limits: LimitsInput },
  cards: {
    holder: card.holder,
    useKind: card.useKind,
    seal: card.seal,
    warranty: card.warranty,
    lookOver: card.lookOver,
  },
  services: {
    attempts: v.pipe(
      v.array(v.object({ changed: v.pipe(v.string(), v.maxLength(300)), startedAt: v.string() })),
      v.maxLength(50),
    ),
    skips: Skips,
    powerOn: v.nullable(PowerOnInput),
    decision: v.nullable(v.intersect([DecisionInput, v.object({ at: v.string() })])),
  },
  workNotes: { work: NoteInput.entries.work },
  stepMarks: { station: StepMarkInput.entries.station, what: StepMarkInput.entries.what },
  blobs: { kind: v.picklist(["log", "samples", "photo"]) },
  runs: {
    side: run.side,
    fanMode: run.fanMode,
    sidePanel: run.sidePanel,
    picture: run.picture,
    mapping: Mapping,
    window: run.window,
    typed: run.typed,
    analysis: AnalysisFile,
    symptoms: v.nullable(SymptomsFile),
  },
  headerChoices: { mapping: Mapping },
  protocols: { steps: ProtocolInput.entries.steps },
  readings: { kind: ReadingInput.pipe[0].entries.kind },
  boardMaps: { map: BoardMapFile, underlay: v.nullable(v.object({ ...UnderlayPlace.entries, hash: v.string() })) },
  coolers: { kind: CoolerFile.entries.kind, cooler: CoolerFile },
  coolerPlans: { plan: CoolerPlanFile },
  dayTerms: { held: DayTermsInput.entries.held },
  paperResults: { paper: PaperInput },
  sheetMappings: { mapping: SheetMapping },
  handOvers: { chosen: HandOverInput },
  nextServices: { told: NextServiceInput },
  materials: { kind: MaterialInput.entries.kind, curve: MaterialInput.entries.curve },
};

const MOST_TEXT = 100_000;
const anyDocument = v.custom<unknown>((value) => value !== undefined);

/** What one value of a column must be, as it stands in an export. */
function valueOf(column: SQLiteColumn, document: v.GenericSchema | undefined): v.GenericSchema {
  if (document) return document;
  switch (column.dataType) {
    case "number":
      return column.getSQLType() === "integer" ? v.pipe(v.number(), v.safeInteger()) : v.pipe(v.number(), v.finite());
    case "boolean":
      return v.boolean();
    case "json":
      return anyDocument;
    default:
      // Bytes are base64, which may be long.
      return column.getSQLType() === "blob" ? v.string() : v.pipe(v.string(), v.maxLength(MOST_TEXT));
  }
}

/** What a row of each table must be. Columns that came later may be missing where they may be empty. */
export function rowSchemas(stations: readonly StationStore[]): ReadonlyMap<string, v.GenericSchema<unknown, object>> {
  const documents: Documents = Object.assign({}, DOCUMENTS, ...stations.map((station) => station.documents ?? {}));
  return new Map(
    tablesOf(stations).map(([name, table]) => {
      const entries = Object.entries(getTableColumns(table) as Record<string, SQLiteColumn>).map(([key, column]) => {
        const value = valueOf(column, documents[name]?.[key]);
        if (!column.notNull) return [key, v.optional(v.nullable(value), null)] as const;
        // A column that came later has what older exports lack as its default.
        return [key, column.hasDefault ? v.optional(value) : value] as const;
      });
      const row = v.object(Object.fromEntries(entries));
      return [
        name,
        name === "settings"
          ? v.pipe(
              row,
              v.check(
                ({ key, value }) => v.is(SETTINGS[String(key)] ?? v.never(), value),
                "Not what this setting may be.",
              ),
            )
          : row,
      ];
    }),
  );
}
