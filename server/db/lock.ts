import { constants, copyFileSync, linkSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { Problem } from "#core";
import { isAlive } from "../temp.ts";
import { problemOfDatabase } from "./faults.ts";
import { realPlace } from "./place.ts";

/** Who holds a database: a process, told from a later one of the same number by when it began. */
interface Holder {
  pid: number;
  /** Clock ticks after the machine's start, and which start that was; null where the system does not say (only Linux does). */
  began: string | null;
  since: string;
}

const codeOf = (error: unknown): unknown => (error instanceof Error && "code" in error ? error.code : undefined);

/** Whole or not at all, and by one of two only; where the file system has no links, by one of two at least. */
function put(from: string, lock: string): void {
  try {
    linkSync(from, lock);
  } catch (error) {
    if (codeOf(error) === "EEXIST") throw error;
    copyFileSync(from, lock, constants.COPYFILE_EXCL);
  }
}

function began(pid: number): string | null {
  try {
    const boot = readFileSync("/proc/sys/kernel/random/boot_id", "utf8").trim();
    // The name of a process may hold spaces and brackets; the twentieth figure behind it is its start (proc(5)).
    const stat = readFileSync(`/proc/${pid}/stat`, "utf8");
    return `${boot} ${stat.slice(stat.lastIndexOf(")") + 2).split(" ")[19]}`;
  } catch {
    return null;
  }
}

const isHeld = ({ pid, began: then }: Holder): boolean => isAlive(pid) && (then === null || then === began(pid));

function holderIn(file: string): Holder | undefined {
  try {
    const { pid, began: then, since } = JSON.parse(readFileSync(file, "utf8")) as Partial<Holder>;
    return typeof pid === "number" && typeof since === "string" ? { pid, began: then ?? null, since } : undefined;
  } catch {
    return undefined;
  }
}

/**
 * Holds a database for this process by a file beside it, `<file>.lock`; one that a killed process left is taken over.
 * @returns what lets it go
 * @throws Problem `database-in-use`, `linked-database`
 */
export function holdDatabase(name: string): () => void {
  const file = realPlace(name);
  const lock = `${file}.lock`;
  const own = `${lock}.${process.pid}-${Math.random().toString(36).slice(2)}`;
  const holder: Holder = { pid: process.pid, began: began(process.pid), since: new Date().toISOString() };
  try {
    writeFileSync(own, JSON.stringify(holder), { mode: 0o600 });
    for (let round = 0; round < 3; round++) {
      try {
        put(own, lock);
        return () => {
          if (holderIn(lock)?.pid === process.pid) rmSync(lock, { force: true });
        };
      } catch (error) {
        if (codeOf(error) !== "EEXIST") throw error;
      }
      const other = holderIn(lock);
      if (other && isHeld(other)) throw inUse(file, other);
      takeAway(lock, other);
    }
    throw inUse(file, holderIn(lock));
  } catch (error) {
    throw problemOfDatabase(error, file) ?? error;
  } finally {
    rmSync(own, { force: true });
  }
}

/** Takes a lock away that nobody holds, unless another process was faster and holds it by now. */
function takeAway(lock: string, stale: Holder | undefined): void {
  const aside = `${lock}.${process.pid}-stale`;
  try {
    renameSync(lock, aside);
    const taken = holderIn(aside);
    if (taken && taken.since !== stale?.since) put(aside, lock);
  } catch {
    // The other one was faster: the next round tells.
  }
  rmSync(aside, { force: true });
}

const inUse = (file: string, holder: Holder | undefined): Problem =>
  new Problem({
    code: "database-in-use",
    what: holder
      ? `Process ${holder.pid} has held this database since ${holder.since}.`
      : "Another process holds this database.",
    where: file,
    remedy: "Stop that one first, or name another file with ALGIDUS_DB.",
  });
