import { setImmediate } from "node:timers/promises";
import { and, eq, getTableColumns, gt, isNull, type SQL, sql } from "drizzle-orm";
import type { SQLiteTable } from "drizzle-orm/sqlite-core";
import Papa from "papaparse";
import { EXPORT_FORMAT, EXPORT_VERSION, type ExportFile, type ImportReport } from "#contract";
import { levelOf, Problem, type TemperatureRole, temperatureOf } from "#core";
import type { LevelRole } from "#core/runfile/index.ts";
import { problemOfDatabase } from "../db/faults.ts";
import { hashOf } from "../db/open.ts";
import {
  blobs,
  boardMaps,
  boardModels,
  cards,
  events,
  headerChoices,
  lots,
  lotUses,
  materials,
  offers,
  photos,
  protocols,
  readings,
  runs,
  services,
  settings,
  workNotes,
} from "../db/schema.ts";
import { type Context, record } from "./context.ts";

/** Tables of an export, parents first. Sessions, the passphrase, benches and what is running on them stay where they are; summaries are worked out anew. */
const tablesOf = ({ stations }: Pick<Context, "stations">): Array<[name: string, table: SQLiteTable]> =>
  Object.entries<SQLiteTable>({
    boardModels,
    cards,
    services,
    workNotes,
    blobs,
    runs,
    photos,
    headerChoices,
    protocols,
    readings,
    boardMaps,
    ...Object.assign({}, ...stations.map((station) => station.tables)),
    materials,
    lots,
    offers,
    lotUses,
    settings,
    events,
  });
const PRIVATE_SETTINGS = new Set(["passphrase"]);

/** The whole workshop as one document: every table, original logs and photos included. */
export async function exportAll({ store, stations }: Context): Promise<ExportFile> {
  const tables: Record<string, Array<Record<string, unknown>>> = {};
  for (const [name, table] of tablesOf({ stations })) {
    const rows = (await store.db.select().from(table)) as Array<Record<string, unknown>>;
    tables[name] = rows
      .filter((row) => !(name === "settings" && PRIVATE_SETTINGS.has(String(row.key))))
      .map((row) =>
        name === "blobs" ? { ...row, bytes: Buffer.from(row.bytes as Uint8Array).toString("base64") } : row,
      );
  }
  return {
    format: EXPORT_FORMAT,
    version: EXPORT_VERSION,
    exportedAt: store.now(),
    tables: tables as ExportFile["tables"],
  };
}

/**
 * Adds an export to this workshop: what is here already (same id) stays as it is, all else comes in, in one step.
 * @throws Problem `bad-export` naming table and row when something does not fit; then nothing was changed
 */
export async function importAll({ store, stations }: Context, file: ExportFile): Promise<ImportReport> {
  return store.write(async (tx) => {
    const report: ImportReport = { added: {}, alreadyHere: {} };
    for (const [name, table] of tablesOf({ stations })) {
      let added = 0;
      const rows = file.tables[name] ?? [];
      for (const [index, row] of rows.entries()) {
        if (name === "settings" && PRIVATE_SETTINGS.has(String(row.key))) continue;
        const values = checked(name, index, row, getTableColumns(table));
        try {
          const result = await tx.insert(table).values(values).onConflictDoNothing();
          added += result.rowsAffected;
        } catch (error) {
          throw whyNot(error, name, index);
        }
      }
      report.added[name] = added;
      report.alreadyHere[name] = rows.length - added;
    }
    await record(store, tx, "export imported", "workshop", report);
    return report;
  });
}

/** What the database had against a row. */
function whyNot(error: unknown, table: string, index: number): unknown {
  let words = "";
  for (let at = error; at instanceof Error; at = at.cause) words += ` ${at.message}`;
  if (/FOREIGN KEY constraint/i.test(words))
    return badExport(table, index, "refers to something that is not in the file");
  if (/NOT NULL constraint|cannot store|datatype mismatch/i.test(words))
    return badExport(table, index, "holds a value of a wrong kind");
  if (/CHECK constraint/i.test(words)) return badExport(table, index, "holds a value that is not allowed");
  // Anything else (a full disk, a lock, a fault of the code) is not the file's doing.
  return problemOfDatabase(error, "database") ?? error;
}

const badExport = (table: string, index: number, why: string): Problem =>
  new Problem({
    code: "bad-export",
    what: `Row ${index + 1} of ${table} ${why}; nothing was imported.`,
    remedy: "Export again on the other machine and import that file.",
  });

function checked(
  name: string,
  index: number,
  row: Record<string, unknown>,
  columns: Record<string, { notNull: boolean; hasDefault: boolean }>,
): Record<string, unknown> {
  const values: Record<string, unknown> = {};
  for (const [key, column] of Object.entries(columns)) {
    const value = row[key];
    if (value === undefined && column.notNull) throw badExport(name, index, `lacks “${key}”`);
    values[key] = value ?? null;
  }
  if (name !== "blobs") return values;
  const bytes = Buffer.from(String(row.bytes), "base64");
  if (row.kind !== "log" && hashOf(bytes) !== row.hash) throw badExport(name, index, "is damaged");
  return { ...values, bytes };
}

/** Figures of so many runs are unpacked in a twentieth of a second. */
const ROWS_AT_ONCE = 50;
const rowOf = (table: SQLiteTable): SQL<number> => sql<number>`${table}.rowid`;

interface NumberedLine {
  row: number;
  line: object;
}

/**
 * Lines for a spreadsheet, read and written a page at a time, others being served in between. A cell that starts like a formula is
 * written so that a spreadsheet shows it instead of running it.
 * @param page the next lines after a row of the database
 */
async function* csvOf(page: (after: number) => Promise<NumberedLine[]>): AsyncGenerator<string> {
  yield "\ufeff";
  for (let after = 0, header = true; ; header = false) {
    const lines = await page(after);
    const last = lines.at(-1);
    if (!last) return;
    const text = Papa.unparse(
      lines.map(({ line }) => line),
      { escapeFormulae: true, newline: "\r\n", header },
    );
    yield header ? text : `\r\n${text}`;
    after = last.row;
    await setImmediate();
  }
}

/** One line per run: card, conditions and figures, for a spreadsheet. */
export const exportRunsCsv = ({ store: { db } }: Context): AsyncGenerator<string> =>
  csvOf(async (after) => {
    const rows = await db
      .select({ row: rowOf(runs), run: runs, maker: cards.maker, model: cards.model, serial: cards.serial })
      .from(runs)
      .innerJoin(services, eq(runs.serviceId, services.id))
      .innerJoin(cards, eq(services.cardId, cards.id))
      .where(and(isNull(runs.deletedAt), gt(rowOf(runs), after)))
      .orderBy(rowOf(runs))
      .limit(ROWS_AT_ONCE);
    return rows.map(({ row, run, maker, model, serial }) => ({ row, line: runLine(run, `${maker} ${model}`, serial) }));
  });

function runLine(run: typeof runs.$inferSelect, card: string, serial: string): object {
  const { analysis } = run;
  const riseK = (role: TemperatureRole): number | null => temperatureOf(analysis, role)?.riseK ?? null;
  const mean = (role: LevelRole): number | null => levelOf(analysis, role)?.mean ?? null;
  return {
    card,
    serial,
    side: run.side,
    name: run.name,
    file: run.fileName,
    created: run.createdAt,
    fanMode: run.fanMode,
    fanPct: run.fanPct,
    load: run.loadName,
    sidePanel: run.sidePanel,
    ambientC: analysis.ambient?.valueC ?? null,
    steady: analysis.steady.reached,
    edgeRiseK: riseK("edge"),
    edgeRiseU95K: temperatureOf(analysis, "edge")?.riseU95K ?? null,
    hotspotRiseK: riseK("hotspot"),
    memoryRiseK: riseK("memory"),
    vrmRiseK: riseK("vrm"),
    gapK: analysis.hotspotGapK?.mean ?? null,
    powerW: mean("power"),
    fanRpm: mean("fanRpm"),
    throttledShare: analysis.throttling.shareOfLoad,
  };
}

export const exportCardsCsv = ({ store: { db } }: Context): AsyncGenerator<string> =>
  csvOf(async (after) => {
    const rows = await db
      .select({ row: rowOf(cards), card: cards })
      .from(cards)
      .where(gt(rowOf(cards), after))
      .orderBy(rowOf(cards))
      .limit(ROWS_AT_ONCE);
    return rows.map(({ row, card: { lookOver, boardModelId: _board, ...card } }) => ({
      row,
      line: {
        ...card,
        findings: lookOver
          .filter((entry) => entry.state === "noted")
          .map((entry) => `${entry.id}: ${entry.text}`)
          .join("; "),
      },
    }));
  });

export const exportNotesCsv = ({ store: { db } }: Context): AsyncGenerator<string> =>
  csvOf(async (after) => {
    const rows = await db
      .select({ row: rowOf(workNotes), note: workNotes })
      .from(workNotes)
      .where(and(isNull(workNotes.deletedAt), gt(rowOf(workNotes), after)))
      .orderBy(rowOf(workNotes))
      .limit(ROWS_AT_ONCE);
    return rows.map(({ row, note: { deletedAt: _deleted, ...note } }) => ({
      row,
      line: { ...note, work: note.work.join("; ") },
    }));
  });
