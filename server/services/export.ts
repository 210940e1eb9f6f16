import { createWriteStream } from "node:fs";
import { finished } from "node:stream/promises";
import type { Transaction } from "@libsql/client/sqlite3";
import { getTableColumns, gt, type SQL, sql } from "drizzle-orm";
import { QueryBuilder, type SQLiteColumn, type SQLiteTable } from "drizzle-orm/sqlite-core";
import { EXPORT_FORMAT, EXPORT_VERSION } from "#contract";
import { connect } from "../db/copying.ts";
import type { StationStore } from "../db/station-store.ts";
import { tablesOf, travels } from "./transfer-tables.ts";

type Row = Record<string, unknown>;

const ROWS_AT_ONCE = 100;
const queries = new QueryBuilder({ casing: "snake_case" });

/** Rows of a table in order, some at a time. */
async function* rowsOf(tx: Transaction, name: string, table: SQLiteTable): AsyncGenerator<Row> {
  const columns = Object.entries(getTableColumns(table) as Record<string, SQLiteColumn>);
  const number: SQL<number> = sql<number>`${table}.rowid`;
  // A log may have many megabytes.
  const atOnce = name === "blobs" ? 1 : ROWS_AT_ONCE;
  for (let after = 0; ; ) {
    const query = queries
      .select({ ...Object.fromEntries(columns), row: number.as("row") })
      .from(table)
      .where(gt(number, after))
      .orderBy(number)
      .limit(atOnce)
      .toSQL();
    const { rows } = await tx.execute({ sql: query.sql, args: query.params as number[] });
    for (const row of rows) {
      const made: Row = {};
      for (const [index, [key, column]] of columns.entries()) {
        const value = row[index];
        const known: unknown = value === null || value === undefined ? null : column.mapFromDriverValue(value);
        made[key] = Buffer.isBuffer(known) ? known.toString("base64") : known;
      }
      after = Number(row[columns.length]);
      if (travels(name, made)) yield made;
    }
    if (rows.length < atOnce) return;
  }
}

/**
 * Writes the whole workshop as one document, every table of one moment, original logs and photos included.
 * @param file the database; @param to a file that is written over
 */
export async function writeExport(
  file: string,
  to: string,
  stations: readonly StationStore[],
  exportedAt: string,
): Promise<void> {
  const client = connect(file);
  const out = createWriteStream(to, { mode: 0o600 });
  const written = finished(out);
  // A disk that is full is told by `written`, also where nobody waits for it yet.
  written.catch(() => undefined);
  const write = (text: string): Promise<unknown> | undefined =>
    out.write(text)
      ? undefined
      : Promise.race([new Promise<void>((resolve) => out.once("drain", () => resolve())), written]);
  try {
    const tx = await client.transaction("read");
    const head = JSON.stringify({ format: EXPORT_FORMAT, version: EXPORT_VERSION, exportedAt });
    await write(`${head.slice(0, -1)},"tables":{`);
    for (const [index, [name, table]] of tablesOf(stations).entries()) {
      await write(`${index === 0 ? "" : ","}\n${JSON.stringify(name)}:[`);
      let between = "\n";
      for await (const row of rowsOf(tx, name, table)) {
        await write(between + JSON.stringify(row));
        between = ",\n";
      }
      await write("]");
    }
    out.end("}}\n");
    await written;
  } finally {
    out.destroy();
    client.close();
  }
}
