import { createReadStream } from "node:fs";
import { rm } from "node:fs/promises";
import type { Client } from "@libsql/client/sqlite3";
import { Tokenizer, TokenParser, TokenType } from "@streamparser/json";
import { sql } from "drizzle-orm";
import type { LibSQLDatabase } from "drizzle-orm/libsql";
import { drizzle } from "drizzle-orm/libsql/sqlite3";
import { getTableConfig, type SQLiteTable } from "drizzle-orm/sqlite-core";
import * as v from "valibot";
import { EXPORT_FORMAT, EXPORT_VERSION, FIRST_TABLES, type ImportReport } from "#contract";
import { Problem } from "#core";
import { connect } from "../db/copying.ts";
import { problemOfDatabase } from "../db/faults.ts";
import type { Store, Transaction } from "../db/open.ts";
import type { StationStore } from "../db/station-store.ts";
import { whatIsWrong } from "../db/stored.ts";
import { record } from "./context.ts";
import { refill } from "./stores.ts";
import { newerSkips, rowSchemas, tablesOf, travels } from "./transfer-tables.ts";

type Row = Record<string, unknown>;

const ROWS_AT_ONCE = 200;
const BYTES_AT_ONCE = 8 * 1024 * 1024;

/** Removes a staging database and what SQLite left beside it. */
export const removeStaged = async (staging: string): Promise<void> => {
  for (const end of ["", "-journal", "-wal", "-shm"]) await rm(staging + end, { force: true });
};

const badExport = (what: string, remedy = "Export again on the other machine and import that file."): Problem =>
  new Problem({ code: "bad-export", what: `${what}; nothing was imported.`, remedy });

const badRow = (table: string, row: number, why: string): Problem => badExport(`Row ${row} of ${table} ${why}`);

/**
 * The first half of an import: checks an export row by row and puts what it holds into a database of its own, which changes nothing here.
 * @param client the workshop's database; @param path the export; @param staging name of a file that is made
 * @throws Problem `bad-export` naming table and row
 */
export async function stage(
  client: Client,
  stations: readonly StationStore[],
  path: string,
  staging: string,
): Promise<void> {
  const staged = connect(staging);
  try {
    await makeTables(client, staged, stations);
    const rows = new Staging(drizzle(staged, { casing: "snake_case" }), stations);
    const head = new Map<unknown, unknown>();
    const found = new Set<string>();
    const parser = new TokenParser({
      // Rows one by one: what is asked for whole is held whole.
      paths: ["$.format", "$.version", "$.exportedAt", "$.tables.*.*"],
      keepStack: false,
    });
    parser.onValue = ({ value, key, stack }) => {
      if (stack.length === 1) {
        head.set(key, value);
        checkHead(head);
      } else rows.take(String(stack[2]?.key), Number(key) + 1, value);
    };
    const tokenizer = new Tokenizer({ stringBufferSize: 64 * 1024 });
    const lists = new ListNames(found);
    tokenizer.onToken = (token) => {
      lists.see(token.token, token.value);
      parser.write(token);
    };
    let broken: unknown;
    for (const part of [parser, tokenizer])
      part.onError = (error) => {
        broken ??= error;
      };
    for await (const piece of createReadStream(path, { highWaterMark: 256 * 1024 })) {
      try {
        tokenizer.write(piece as Buffer);
      } catch (error) {
        broken ??= error;
      }
      if (broken) throw broken instanceof Problem ? broken : badExport("The file is not JSON");
      await rows.flush(false);
    }
    if (!parser.isEnded) throw badExport("The file is not JSON, or ends in the middle");
    checkHead(head, "whole");
    const missing = FIRST_TABLES.find((name) => !found.has(name));
    if (missing) throw badExport(`The file has no list “${missing}”`);
    await rows.flush(true);
    await takeBoardsOfSameName(client, staged, stations);
  } finally {
    staged.close();
  }
}

/** Notes which lists there are, empty ones included: those never come as a value. */
class ListNames {
  #depth = 0;
  #before: unknown;
  #name: unknown;

  constructor(private readonly found: Set<string>) {}

  see(token: TokenType, value: unknown): void {
    if (token === TokenType.COLON) this.#name = this.#before;
    if (token === TokenType.LEFT_BRACKET && this.#depth === 2) this.found.add(String(this.#name));
    if (token === TokenType.LEFT_BRACE || token === TokenType.LEFT_BRACKET) this.#depth++;
    if (token === TokenType.RIGHT_BRACE || token === TokenType.RIGHT_BRACKET) this.#depth--;
    this.#before = value;
  }
}

function checkHead(head: ReadonlyMap<unknown, unknown>, how: "so far" | "whole" = "so far"): void {
  const [format, version] = [head.get("format"), head.get("version")];
  if ((format !== undefined || how === "whole") && format !== EXPORT_FORMAT)
    throw badExport("This is not an export of this application", "Choose the file that “Everything as JSON” wrote.");
  if ((version !== undefined || how === "whole") && !(typeof version === "number" && version <= EXPORT_VERSION))
    throw badExport("This export was written by a newer version", "Update this one first.");
}

/** The tables of a database without what refers from one to another: rows may come in any order. */
async function makeTables(client: Client, staged: Client, stations: readonly StationStore[]): Promise<void> {
  for (const mode of ["foreign_keys = OFF", "journal_mode = OFF", "synchronous = OFF"])
    await staged.execute(`PRAGMA ${mode}`);
  for (const [, table] of tablesOf(stations)) {
    const made = await client.execute({
      sql: "SELECT sql FROM sqlite_master WHERE type = 'table' AND name = ?",
      args: [getTableConfig(table).name],
    });
    await staged.execute(String(made.rows[0]?.sql));
  }
}

/** A board model of the same name is the same one: what belongs to the one that comes in belongs to the one that is here. */
async function takeBoardsOfSameName(client: Client, staged: Client, stations: readonly StationStore[]): Promise<void> {
  for (const { id: coming, name } of (await staged.execute("SELECT id, name FROM board_models")).rows) {
    const held = await client.execute({
      sql: "SELECT id FROM board_models WHERE name = ? AND id <> ?",
      args: [name ?? null, coming ?? null],
    });
    const here = held.rows[0]?.id;
    if (here === undefined) continue;
    for (const [, table] of tablesOf(stations)) {
      const sqlName = getTableConfig(table).name;
      const references = await client.execute({
        sql: 'SELECT "from" FROM pragma_foreign_key_list(?) WHERE "table" = \'board_models\'',
        args: [sqlName],
      });
      for (const { from } of references.rows)
        await staged.execute({
          sql: `UPDATE OR IGNORE ${sqlName} SET ${String(from)} = ? WHERE ${String(from)} = ?`,
          args: [here, coming ?? null],
        });
    }
  }
}

/** Rows on their way into the staging database. */
class Staging {
  readonly #tables: ReadonlyMap<string, SQLiteTable>;
  readonly #schemas: ReturnType<typeof rowSchemas>;
  #held: Array<{ name: string; row: number; values: Row }> = [];
  #bytes = 0;

  constructor(
    private readonly db: LibSQLDatabase,
    stations: readonly StationStore[],
  ) {
    this.#tables = new Map(tablesOf(stations));
    this.#schemas = rowSchemas(stations);
  }

  /** @throws Problem `bad-export` */
  take(name: string, row: number, value: unknown): void {
    const schema = this.#schemas.get(name);
    // Of a version or a station that this one does not know.
    if (!schema) return;
    if (typeof value === "object" && value !== null && !travels(name, value as Row)) return;
    const checked = v.safeParse(schema, value);
    if (!checked.success) {
      const [issue] = checked.issues;
      const at = v.getDotPath(issue);
      throw badRow(
        name,
        row,
        issue.received === "undefined" ? `lacks “${at}”` : `is not usable: ${at ?? "it"}: ${issue.message}`,
      );
    }
    // As it was written: an export that goes round comes back the same.
    const values = { ...checked.output, ...known(value as Row, checked.output) };
    if (name === "services") values.skips = newerSkips(values.skips as Record<string, string>);
    if (name === "blobs") this.#readBytes(values, row);
    this.#held.push({ name, row, values });
  }

  #readBytes(values: Row, row: number): void {
    const bytes = Buffer.from(String(values.bytes), "base64");
    const wrong = whatIsWrong({ ...(values as { kind: "log"; hash: string }), bytes });
    if (wrong) throw badRow("blobs", row, `is damaged: ${wrong}`);
    values.bytes = bytes;
    this.#bytes += bytes.length;
  }

  async flush(isLast: boolean): Promise<void> {
    if (!isLast && this.#held.length < ROWS_AT_ONCE && this.#bytes < BYTES_AT_ONCE) return;
    const held = this.#held;
    this.#held = [];
    this.#bytes = 0;
    const inserts = held.flatMap(({ name, values }) => {
      const table = this.#tables.get(name);
      return table ? [this.db.insert(table).values(values).onConflictDoNothing()] : [];
    });
    const [first, ...rest] = inserts;
    if (!first) return;
    try {
      await this.db.batch([first, ...rest]);
    } catch (error) {
      const at = held[indexOfFault(error)];
      const disk = problemOfDatabase(error, "database");
      if (disk?.detail().code === "disk-full" || !at) throw disk ?? error;
      throw badRow(at.name, at.row, "holds a value of a wrong kind");
    }
  }
}

const known = (row: Row, columns: object): Row =>
  Object.fromEntries(Object.entries(row).filter(([key]) => Object.hasOwn(columns, key)));

/** Which statement of a batch the database refused. */
function indexOfFault(error: unknown): number {
  for (let at = error; at instanceof Error; at = at.cause)
    if ("statementIndex" in at && typeof at.statementIndex === "number") return at.statementIndex;
  return -1;
}

/**
 * The second half: what is here already (same id, or a board model of the same name) stays as it is, all else comes in, in one step.
 * @throws Problem `bad-export` naming table and row where something refers to what is not there; then nothing was changed
 */
export async function addStaged(
  store: Store,
  stations: readonly StationStore[],
  staging: string,
): Promise<ImportReport> {
  await store.client.execute({ sql: "ATTACH ? AS staged", args: [staging] });
  return store.write(async (tx) => {
    const tables = tablesOf(stations).map(([name, table]) => ({ name, sqlName: getTableConfig(table).name }));
    const report: ImportReport = { added: {}, alreadyHere: {} };
    const used = await tx.all<{ id: string }>(
      sql`SELECT DISTINCT lot_id AS id FROM staged.lot_uses WHERE id NOT IN (SELECT id FROM main.lot_uses)`,
    );
    for (const { name, sqlName } of tables) {
      await needParents(tx, name, sqlName);
      const table = sql.identifier(sqlName);
      const columns = sql.raw(
        (await columnsOf(tx, sqlName)).map((column) => `"${column.replaceAll('"', '""')}"`).join(", "),
      );
      const [counted] = await tx.all<{ n: number }>(sql`SELECT count(*) AS n FROM staged.${table}`);
      const { rowsAffected } = await tx.run(
        sql`INSERT OR IGNORE INTO main.${table} (${columns}) SELECT ${columns} FROM staged.${table} ORDER BY rowid`,
      );
      report.added[name] = rowsAffected;
      report.alreadyHere[name] = (counted?.n ?? 0) - rowsAffected;
    }
    // What lots hold was counted, here or there: what comes in of their uses had been taken by then.
    await refill(
      tx,
      used.map(({ id }) => id),
    );
    await record(store, tx, "export imported", "workshop", report);
    return report;
  });
}

const columnsOf = async (tx: Transaction, sqlName: string): Promise<string[]> =>
  (await tx.all<{ name: string }>(sql`SELECT name FROM pragma_table_info(${sqlName}, 'staged')`)).map(
    ({ name }) => name,
  );

interface Reference {
  table: string;
  from: string;
  to: string;
}

const referencesOf = (tx: Transaction, sqlName: string): Promise<Reference[]> =>
  tx.all<Reference>(sql`SELECT "table", "from", "to" FROM pragma_foreign_key_list(${sqlName}, 'main')`);

/** @throws Problem `bad-export` where a row refers to something that is neither here nor in the file */
async function needParents(tx: Transaction, name: string, sqlName: string): Promise<void> {
  for (const { table, from, to } of await referencesOf(tx, sqlName)) {
    const [parent, column, key] = [sql.identifier(table), sql.identifier(from), sql.identifier(to)];
    const [orphan] = await tx.all<{ row: number }>(sql`
      SELECT rowid AS row FROM staged.${sql.identifier(sqlName)} AS child
      WHERE child.${column} IS NOT NULL
        AND NOT EXISTS (SELECT 1 FROM main.${parent} AS held WHERE held.${key} = child.${column})
      LIMIT 1`);
    if (orphan) throw badRow(name, orphan.row, "refers to something that is not in the file");
  }
}
