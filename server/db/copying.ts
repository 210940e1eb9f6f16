import { closeSync, existsSync, fsyncSync, openSync, renameSync, rmSync, statSync } from "node:fs";
import { dirname } from "node:path";
import { type Client, createClient } from "@libsql/client";
import { Problem } from "#core";
import { problemOfDatabase } from "./faults.ts";
import { fileUrl } from "./look.ts";

/** Rows of every table, by its name. */
type Counts = Record<string, number>;

/** So long a change waits for one of another process, such as a backup. */
const BUSY_MS = 5000;
export const connect = (file: string): Client =>
  createClient({ url: fileUrl(file), intMode: "number", timeout: BUSY_MS });

async function countsOf(client: Client): Promise<Counts> {
  const tables = await client.execute("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name");
  const counts: Counts = {};
  for (const { name } of tables.rows) {
    const quoted = `"${String(name).replaceAll('"', '""')}"`;
    counts[String(name)] = Number((await client.execute(`SELECT count(*) AS n FROM ${quoted}`)).rows[0]?.n);
  }
  return counts;
}

/** Changes when another connection changes the database. */
const changeMark = async (client: Client): Promise<unknown> =>
  (await client.execute("PRAGMA data_version")).rows[0]?.data_version;

const damagedCopy = (what: string, where: string): Problem =>
  new Problem({ code: "damaged-backup", what, where, remedy: "Check the disk, then try again." });

/** Opens a copy and reads all of its pages. @throws Problem `damaged-backup` */
async function verifyCopy(copy: string, expected: Counts | undefined): Promise<void> {
  const client = connect(copy);
  try {
    const check = await client.execute("PRAGMA integrity_check");
    if (String(check.rows[0]?.integrity_check) !== "ok") throw damagedCopy("The copy is damaged.", copy);
    const counts = await countsOf(client);
    const differing = Object.keys(expected ?? {}).filter((table) => expected?.[table] !== counts[table]);
    if (Object.keys(counts).length === 0 || differing.length > 0)
      throw damagedCopy(`The copy lacks rows of ${differing.join(", ") || "every table"}.`, copy);
  } finally {
    client.close();
  }
}

export function toDisk(path: string): void {
  const open = openSync(path, "r");
  try {
    fsyncSync(open);
  } finally {
    closeSync(open);
  }
}

/**
 * Writes a consistent copy of a database, also while a server writes to it: under another name first, which is opened, checked (all pages,
 * as many rows) and only then renamed, so that what bears the name is good. Readable by its owner only.
 * @throws Problem `damaged-backup`, and those of the database
 */
export async function writeCopy(from: string, to: string): Promise<void> {
  const part = `${to}.part`;
  try {
    removePart(to);
    // SQLite writes into an empty file that is there already, and leaves its rights as they are.
    closeSync(openSync(part, "wx", 0o600));
    const client = connect(from);
    try {
      const mark = await changeMark(client);
      const counts = await countsOf(client);
      await client.execute({ sql: "VACUUM INTO ?", args: [part] });
      // Where somebody wrote meanwhile, the copy may rightly hold more or less than was counted.
      await verifyCopy(part, mark === (await changeMark(client)) ? counts : undefined);
    } finally {
      client.close();
    }
    toDisk(part);
    renameSync(part, to);
    toDisk(dirname(to));
  } catch (error) {
    removePart(to);
    throw problemOfDatabase(error, to) ?? error;
  }
}

/** Takes away what a copy that did not come about left behind. */
export function removePart(to: string): void {
  for (const end of ["", "-journal", "-wal", "-shm"]) rmSync(`${to}.part${end}`, { force: true });
}

/** The copy that is taken before a database's layout changes; an older good one of that name is kept beside it. */
export async function copyBefore(file: string, layout: number, now: Date): Promise<void> {
  const copy = `${file}.before-${layout}.bak`;
  if (existsSync(copy) && (await isSound(copy))) {
    // It was taken of just this, and what followed did not come about.
    if (changedAt(copy) >= changedAt(file)) return;
    renameSync(copy, `${copy}.${now.toISOString().replace(/[:.]/g, "-")}`);
  }
  await writeCopy(file, copy);
}

/** When a database was last written to, ms. */
export const changedAt = (file: string): number =>
  Math.max(...[file, `${file}-wal`].filter(existsSync).map((path) => statSync(path).mtimeMs));

async function isSound(copy: string): Promise<boolean> {
  try {
    await verifyCopy(copy, undefined);
    return true;
  } catch {
    return false;
  }
}
