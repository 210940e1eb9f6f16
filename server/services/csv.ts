import { setImmediate } from "node:timers/promises";
import { and, eq, gt, isNull, type SQL, sql } from "drizzle-orm";
import type { SQLiteTable } from "drizzle-orm/sqlite-core";
import Papa from "papaparse";
import { levelOf, type TemperatureRole, temperatureOf } from "#core";
import type { LevelRole } from "#core/runfile/index.ts";
import { cards, runs, services, workNotes } from "../db/schema.ts";
import type { Context } from "./context.ts";

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
  for (let after = 0, isFirst = true; ; isFirst = false) {
    const lines = await page(after);
    const last = lines.at(-1);
    const text = Papa.unparse(
      lines.map(({ line }) => line),
      { escapeFormulae: true, newline: "\r\n", header: isFirst },
    );
    // Nothing is sent before the first page is read: what keeps it from being read is told in words.
    if (isFirst) yield `\ufeff${text}`;
    else if (last) yield `\r\n${text}`;
    if (!last) return;
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
      .where(and(isNull(runs.deletedAt), isNull(cards.deletedAt), gt(rowOf(runs), after)))
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
