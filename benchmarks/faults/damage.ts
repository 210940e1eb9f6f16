/** Databases with flipped bytes, a full disk, and whole-database reads while others are served. */

import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Keeping } from "#contract";
import { seeded } from "#core/random/index.ts";
import { connect } from "#server/db/copying.ts";
import { CARD, openTestServer } from "#server/tests/server.ts";
import { makeShop } from "../make-shop.ts";
import { pause, serve } from "./server.ts";

const DATABASES = 30;

const PATHS = ["api/bench?limit=100", "api/boards", "api/stores", "api/export/runs.csv", "api/export.json"];

type Outcome =
  | "refused to start, in words"
  | "answers all, and says it is damaged"
  | "answers all"
  | "ended, in words"
  | "silent";

async function outcomeOf(database: string): Promise<Outcome> {
  const server = await serve(database).catch((error: unknown) => String(error));
  if (typeof server === "string") return server.includes("algidus:") ? "refused to start, in words" : "silent";
  const { child, address } = server;
  const isOver = (): boolean => child.exitCode !== null || child.signalCode !== null;
  const ask = (path: string) =>
    fetch(new URL(path, address), { signal: AbortSignal.timeout(20_000) })
      .then(async (answer) => void (await answer.arrayBuffer()))
      // Broken off in the middle is an answer too: whoever asked knows.
      .catch((error: unknown) => error instanceof Error && error.name === "TimeoutError");
  let unanswered = 0;
  for (const path of PATHS) if ((await ask(path)) === true) unanswered++;
  const look = async (): Promise<Keeping["soundness"]["state"]> =>
    ((await (await fetch(new URL("api/backups", address))).json()) as Keeping).soundness.state;
  let state = await look().catch(() => "waiting" as const);
  while (!isOver() && /waiting|running/.test(state)) {
    await pause(200);
    state = await look().catch(() => "waiting" as const);
  }
  if (isOver()) {
    await pause(500);
    return server.said().includes("last good backup") ? "ended, in words" : "silent";
  }
  await server.kill();
  if (unanswered > 0) return "silent";
  return state === "damaged" ? "answers all, and says it is damaged" : "answers all";
}

async function flipped(folder: string): Promise<void> {
  const whole = join(folder, "whole.db");
  await makeShop(whole, 60);
  const client = connect(whole);
  await client.execute("PRAGMA wal_checkpoint(TRUNCATE)");
  client.close();
  const bytes = readFileSync(whole);
  const random = seeded(11);
  const files = Array.from({ length: DATABASES }, (_, k) => {
    const damaged = Buffer.from(bytes);
    // A page, a dozen cells, or bits all over.
    const count = [4096, 12, 200][k % 3] ?? 12;
    const from = Math.floor(random.between(4096, damaged.length - 4096));
    for (let flip = 0; flip < count; flip++) {
      const at = k % 3 === 0 ? from + flip : Math.floor(random.between(100, damaged.length));
      damaged[at] = (damaged[at] ?? 0) ^ (1 << Math.floor(random.between(0, 8)));
    }
    const file = join(folder, `damaged-${k}.db`);
    writeFileSync(file, damaged);
    return file;
  });
  const outcomes = new Map<Outcome, number>();
  const lane = async (): Promise<void> => {
    for (let file = files.pop(); file; file = files.pop()) {
      const outcome = await outcomeOf(file);
      outcomes.set(outcome, (outcomes.get(outcome) ?? 0) + 1);
    }
  };
  await Promise.all([lane(), lane()]);
  console.log(
    `${DATABASES} databases with flipped bytes: ${[...outcomes].map(([outcome, times]) => `${times} ${outcome}`).join("; ")} (asked for: none silent)`,
  );
}

async function fullDisk(): Promise<void> {
  const server = await openTestServer();
  const { client } = server.running.context.store;
  await client.execute(
    `PRAGMA max_page_count = ${Number((await client.execute("PRAGMA page_count")).rows[0]?.page_count) + 2}`,
  );
  const answers = [];
  for (let k = 0; k < 200; k++) answers.push(await server.ask("POST", "/api/cards", { ...CARD, serial: String(k) }));
  const saved = answers.filter(({ status }) => status === 201).length;
  const rows = Number((await client.execute("SELECT count(*) AS n FROM cards")).rows[0]?.n);
  const others = answers.filter(({ status }) => status !== 201 && status !== 507).length;
  console.log(
    `full disk: ${saved} answered as saved, ${rows} there, ${200 - saved} told that it is full, ${others} told otherwise (asked for: none)`,
  );
  await server.close();
}

export async function damage(folder: string): Promise<void> {
  await flipped(folder);
  await fullDisk();
}
