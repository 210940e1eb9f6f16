/** A server in a process of its own, to be killed, loaded and watched. */
import { type ChildProcess, spawn } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { fileURLToPath } from "node:url";

export interface Server {
  child: ChildProcess;
  address: string;
  /** Resident memory, MB. */
  memoryMb(): number;
  /** How long its event loop stood still since this was last asked, ms. */
  stoodStill(): Promise<{ maxMs: number; p99Ms: number }>;
  kill(): Promise<void>;
  stop(): Promise<void>;
  /** What it said on standard error. */
  said(): string;
}

const LOOP_DELAY = fileURLToPath(new URL("loop-delay.mjs", import.meta.url));

/** @throws Error with what it said where it does not start */
export async function serve(database: string, env: Record<string, string> = {}): Promise<Server> {
  const file = `${database}.loop-delay`;
  const child = spawn(process.execPath, ["--import", LOOP_DELAY, "bin/algidus", "serve"], {
    env: { ...process.env, ALGIDUS_DB: database, ALGIDUS_PORT: "0", LOOP_DELAY_FILE: file, ...env },
    stdio: ["ignore", "pipe", "pipe"],
  });
  const gone = new Promise<void>((resolve) => child.once("exit", () => resolve()));
  let said = "";
  child.stderr.on("data", (data: Buffer) => {
    said += data.toString();
  });
  const address = await new Promise<string>((resolve, reject) => {
    child.stdout.on("data", (data: Buffer) => {
      const found = /http:\S+/.exec(data.toString())?.[0];
      if (found) resolve(found);
    });
    child.once("exit", (code, signal) => reject(new Error(`ended with ${code ?? signal}: ${said}`)));
  });
  const end = async (signal: NodeJS.Signals): Promise<void> => {
    child.kill(signal);
    await gone;
  };
  return {
    child,
    address,
    memoryMb: () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, "utf8"))?.[1]) / 1024,
    async stoodStill() {
      rmSync(file, { force: true });
      child.kill("SIGUSR2");
      while (!existsSync(file)) await pause(10);
      await pause(20);
      return JSON.parse(readFileSync(file, "utf8")) as { maxMs: number; p99Ms: number };
    },
    kill: () => end("SIGKILL"),
    stop: () => end("SIGTERM"),
    said: () => said,
  };
}

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
