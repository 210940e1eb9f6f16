import { createHash, randomUUID } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, statSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import { pathToFileURL } from "node:url";
import { type Client, createClient } from "@libsql/client";
import { eq, lt } from "drizzle-orm";
import { drizzle, type LibSQLDatabase } from "drizzle-orm/libsql";
import { migrate } from "drizzle-orm/libsql/migrator";
import { Problem } from "#core";
import { root } from "../root.ts";
import { problemOfDatabase } from "./faults.ts";
import * as schema from "./schema.ts";
import { beginChange, nameOfChange } from "./under-key.ts";

type Database = LibSQLDatabase<typeof schema>;
export type Transaction = Parameters<Parameters<Database["transaction"]>[0]>[0];
/** Where something is read: the database, or a transaction that sees its own changes. */
export type Reader = Pick<Database, "select">;

/** One open database. Reads go anywhere; all writes go through `write`, one after the other, each whole or not at all. */
export interface Store {
  db: Database;
  client: Client;
  /**
   * Runs a change in one transaction; when the promise is fulfilled the change is on disk. Under a key (`underKey`) what it gives back is
   * kept with it as JSON, and the same request gets that again instead of a second change.
   */
  write<T>(change: (tx: Transaction) => Promise<T>): Promise<T>;
  /** What the coming change made when the same request, known by its key, was served before; undefined where it was not. */
  madeBefore<T>(): Promise<T | undefined>;
  now(): string;
  newId(): string;
  url: string;
  /** The file, when it is one. */
  file: string | undefined;
  close(): Promise<void>;
}

export interface StoreOptions {
  clock?: () => Date;
  /** Works out anew, before a change is committed, what is derived from what it changed. */
  derive?: (tx: Transaction) => Promise<void>;
}

/** So long a change waits for one of another process, such as a backup. */
const BUSY_MS = 5000;
const MIGRATIONS = join(root, "server", "db", "migrations");

/** A file name or the URL of a server that speaks the same protocol. */
export function databaseUrl(name: string): { url: string; file: string | undefined } {
  if (/^(libsql|https?|wss?):/.test(name)) return { url: name, file: undefined };
  const file = name.startsWith("file:") ? name.slice(5) : name;
  return { url: pathToFileURL(file).href.replace("file:///", "file:/"), file };
}

/**
 * Opens or makes a database and brings it up to this version; a copy is taken before an existing one is changed.
 * @throws Problem `newer-database`, `not-a-database`, `disk-full`, `database-locked`
 */
export async function openStore(
  name: string,
  { clock = () => new Date(), derive = () => Promise.resolve() }: StoreOptions = {},
): Promise<Store> {
  const { url, file } = databaseUrl(name);
  const existed = file !== undefined && existsSync(file);
  if (existed && statSync(file).isDirectory())
    throw new Problem({
      code: "not-a-database",
      what: "This is a folder, not a database.",
      where: file,
      remedy: "Name a file in it with ALGIDUS_DB, such as algidus.db.",
    });
  if (file) mkdirSync(dirname(file), { recursive: true });
  const client = createClient({ url, intMode: "number", timeout: BUSY_MS });
  try {
    if (file) await client.execute("PRAGMA journal_mode = WAL");
    await bringUpToDate(client, file, existed);
  } catch (error) {
    client.close();
    throw problemOfDatabase(error, file ?? url) ?? error;
  }
  const db = drizzle(client, { schema, casing: "snake_case" });
  let last: Promise<unknown> = Promise.resolve();
  return {
    db,
    client,
    url,
    file,
    now: () => clock().toISOString(),
    newId: () => randomUUID(),
    async madeBefore<T>() {
      const name = nameOfChange();
      return name === undefined ? undefined : ((await madeUnder(db, name))?.made as T | undefined);
    },
    write<T>(change: (tx: Transaction) => Promise<T>) {
      const name = nameOfChange();
      beginChange();
      const turn = last.then(async () => {
        let cause: unknown;
        try {
          return await db.transaction(async (tx) => {
            try {
              const before = name && (await madeUnder(tx, name));
              if (before) return before.made as T;
              const made = await change(tx);
              await derive(tx);
              if (name) await keepMade(tx, name, made, clock());
              return made;
            } catch (error) {
              cause = error;
              throw error;
            }
          });
        } catch (error) {
          // A full disk rolls back by itself; the fault that follows from that would hide it.
          const first = cause ?? error;
          throw problemOfDatabase(first, "database") ?? first;
        }
      });
      last = turn.catch(() => undefined);
      return turn;
    },
    async close() {
      await last;
      client.close();
    },
  };
}

const KEPT_MS = 24 * 3600 * 1000;

async function madeUnder(reader: Reader, name: string): Promise<{ made: unknown } | undefined> {
  const [found] = await reader
    .select({ made: schema.changesMade.made })
    .from(schema.changesMade)
    .where(eq(schema.changesMade.name, name));
  return found;
}

async function keepMade(tx: Transaction, name: string, made: unknown, now: Date): Promise<void> {
  const { changesMade } = schema;
  await tx.delete(changesMade).where(lt(changesMade.at, new Date(now.getTime() - KEPT_MS).toISOString()));
  await tx.insert(changesMade).values({ name, made, at: now.toISOString() });
}

interface Journal {
  entries: Array<{ when: number; tag: string }>;
}

async function bringUpToDate(client: Client, file: string | undefined, existed: boolean): Promise<void> {
  const journal = JSON.parse(readFileSync(join(MIGRATIONS, "meta", "_journal.json"), "utf8")) as Journal;
  const newest = Math.max(...journal.entries.map((entry) => entry.when));
  const tables = await client.execute("SELECT name FROM sqlite_master WHERE type = 'table'");
  const names = tables.rows.map((row) => String(row.name));
  if (existed && names.length > 0 && !names.includes("__drizzle_migrations"))
    throw new Problem({
      code: "not-ours",
      what: "This database was not made by this application.",
      where: file,
      remedy: "Name another file with ALGIDUS_DB.",
    });
  if (names.includes("__drizzle_migrations")) {
    const applied = await client.execute("SELECT max(created_at) AS newest FROM __drizzle_migrations");
    const have = Number(applied.rows[0]?.newest ?? 0);
    if (have > newest)
      throw new Problem({
        code: "newer-database",
        what: "This database was written by a newer version.",
        where: file,
        remedy: "Update this application, or restore the copy that was taken before the change.",
      });
    if (have === newest) return;
    if (file) await copyTo(client, join(dirname(file), `${basename(file)}.before-${have}.bak`));
  }
  await migrate(drizzle(client), { migrationsFolder: MIGRATIONS });
}

/** Writes a consistent copy to a file that must not exist; readers and writers go on meanwhile. */
export async function copyTo(client: Client, target: string): Promise<void> {
  if (existsSync(target)) return;
  await client.execute({ sql: "VACUUM INTO ?", args: [target] });
}

export const hashOf = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");
