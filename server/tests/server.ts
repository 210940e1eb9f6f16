/** A server on a free port over a fresh database, for tests. */
import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Card, EMPTY_CARD, type Run, type RunInput, UNTOLD } from "#contract";
import { logText, MIDSIZE, type RunSpec, simulate } from "#core/virtualcard/index.ts";
import { openStore } from "../db/open.ts";
import { type Running, type StartOptions, startServer } from "../start.ts";

export interface TestServer {
  running: Running;
  folder: string;
  database: string;
  /** Sends JSON (or a form) and reads JSON, with the status beside it. */
  ask<T>(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ status: number; body: T; headers: Headers }>;
  close(): Promise<void>;
}

/** An empty database of this version, made once for all test files of a process. */
let template: Promise<string> | undefined;

async function makeTemplate(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), "algidus-template-"));
  const file = join(folder, "empty.db");
  await (await openStore(file)).close();
  process.once("exit", () => rmSync(folder, { recursive: true, force: true }));
  return file;
}

export async function openTestServer(options: Partial<StartOptions> = {}): Promise<TestServer> {
  const folder = mkdtempSync(join(tmpdir(), "algidus-test-"));
  const database = options.database ?? join(folder, "test.db");
  template ??= makeTemplate();
  if (!options.database) copyFileSync(await template, database);
  const running = await startServer({ host: "127.0.0.1", port: 0, ...options, database });
  return {
    running,
    folder,
    database,
    async ask(method, path, body, headers = {}) {
      const form = body instanceof FormData;
      const answer = await fetch(new URL(path, running.address), {
        method,
        headers: { ...(body === undefined || form ? {} : { "Content-Type": "application/json" }), ...headers },
        ...(body === undefined ? {} : { body: form ? body : JSON.stringify(body) }),
      });
      const text = await answer.text();
      return {
        status: answer.status,
        body: (text.startsWith("{") || text.startsWith("[") ? JSON.parse(text) : text) as never,
        headers: answer.headers,
      };
    },
    async close() {
      await running.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Looks again and again until it is so. @throws Error with what was seen last, after two minutes */
export async function until<T>(look: () => T | Promise<T>, isSo: (found: T) => boolean): Promise<T> {
  for (const end = Date.now() + 120_000; ; ) {
    const found = await look();
    if (isSo(found)) return found;
    if (Date.now() > end) throw new Error(`It never was so; the last was ${JSON.stringify(found).slice(0, 400)}`);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

export const CARD = {
  ...EMPTY_CARD,
  maker: "Ostrel",
  model: "Fjell 70",
  serial: "Ø-17/“x” ' OR 1=1;--",
  newBoardModel: "OF-70",
};

export const RUN: RunInput = {
  ...UNTOLD,
  side: "before",
  name: "Fixed fan",
  fanMode: "fixed",
  fanPct: 62,
  loadName: "loop",
  sidePanel: "open bench",
  clocks: "stock",
  powerLimitPct: 100,
  picture: "works",
  ambientC: null,
  ambientU95K: null,
  intervalS: null,
  mapping: [],
  window: null,
};

export function testLog(more: Partial<RunSpec> = {}): string {
  const steps = [
    { durationS: 40, load: 0 },
    { durationS: 1000, load: 1 },
  ];
  return logText(simulate({ seed: 1, build: MIDSIZE, steps, ...more }));
}

export function runForm(log: string | Uint8Array<ArrayBuffer>, run: RunInput = RUN, name = "run.csv"): FormData {
  const form = new FormData();
  form.append("run", JSON.stringify(run));
  form.append("log", new Blob([log]), name);
  return form;
}

export async function takeIn(server: TestServer): Promise<Card> {
  return (await server.ask<Card>("POST", "/api/cards", CARD)).body;
}

export async function dropRun(
  server: TestServer,
  card: Card,
  more: Partial<RunSpec> = {},
  run: Partial<RunInput> = {},
): Promise<Run> {
  return (
    await server.ask<Run>("POST", `/api/services/${card.serviceId}/runs`, runForm(testLog(more), { ...RUN, ...run }))
  ).body;
}
