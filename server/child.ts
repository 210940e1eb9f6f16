import { type ChildProcess, fork } from "node:child_process";
import { existsSync } from "node:fs";
import { join } from "node:path";
import { root } from "./root.ts";

/** Starts one of the bundle's entries in a process of its own; from its source where there is no bundle. */
export function forkOwn(bundled: string, source: string): ChildProcess {
  const bundle = join(root, "dist", "node", `${bundled}.mjs`);
  const isBundled = existsSync(bundle);
  return fork(isBundled ? bundle : join(root, source), [], {
    execArgv: isBundled ? [] : ["--import", "tsx"],
    serialization: "advanced",
    stdio: ["ignore", "ignore", "inherit", "ipc"],
  });
}
