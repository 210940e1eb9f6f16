/** Fills the demo once before all browser tests; each that needs it gets a copy. */
import { spawn } from "node:child_process";
import { copyFileSync, existsSync, mkdirSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("../..", import.meta.url));
const DEMO_FILE = join(root, "test-results", "demo", "demo.db");

export function copyDemo(to: string): void {
  for (const end of ["", "-wal"]) if (existsSync(DEMO_FILE + end)) copyFileSync(DEMO_FILE + end, to + end);
}

export default async function fillDemo(): Promise<void> {
  rmSync(dirname(DEMO_FILE), { recursive: true, force: true });
  mkdirSync(dirname(DEMO_FILE), { recursive: true });
  const child = spawn(process.execPath, ["bin/algidus", "demo"], {
    cwd: root,
    env: { ...process.env, ALGIDUS_DB: DEMO_FILE, ALGIDUS_PORT: "0" },
    stdio: ["ignore", "pipe", "inherit"],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout.on("data", (data: Buffer) => {
      if (/http:/.test(data.toString())) resolve();
    });
    child.once("exit", () => reject(new Error("The demo ended before it answered.")));
  });
  const gone = new Promise((resolve) => child.once("exit", resolve));
  // Closed in order, so that all of it stands in the one file.
  child.kill("SIGTERM");
  await gone;
}
