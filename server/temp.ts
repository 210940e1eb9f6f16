import { randomUUID } from "node:crypto";
import { closeSync, mkdtempSync, openSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** What processes of this application call their folders for what a request needs for a moment. */
const NAME = "algidus-temp-";
let folder: string | undefined;

/** A name for a file of a moment, in a folder that only this process's owner may open. */
export function tempPath(end = ""): string {
  if (!folder) {
    const made = mkdtempSync(join(tmpdir(), `${NAME}${process.pid}-`));
    process.once("exit", () => rmSync(made, { recursive: true, force: true }));
    folder = made;
  }
  return join(folder, `${randomUUID()}${end}`);
}

/** The same, the file being there already, empty and readable by its owner only. */
export function tempFile(end = ""): string {
  const path = tempPath(end);
  closeSync(openSync(path, "wx", 0o600));
  return path;
}

/** Takes away what processes that are no more have left behind. */
export function sweepTemp(): void {
  for (const name of readdirSync(tmpdir())) {
    const pid = new RegExp(`^${NAME}(\\d+)-`).exec(name)?.[1];
    if (pid && !isAlive(Number(pid))) rmSync(join(tmpdir(), name), { recursive: true, force: true });
  }
}

/** Whether there is a process of this number, somebody else's included. */
export function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error instanceof Error && "code" in error && error.code === "EPERM";
  }
}
