/** Databases with flipped bytes, and a full disk. */
import { execFileSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Keeping } from "#contract";
import { seeded } from "#core/random/index.ts";
import { connect } from "#server/db/copying.ts";
import { checkDatabase } from "#server/services/check.ts";
import { openContext } from "#server/start.ts";
import { CARD } from "#server/tests/server.ts";
import { makeShop } from "../make-shop.ts";
import { asked } from "./asked.ts";
import { pause, serve } from "./server.ts";

const DATABASES = 30;

const PATHS = ["api/bench?limit=100", "api/boards", "api/stores", "api/export/runs.csv", "api/export.json"];

type Outcome =
  | "refused to start, in words"
  | "answers all, and says it is damaged"
  | "told by the check"
  | "harmless: all is as it was"
  | "another letter or figure in a cell, which leaves no trace"
  | "ended, in words"
  | "silent";

/** @param whole what the undamaged one answers */
async function outcomeOf(database: string, whole: Answers | undefined): Promise<Outcome> {
  const server = await serve(database).catch((error: unknown) => String(error));
  if (typeof server === "string") return server.includes("algidus:") ? "refused to start, in words" : "silent";
  const { child, address } = server;
  const isOver = (): boolean => child.exitCode !== null || child.signalCode !== null;
  const answers = await answersOf(address);
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
  if (answers.includes("too late")) return "silent";
  if (state === "damaged") return "answers all, and says it is damaged";
  const { sound } = await checkDatabase(database, false, () => openContext(database));
  if (!sound) return "told by the check";
  return whole?.every((answer, index) => answer === answers[index])
    ? "harmless: all is as it was"
    : "another letter or figure in a cell, which leaves no trace";
}

type Answers = string[];

/** What is answered at each path, but for the moment of it. Broken off in the middle is an answer too: whoever asked knows. */
async function answersOf(address: string): Promise<Answers> {
  const answers: Answers = [];
  for (const path of PATHS)
    answers.push(
      await fetch(new URL(path, address), { signal: AbortSignal.timeout(20_000) })
        .then(async (answer) => (await answer.text()).replace(/"exportedAt":"[^"]*"/, ""))
        .catch((error: unknown) =>
          error instanceof Error && error.name === "TimeoutError" ? "too late" : "broken off",
        ),
    );
  return answers;
}

async function flipped(folder: string): Promise<void> {
  const whole = join(folder, "whole.db");
  await makeShop(whole, 60);
  const client = connect(whole);
  await client.execute("PRAGMA wal_checkpoint(TRUNCATE)");
  client.close();
  const bytes = readFileSync(whole);
  const untouched = await serve(whole);
  const wholeAnswers = await answersOf(untouched.address);
  await untouched.stop();
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
      const outcome = await outcomeOf(file, wholeAnswers);
      outcomes.set(outcome, (outcomes.get(outcome) ?? 0) + 1);
    }
  };
  await Promise.all([lane(), lane()]);
  const told = [...outcomes].map(([outcome, times]) => `${times} ${outcome}`).join("; ");
  asked(!outcomes.has("silent"), `${DATABASES} databases with flipped bytes: ${told} (asked for: none silent)`);
}

/** A disk of its own that is really full, where this machine lets us make one. */
async function fullDisk(folder: string): Promise<void> {
  const disk = join(folder, "disk");
  mkdirSync(disk);
  try {
    execFileSync("mount", ["-t", "tmpfs", "-o", "size=6m", "tmpfs", disk], { stdio: "ignore" });
  } catch {
    console.log("   a full disk was not tried: no disk can be mounted here");
    return;
  }
  try {
    const server = await serve(join(disk, "shop.db"));
    const filler = join(disk, "filler");
    const post = (serial: string) =>
      fetch(new URL("api/cards", server.address), {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ ...CARD, serial }),
      });
    const statuses: number[] = [];
    const saved: string[] = [];
    const tryToSave = async (serial: string): Promise<void> => {
      const { status } = await post(serial);
      statuses.push(status);
      if (status === 201) saved.push(serial);
    };
    await tryToSave("before");
    try {
      for (let k = 0; ; k++) writeFileSync(filler, Buffer.alloc(k === 0 ? 1024 : 4096), { flag: "a" });
    } catch {
      // It is full.
    }
    for (let k = 0; k < 60; k++) await tryToSave(`full ${k}`);
    const refused = statuses.filter((status) => status === 507).length;
    const others = statuses.filter((status) => status !== 201 && status !== 507).length;
    rmSync(filler);
    await tryToSave("after");
    const rows = (await (await fetch(new URL("api/bench?limit=500", server.address))).json()) as Array<{
      serial: string;
    }>;
    const lost = saved.filter((serial) => !rows.some((row) => row.serial === serial)).length;
    await server.stop();
    asked(
      refused > 0 && others === 0 && lost === 0 && rows.length === saved.length && saved.includes("after"),
      `full disk: ${saved.length} answered as saved, ${lost} of them lost, ${rows.length} there, ${refused} told that it is full, ${others} told otherwise, and with room again the next is ${saved.includes("after") ? "saved" : "refused"}`,
    );
  } finally {
    execFileSync("umount", ["-l", disk]);
  }
}

export async function damage(folder: string): Promise<void> {
  await flipped(folder);
  await fullDisk(folder);
}
