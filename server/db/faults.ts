import { Problem } from "#core";

/** Turns what a database says into words for people; undefined when it is none of its faults. SQL never gets out. */
export function problemOfDatabase(error: unknown, where: string): Problem | undefined {
  if (error instanceof Problem) return error;
  const texts: string[] = [];
  for (let at: unknown = error; at instanceof Error; at = at.cause)
    texts.push(`${"code" in at ? String(at.code) : ""} ${at.message}`);
  const text = texts.join(" ");
  if (/SQLITE_FULL|database or disk is full|ENOSPC/i.test(text))
    return new Problem({
      code: "disk-full",
      what: "The disk is full; nothing was changed.",
      where,
      remedy: "Free some space, then save again: what you typed is still in the page.",
    });
  if (/SQLITE_NOTADB|file is not a database/i.test(text))
    return new Problem({
      code: "not-a-database",
      what: "This file is not a database.",
      where,
      remedy: "Name another file with ALGIDUS_DB, or restore a backup.",
    });
  if (/SQLITE_CORRUPT|malformed/i.test(text))
    return new Problem({
      code: "damaged-database",
      what: "The database is damaged.",
      where,
      remedy: "Restore the last backup with `algidus restore`.",
    });
  if (/SQLITE_BUSY|SQLITE_LOCKED/i.test(text))
    return new Problem({
      code: "database-locked",
      what: "Another program holds the database.",
      where,
      remedy: "Close the other one and try again.",
    });
  if (/SQLITE_READONLY|SQLITE_CANTOPEN|EACCES/i.test(text))
    return new Problem({
      code: "not-writable",
      what: "The database can't be written.",
      where,
      remedy: "Check the folder's permissions.",
    });
  if (/UNIQUE constraint/i.test(text))
    return new Problem({
      code: "already-there",
      what: "Something of this name is there already.",
      remedy: "Choose another name.",
    });
  return undefined;
}
