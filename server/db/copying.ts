import { closeSync, existsSync, fsyncSync, openSync, renameSync, rmSync, statSync } from "node:fs";
import { dirname } from "node:path";
import { type Client, createClient } from "@libsql/client/sqlite3";
import type { CopyHeld } from "#contract";
import { Problem } from "#core";
import { problemOfDatabase } from "./faults.ts";
import { badPages, brokenTexts } from "./inspect.ts";
import { fileUrl } from "./look.ts";
import { readStored } from "./stored.ts";

/** Rows of every table, by its name. */
type Counts = Record<string, number>;

/** So long a change waits for one of another process, such as a backup. */
const BUSY_MS = 5000;
export function connect(file: string): Client {
  try {
    return createClient({ url: fileUrl(file), intMode: "number", timeout: BUSY_MS });
  } catch (error) {
    // The driver gives this one fault no code.
    throw Object.assign(new Error("The database could not be opened.", { cause: error }), { code: "SQLITE_CANTOPEN" });
  }
}

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

/** How far a copy is looked at: its pages and rows; or also every text in it and every stored log and photo. */
type Look = "pages" | "whole";

/** Opens a copy and reads it back. @throws Problem `damaged-backup`, `damaged-database` where texts in it are none */
async function verifyCopy(copy: string, expected: Counts | undefined, look: Look): Promise<CopyHeld> {
  const client = connect(copy);
  try {
    const pages = await badPages(client, "integrity_check");
    if (pages.length > 0) throw damagedCopy("The copy is damaged.", copy);
    const counts = await countsOf(client);
    const differing = Object.keys(expected ?? {}).filter((table) => expected?.[table] !== counts[table]);
    if (Object.keys(counts).length === 0 || differing.length > 0)
      throw damagedCopy(`The copy lacks rows of ${differing.join(", ") || "every table"}.`, copy);
    const rows = Object.values(counts).reduce((sum, count) => sum + count, 0);
    if (look === "pages" || counts.blobs === undefined) return { rows, stored: 0, unreadable: 0 };
    return { rows, ...(await verifyContent(client)) };
  } finally {
    client.close();
  }
}

/** What a database holds, read in full. @throws Problem `damaged-database` where texts in it are none */
export async function verifyContent(client: Client): Promise<Pick<CopyHeld, "stored" | "unreadable">> {
  const texts = await brokenTexts(client);
  if (texts.length > 0)
    throw new Problem({
      code: "damaged-database",
      what: `The database is damaged: ${texts.length} of its texts can’t be read, in ${[...new Set(texts.map(({ table }) => table))].join(", ")}. A copy of it would stand beside the good ones.`,
      remedy: "Mend it with `algidus check --repair`, or restore the last good backup.",
    });
  const { read, unreadable } = await readStored(client);
  return { stored: read, unreadable: unreadable.length };
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
 * Writes a consistent copy of a database, also while a server writes to it: under another name first, which is opened, read back (all pages,
 * as many rows as there, every text, every stored log and photo by its hash) and only then renamed. Readable by its owner only.
 * @param look `pages` where a damaged database has to be kept as it is
 * @throws Problem `damaged-backup`, `damaged-database`, and those of the database
 */
export async function writeCopy(from: string, to: string, look: Look = "whole"): Promise<CopyHeld> {
  const part = `${to}.part`;
  let held: CopyHeld;
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
      held = await verifyCopy(part, mark === (await changeMark(client)) ? counts : undefined, look);
    } finally {
      client.close();
    }
    toDisk(part);
    renameSync(part, to);
    toDisk(dirname(to));
    return held;
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
  await writeCopy(file, copy, "pages");
}

/** When a database was last written to, ms. */
export const changedAt = (file: string): number =>
  Math.max(...[file, `${file}-wal`].filter(existsSync).map((path) => statSync(path).mtimeMs));

async function isSound(copy: string): Promise<boolean> {
  try {
    await verifyCopy(copy, undefined, "pages");
    return true;
  } catch {
    return false;
  }
}
