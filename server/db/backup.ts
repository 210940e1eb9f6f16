import { copyFileSync, existsSync, linkSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import type { CopyHeld } from "#contract";
import { Problem } from "#core";
import { connect, toDisk, verifyContent, writeCopy } from "./copying.ts";
import { problemOfDatabase } from "./faults.ts";
import { badPages, brokenTexts } from "./inspect.ts";
import { holdDatabase } from "./lock.ts";
import { databaseFile, lookAt } from "./look.ts";
import { openStore } from "./open.ts";

/** @throws Problem `no-database` where a file is named that is not there */
export function needDatabase(name: string): void {
  const file = databaseFile(name);
  if (!existsSync(file))
    throw new Problem({
      code: "no-database",
      what: "There is no database yet.",
      where: file,
      remedy: "Check ALGIDUS_DB.",
    });
}

/**
 * Writes a consistent copy of a database, also while a server writes to it.
 * @throws Problem when the target exists or the database does not
 */
export async function backupDatabase(name: string, target: string): Promise<CopyHeld> {
  needDatabase(name);
  if (existsSync(target))
    throw new Problem({
      code: "file-exists",
      what: "This file exists already.",
      where: target,
      remedy: "Choose another name.",
    });
  const file = databaseFile(name);
  await lookAt(file);
  return writeCopy(file, target);
}

/**
 * Puts a backup in the place of a database after checking that it is sound; what was there is kept beside it.
 * @returns the name under which the old database was kept, if there was one, and what the backup holds
 * @throws Problem `database-in-use` while a server works on it, `damaged-backup`, `no-file`, and those of `openStore`
 */
export async function restoreDatabase(
  backup: string,
  name: string,
): Promise<Pick<CopyHeld, "stored" | "unreadable"> & { kept: string | undefined }> {
  const file = databaseFile(name);
  if (!existsSync(backup))
    throw new Problem({ code: "no-file", what: "There is no such backup.", where: backup, remedy: "Check the path." });
  mkdirSync(dirname(file), { recursive: true });
  const letGo = holdDatabase(file);
  try {
    return await putInPlace(backup, file);
  } finally {
    letGo();
  }
}

const damaged = (where: string, what: string): Problem =>
  new Problem({ code: "damaged-backup", what, where, remedy: "Use an earlier one." });

/** Whether there is more of a database than its file. */
const hasLog = (file: string): boolean => existsSync(`${file}-wal`) && statSync(`${file}-wal`).size > 0;

const LEFT_BESIDE = ["", "-wal", "-shm"] as const;

async function putInPlace(backup: string, file: string): ReturnType<typeof restoreDatabase> {
  const fresh = `${file}.restoring`;
  const removeFresh = (): void => {
    for (const end of LEFT_BESIDE) rmSync(fresh + end, { force: true });
  };
  removeFresh();
  let held: Pick<CopyHeld, "stored" | "unreadable">;
  try {
    if ((await lookAt(backup)) === undefined) throw damaged(backup, "The backup holds nothing.");
    // What was not yet taken over into the file stands beside it.
    if (hasLog(backup)) await writeCopy(backup, fresh, "pages");
    else copyFileSync(backup, fresh);
    const store = await openStore(fresh);
    try {
      if ((await badPages(store.client, "integrity_check")).length > 0) throw damaged(backup, "The backup is damaged.");
      if ((await brokenTexts(store.client)).length > 0)
        throw damaged(backup, "The backup is damaged: some of its texts can’t be read.");
      held = await verifyContent(store.client);
      await store.client.execute("PRAGMA wal_checkpoint(TRUNCATE)");
    } finally {
      await store.close();
    }
    toDisk(fresh);
  } catch (error) {
    removeFresh();
    throw problemOfDatabase(error, backup) ?? error;
  }
  // Where the backup was of an earlier version, the copy taken before it was changed is the backup itself.
  for (const name of readdirSync(dirname(file)))
    if (name.startsWith(`${basename(fresh)}.before-`)) rmSync(join(dirname(file), name));
  const kept = existsSync(file) ? `${file}.replaced-${new Date().toISOString().replace(/[:.]/g, "-")}` : undefined;
  if (kept) await setAside(file, kept);
  for (const end of ["-wal", "-shm"]) rmSync(fresh + end, { force: true });
  renameSync(fresh, file);
  toDisk(dirname(file));
  return { kept, ...held };
}

/** Keeps a database under another name; where it can be read, its own name leads to a whole database at every moment. */
async function setAside(file: string, kept: string): Promise<void> {
  try {
    const client = connect(file);
    await client.execute("PRAGMA wal_checkpoint(TRUNCATE)").finally(() => client.close());
    if (hasLog(file)) throw new Error("The log of changes is still needed.");
    linkSync(file, kept);
    for (const end of ["-wal", "-shm"]) rmSync(file + end, { force: true });
  } catch {
    for (const end of LEFT_BESIDE) if (existsSync(file + end)) renameSync(file + end, kept + end);
  }
}
