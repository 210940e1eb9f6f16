import { Problem, type ProblemDetail } from "#core";

type Fault = Omit<ProblemDetail, "where">;

const FULL: Fault = {
  code: "disk-full",
  what: "The disk is full; nothing was changed.",
  remedy: "Free some space, then save again: what you typed is still in the page.",
};
const NOT_WRITABLE: Fault = {
  code: "not-writable",
  what: "The database can't be written.",
  remedy: "Check the folder's permissions, and that its disk is not mounted for reading only.",
};
const DAMAGED: Fault = {
  code: "damaged-database",
  what: "The database is damaged.",
  remedy: "Restore the last backup with `algidus restore`.",
};
const HELD: Fault = {
  code: "database-locked",
  what: "Another program holds the database.",
  remedy: "Close the other one and try again.",
};

/** What a code of SQLite (its extended ones begin with the primary one) or of the file system says. */
const FAULTS: ReadonlyArray<readonly [code: string, fault: Fault]> = [
  ["SQLITE_FULL", FULL],
  ["ENOSPC", FULL],
  ["EDQUOT", FULL],
  [
    "SQLITE_NOTADB",
    {
      code: "not-a-database",
      what: "This file is not a database.",
      remedy: "Name another file with ALGIDUS_DB, or restore a backup.",
    },
  ],
  ["SQLITE_CORRUPT", DAMAGED],
  ["SQLITE_BUSY", HELD],
  ["SQLITE_LOCKED", HELD],
  ["SQLITE_READONLY", NOT_WRITABLE],
  ["SQLITE_CANTOPEN", NOT_WRITABLE],
  ["EACCES", NOT_WRITABLE],
  ["EPERM", NOT_WRITABLE],
  ["EROFS", NOT_WRITABLE],
  [
    "SQLITE_CONSTRAINT_UNIQUE",
    { code: "already-there", what: "Something of this name is there already.", remedy: "Choose another name." },
  ],
  [
    "SQLITE_CONSTRAINT_FOREIGNKEY",
    {
      code: "not-there",
      what: "This names something that is not here.",
      remedy: "Load the page again, and choose among what is there.",
    },
  ],
];
/** What says itself where it is: in what was sent. */
const OF_INPUT = ["already-there", "not-there"];

const isOf = (code: string, known: string): boolean => code === known || code.startsWith(`${known}_`);

/**
 * Turns a fault of the database or its disk into words for people; undefined when it is none of theirs. Told by codes along the chain of causes,
 * never by what a message says: other parts have words of their own for what is malformed or full. SQL never gets out.
 */
export function problemOfDatabase(error: unknown, where: string): Problem | undefined {
  if (error instanceof Problem) return error;
  const codes: string[] = [];
  for (let at: unknown = error; at instanceof Error; at = at.cause)
    for (const key of ["extendedCode", "code"] as const) {
      const code: unknown = key in at ? (at as { code?: unknown; extendedCode?: unknown })[key] : undefined;
      if (typeof code === "string") codes.push(code);
    }
  const found = FAULTS.find(([known]) => codes.some((code) => isOf(code, known)))?.[1];
  if (!found) return undefined;
  return new Problem(OF_INPUT.includes(found.code) ? found : { ...found, where });
}
