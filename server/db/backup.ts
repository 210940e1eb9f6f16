import { copyFileSync, existsSync, mkdirSync, renameSync, rmSync } from "node:fs";
import { dirname } from "node:path";
import { Problem } from "#core";
import { writeCopy } from "./copying.ts";
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
export async function backupDatabase(name: string, target: string): Promise<void> {
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
  await writeCopy(file, target);
}

/**
 * Puts a backup in the place of a database after checking that it is sound; what was there is kept beside it.
 * @returns the name under which the old database was kept, if there was one
 * @throws Problem `database-in-use` while a server works on it, `damaged-backup`, `no-file`, and those of `openStore`
 */
export async function restoreDatabase(backup: string, name: string): Promise<string | undefined> {
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

async function putInPlace(backup: string, file: string): Promise<string | undefined> {
  const fresh = `${file}.restoring`;
  rmSync(fresh, { force: true });
  copyFileSync(backup, fresh);
  try {
    const store = await openStore(fresh);
    const check = await store.client.execute("PRAGMA integrity_check");
    await store.client.execute("PRAGMA wal_checkpoint(TRUNCATE)");
    await store.close();
    if (String(check.rows[0]?.integrity_check) !== "ok")
      throw new Problem({
        code: "damaged-backup",
        what: "The backup is damaged.",
        where: backup,
        remedy: "Use an earlier one.",
      });
  } catch (error) {
    for (const end of ["", "-wal", "-shm"]) rmSync(fresh + end, { force: true });
    throw error;
  }
  let kept: string | undefined;
  if (existsSync(file)) {
    kept = `${file}.replaced-${new Date().toISOString().replace(/[:.]/g, "-")}`;
    for (const end of ["", "-wal", "-shm"]) if (existsSync(file + end)) renameSync(file + end, kept + end);
  }
  for (const end of ["-wal", "-shm"]) rmSync(fresh + end, { force: true });
  renameSync(fresh, file);
  return kept;
}
