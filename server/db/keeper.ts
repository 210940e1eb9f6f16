import type { ChildProcess } from "node:child_process";
import type { CopyHeld, ImportReport } from "#contract";
import { Problem, type ProblemDetail } from "#core";
import { forkOwn } from "../child.ts";
import { removePart } from "./copying.ts";
import type { Inspection } from "./inspect.ts";

/** What is asked of another process (`keeper-process.ts`), about the database in `file`. */
export type KeeperOrder =
  | { kind: "copy"; file: string; to: string }
  | { kind: "export"; file: string; to: string }
  | { kind: "stage"; file: string; from: string; to: string }
  | { kind: "add-staged"; file: string; from: string }
  | { kind: "inspect"; file: string; how: "quick_check" | "integrity_check" };
export type KeeperAnswer = { done: unknown } | { problem: ProblemDetail } | { fault: string };

/** So long the largest database may take; a disk that hangs must not hold a request for ever. */
const LONGEST_MS = 15 * 60_000;
/** One that has ended its order waits so long for the next: to start one takes longer than most orders do. */
const IDLE_MS = 10_000;

let waiting: { child: ChildProcess; timer: NodeJS.Timeout } | undefined;

/** A process that takes an order: the one that waits, or a new one. */
function takeKeeper(): ChildProcess {
  const child = waiting?.child;
  clearTimeout(waiting?.timer);
  waiting = undefined;
  if (!child?.connected) return forkOwn("keeper", "server/keeper-process.ts");
  child.ref();
  child.channel?.ref();
  return child;
}

/** Lets it wait for another order. It holds nobody up who is ending. */
function letWait(child: ChildProcess): void {
  if (waiting || !child.connected) {
    child.kill();
    return;
  }
  child.unref();
  child.channel?.unref();
  const timer = setTimeout(() => {
    waiting = undefined;
    child.kill();
  }, IDLE_MS);
  timer.unref();
  waiting = { child, timer };
}

function ask(order: KeeperOrder, stop: AbortSignal | undefined): Promise<unknown> {
  return new Promise((resolve, reject) => {
    if (stop?.aborted) return reject(stopped());
    const child = takeKeeper();
    let isEnded = false;
    const end = (): void => {
      isEnded = true;
      child.kill("SIGKILL");
    };
    const timer = setTimeout(end, LONGEST_MS);
    stop?.addEventListener("abort", end, { once: true });
    const done = (): void => {
      clearTimeout(timer);
      stop?.removeEventListener("abort", end);
      child.removeAllListeners();
    };
    child.once("error", (error) => {
      done();
      child.kill("SIGKILL");
      reject(error);
    });
    child.once("exit", (_code, signal) => {
      done();
      reject(isEnded ? stopped() : endedBy(signal));
    });
    child.once("message", (answer: KeeperAnswer) => {
      done();
      letWait(child);
      if ("problem" in answer) reject(new Problem(answer.problem));
      else if ("fault" in answer) reject(new Error(answer.fault));
      else resolve(answer.done);
    });
    child.send(order);
  });
}

const stopped = (): Problem =>
  new Problem({ code: "stopped", what: "Reading the whole database was stopped.", remedy: "Try again." });

/** SIGABRT: the database's own library gave up on what it read. */
const endedBy = (signal: NodeJS.Signals | null): Error =>
  signal === "SIGABRT" || signal === "SIGSEGV"
    ? new Problem({
        code: "damaged-database",
        what: "The database is damaged: reading it ended the process that did.",
        remedy: "Run `algidus check`, or restore the last backup with `algidus restore`.",
      })
    : new Error(`The process that reads whole databases ended with ${signal ?? "no answer"}.`);

/** Writes a verified copy (`writeCopy`) in another process. */
export async function copyApart(file: string, to: string, stop?: AbortSignal): Promise<CopyHeld> {
  try {
    return (await ask({ kind: "copy", file, to }, stop)) as CopyHeld;
  } catch (error) {
    // Where that process was ended, it could not do so itself.
    removePart(to);
    throw error;
  }
}

/** Writes the whole workshop as one document (`writeExport`) in another process. */
export async function exportApart(file: string, to: string, stop?: AbortSignal): Promise<void> {
  await ask({ kind: "export", file, to }, stop);
}

/** The first half of an import (`stage`) in another process. */
export async function stageApart(file: string, from: string, to: string, stop?: AbortSignal): Promise<void> {
  await ask({ kind: "stage", file, from, to }, stop);
}

/** Its second half (`addStaged`). No change may be made here meanwhile (`Store.alone`). */
export async function addStagedApart(file: string, from: string): Promise<ImportReport> {
  return (await ask({ kind: "add-staged", file, from }, undefined)) as ImportReport;
}

/** Reads a whole database (`inspect`) in another process. */
export async function inspectApart(
  file: string,
  how: "quick_check" | "integrity_check",
  stop?: AbortSignal,
): Promise<Inspection> {
  return (await ask({ kind: "inspect", file, how }, stop)) as Inspection;
}
