/** A server in a process of its own, for tests that kill it. */
import { type ChildProcess, spawn } from "node:child_process";

export interface Served {
  child: ChildProcess;
  address: string;
}

/** @throws Error where it ends before it answers */
export function serve(database: string): Promise<Served> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ["bin/algidus", "serve"], {
      env: { ...process.env, ALGIDUS_DB: database, ALGIDUS_PORT: "0" },
      stdio: ["ignore", "pipe", "ignore"],
    });
    child.stdout.on("data", (data: Buffer) => {
      const address = /http:\S+/.exec(data.toString())?.[0];
      if (address) resolve({ child, address });
    });
    child.once("exit", (code, signal) =>
      reject(new Error(`The server ended with ${code ?? signal} before it answered.`)),
    );
  });
}
