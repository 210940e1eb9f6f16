import { randomUUID } from "node:crypto";
import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import type { Client } from "@libsql/client/sqlite3";
import { and, desc, eq, lt, notInArray, sql } from "drizzle-orm";
import type { LibSQLDatabase } from "drizzle-orm/libsql";
import { migrate } from "drizzle-orm/libsql/migrator";
import { drizzle } from "drizzle-orm/libsql/sqlite3";
import { connect, copyBefore } from "./copying.ts";
import { problemOfDatabase } from "./faults.ts";
import { databaseFile, layoutOf, lookAt, MIGRATIONS, newestLayout } from "./look.ts";
import { databaseGone, placeHeld } from "./place.ts";
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
  /** Does in its turn among the changes what another process changes, so that none made here has to wait for a lock of the file. */
  alone<T>(work: () => Promise<T>): Promise<T>;
  /** How often that was done: nobody here knows what it changed. */
  changesApart(): number;
  /** What the coming change made when the same request, known by its key, was served before; undefined where it was not. */
  madeBefore<T>(): Promise<T | undefined>;
  /** How many changes were made since it was opened: while this stays, what was read of it holds. */
  changes(): number;
  now(): string;
  newId(): string;
  file: string;
  /** Whether the file that is open still stands under its name. */
  isThere(): boolean;
  close(): Promise<void>;
}

export interface StoreOptions {
  clock?: () => Date;
  /** Works out anew, before a change is committed, what is derived from what it changed. @returns names of that */
  derive?: (tx: Transaction) => Promise<readonly string[]>;
  /** Told of these names once the change is committed. */
  onDerived?: (names: readonly string[]) => void;
}

/**
 * Opens or makes a database and brings it up to this version; a copy is taken before an existing one is changed.
 * @throws Problem `not-a-file`, `not-ours`, `newer-database`, `not-a-database`, `damaged-database`, `disk-full`, `database-locked`
 */
export async function openStore(
  name: string,
  { clock = () => new Date(), derive = () => Promise.resolve([]), onDerived }: StoreOptions = {},
): Promise<Store> {
  const file = databaseFile(name);
  await lookAt(file);
  mkdirSync(dirname(file), { recursive: true });
  const client = connect(file);
  try {
    await bringUpToDate(client, file, clock());
  } catch (error) {
    client.close();
    throw problemOfDatabase(error, file) ?? error;
  }
  const db = drizzle(client, { schema, casing: "snake_case" });
  const { isThere } = placeHeld(file);
  let changes = 0;
  let apart = 0;
  let last: Promise<unknown> = Promise.resolve();
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const turn = last.then(work).finally(() => changes++);
    last = turn.catch(() => undefined);
    return turn;
  };
  return {
    db,
    client,
    file,
    isThere,
    changes: () => changes,
    now: () => clock().toISOString(),
    newId: () => randomUUID(),
    async madeBefore<T>() {
      const name = nameOfChange();
      return name === undefined ? undefined : ((await madeUnder(db, name))?.made as T | undefined);
    },
    write<T>(change: (tx: Transaction) => Promise<T>) {
      const name = nameOfChange();
      beginChange();
      return inTurn(async () => {
        let cause: unknown;
        let derived: readonly string[] = [];
        try {
          const done = await db.transaction(async (tx) => {
            try {
              const before = name && (await madeUnder(tx, name));
              if (before) return before.made as T;
              const made = await change(tx);
              derived = await derive(tx);
              if (name) await keepMade(tx, name, made, clock());
              return made;
            } catch (error) {
              cause = error;
              throw error;
            }
          });
          onDerived?.(derived);
          // What went into a file that nobody will open again is not saved.
          if (!isThere()) throw databaseGone(file);
          return done;
        } catch (error) {
          // A full disk rolls back by itself; the fault that follows from that would hide it.
          const first = cause ?? error;
          throw problemOfDatabase(first, "database") ?? first;
        }
      });
    },
    alone: (work) => inTurn(work).finally(() => apart++),
    changesApart: () => apart,
    async close() {
      await last;
      client.close();
    },
  };
}

const KEPT_MS = 24 * 3600 * 1000;
const KEPT_ANYWAY = 500;

async function madeUnder(reader: Reader, name: string): Promise<{ made: unknown } | undefined> {
  const [found] = await reader
    .select({ made: schema.changesMade.made })
    .from(schema.changesMade)
    .where(eq(schema.changesMade.name, name));
  return found;
}

async function keepMade(tx: Transaction, name: string, made: unknown, now: Date): Promise<void> {
  const { changesMade } = schema;
  // The newest stay whatever the clock says: one that leaps ahead must not let a change be made twice.
  const newest = tx.select({ name: changesMade.name }).from(changesMade).orderBy(desc(sql`rowid`)).limit(KEPT_ANYWAY);
  await tx
    .delete(changesMade)
    .where(
      and(lt(changesMade.at, new Date(now.getTime() - KEPT_MS).toISOString()), notInArray(changesMade.name, newest)),
    );
  await tx.insert(changesMade).values({ name, made, at: now.toISOString() });
}

async function bringUpToDate(client: Client, file: string, now: Date): Promise<void> {
  const layout = await layoutOf(client, file);
  await client.execute("PRAGMA journal_mode = WAL");
  if (layout === newestLayout()) return;
  if (layout !== undefined) await copyBefore(file, layout, now);
  await migrate(drizzle(client), { migrationsFolder: MIGRATIONS });
}
