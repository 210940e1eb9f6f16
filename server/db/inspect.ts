import type { Client, InValue } from "@libsql/client/sqlite3";
import { is } from "drizzle-orm";
import { getTableConfig, SQLiteTable, SQLiteTextJson } from "drizzle-orm/sqlite-core";
import * as schema from "./schema.ts";

/**
 * A text that is none: the bytes of this cell are not UTF-8, and reading it as text would end the process; or it should be JSON and is not,
 * so that its row can't be read.
 */
export interface BrokenText {
  table: string;
  column: string;
  row: number;
  is: "no text" | "no JSON";
}

export interface Inspection {
  /** What SQLite itself says of the file's pages; empty when it is sound. */
  pages: string[];
  texts: BrokenText[];
}

const ROWS_AT_ONCE = 100;
const MOST_TOLD = 100;
const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;
const asBytes = (column: string): string => `CAST(CASE WHEN typeof(${column}) = 'text' THEN ${column} END AS BLOB)`;

/** Reads a database's pages and every text in it. @param how `quick_check` leaves indices out */
export async function inspect(client: Client, how: "quick_check" | "integrity_check"): Promise<Inspection> {
  const pages = await badPages(client, how);
  // What lies on damaged pages can't be told from what is damaged itself.
  return { pages, texts: pages.length === 0 ? await brokenTexts(client) : [] };
}

/** What SQLite itself says of a database's pages; empty where they are sound. */
export async function badPages(client: Client, how: "quick_check" | "integrity_check"): Promise<string[]> {
  const { rows } = await client.execute(`PRAGMA ${how}`);
  return rows.map((row) => String(row[how])).filter((text) => text !== "ok");
}

export async function brokenTexts(client: Client): Promise<BrokenText[]> {
  const broken: BrokenText[] = [];
  const tables = await client.execute(
    "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'",
  );
  for (const { name } of tables.rows) {
    const table = String(name);
    const info = await client.execute(`PRAGMA table_info(${quoted(table)})`);
    const columns = info.rows.filter((row) => /^text$/i.test(String(row.type))).map((row) => String(row.name));
    if (columns.length === 0) continue;
    broken.push(...(await brokenJson(client, table, columns)));
    const wanted = columns.map((column) => asBytes(quoted(column))).join(", ");
    for (let after = 0; ; ) {
      const { rows } = await client.execute({
        sql: `SELECT rowid, ${wanted} FROM ${quoted(table)} WHERE rowid > ? ORDER BY rowid LIMIT ?`,
        args: [after, ROWS_AT_ONCE],
      });
      for (const row of rows) {
        after = Number(row[0]);
        for (const [index, column] of columns.entries())
          if (!isText(row[index + 1])) broken.push({ table, column, row: after, is: "no text" });
      }
      if (rows.length < ROWS_AT_ONCE || broken.length >= MOST_TOLD) break;
    }
  }
  return broken;
}

/** Columns that hold JSON, by table. */
const inSnakeCase = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
const JSON_COLUMNS = new Map(
  Object.values<unknown>(schema).flatMap((table) => {
    if (!is(table, SQLiteTable)) return [];
    const { name, columns } = getTableConfig(table);
    return [[name, columns.filter((one) => is(one, SQLiteTextJson)).map((one) => inSnakeCase(one.name))] as const];
  }),
);

async function brokenJson(client: Client, table: string, columns: readonly string[]): Promise<BrokenText[]> {
  const broken: BrokenText[] = [];
  for (const column of JSON_COLUMNS.get(table) ?? []) {
    if (!columns.includes(column)) continue;
    // What is no text is told as that.
    const { rows } = await client.execute({
      sql: `SELECT rowid, ${asBytes(quoted(column))} FROM ${quoted(table)}
        WHERE ${quoted(column)} IS NOT NULL AND NOT json_valid(${quoted(column)}) LIMIT ?`,
      args: [MOST_TOLD],
    });
    for (const row of rows) if (isText(row[1])) broken.push({ table, column, row: Number(row[0]), is: "no JSON" });
  }
  return broken;
}

function isText(bytes: InValue | undefined): boolean {
  if (!(bytes instanceof ArrayBuffer)) return true;
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

/** Puts the replacement character in the place of what is no text, so that the row can be read again. */
export async function mendTexts(client: Client, texts: readonly BrokenText[]): Promise<void> {
  for (const { table, column, row } of texts.filter(({ is: fault }) => fault === "no text")) {
    const { rows } = await client.execute({
      sql: `SELECT ${asBytes(quoted(column))} FROM ${quoted(table)} WHERE rowid = ?`,
      args: [row],
    });
    const bytes = rows[0]?.[0];
    if (!(bytes instanceof ArrayBuffer)) continue;
    await client.execute({
      sql: `UPDATE ${quoted(table)} SET ${quoted(column)} = ? WHERE rowid = ?`,
      args: [new TextDecoder().decode(bytes), row],
    });
  }
}
