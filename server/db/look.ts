import { existsSync, readFileSync, statSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { type Client, createClient } from "@libsql/client/sqlite3";
import { Problem } from "#core";
import { root } from "../root.ts";
import { problemOfDatabase } from "./faults.ts";

export const MIGRATIONS = join(root, "server", "db", "migrations");

/** Time of the newest change of the layout that this version knows, ms. */
export function newestLayout(): number {
  const journal = JSON.parse(readFileSync(join(MIGRATIONS, "meta", "_journal.json"), "utf8")) as {
    entries: Array<{ when: number }>;
  };
  return Math.max(...journal.entries.map((entry) => entry.when));
}

/** The file a database is in. @throws Problem `not-a-file` for the address of a server */
export function databaseFile(name: string): string {
  if (/^[a-z][a-z0-9+.-]+:\/\//i.test(name) && !name.startsWith("file:"))
    throw new Problem({
      code: "not-a-file",
      what: "A database is a file on this machine, not an address.",
      where: name.replace(/\/\/.*@/, "//"),
      remedy: "Name a file with ALGIDUS_DB; docs/scale.md says how a larger shop grows.",
    });
  return name.startsWith("file:") ? name.slice(5) : name;
}

export const fileUrl = (file: string): string => pathToFileURL(file).href.replace("file:///", "file:/");

/** Opens a file without the right or the means to change it, its log of changes left aside: nothing is made beside it either. */
function openUntouched(file: string): Client {
  return createClient({ url: `file:${encodeURIComponent(`${pathToFileURL(file).href}?immutable=1`)}` });
}

/**
 * What is there under the name of a database, found without touching it. By SQLite alone: whoever else opens and closes the file lets go of
 * all locks that this process has on it, and another process takes away the log of changes that is written to here (source: “How To Corrupt
 * An SQLite Database File”, section 2.2, from memory).
 * @returns time of its newest change of layout, ms; undefined where nothing is there yet
 * @throws Problem `not-a-database`, `not-ours`, `newer-database`, `damaged-database`
 */
export async function lookAt(file: string): Promise<number | undefined> {
  if (!existsSync(file) || (statSync(file).isFile() && statSync(file).size === 0)) return undefined;
  if (!statSync(file).isFile())
    throw new Problem({
      code: "not-a-database",
      what: "This is a folder, not a database.",
      where: file,
      remedy: "Name a file in it with ALGIDUS_DB, such as algidus.db.",
    });
  try {
    const client = openUntouched(file);
    try {
      return await layoutOf(client, file);
    } finally {
      client.close();
    }
  } catch (error) {
    throw problemOfDatabase(error, file) ?? error;
  }
}

/** Time of the newest change of a database's layout; undefined in an empty one. @throws Problem `not-ours`, `newer-database` */
export async function layoutOf(client: Client, file: string): Promise<number | undefined> {
  const tables = await client.execute("SELECT name FROM sqlite_master WHERE type = 'table'");
  if (tables.rows.length === 0) return undefined;
  if (!tables.rows.some((row) => row.name === "__drizzle_migrations"))
    throw new Problem({
      code: "not-ours",
      what: "This database was not made by this application.",
      where: file,
      remedy: "Name another file with ALGIDUS_DB.",
    });
  const applied = await client.execute("SELECT max(created_at) AS newest FROM __drizzle_migrations");
  const have = Number(applied.rows[0]?.newest ?? 0);
  if (have > newestLayout())
    throw new Problem({
      code: "newer-database",
      what: "This database was written by a newer version.",
      where: file,
      remedy: "Update this application, or restore the copy that was taken before the change.",
    });
  return have;
}
