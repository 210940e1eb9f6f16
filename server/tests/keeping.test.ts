import { copyFileSync, existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { Card, ServiceLine } from "#contract";
import type { ProblemDetail } from "#core";
import { backupDatabase, restoreDatabase } from "../db/backup.ts";
import { holdDatabase } from "../db/lock.ts";
import { openStore } from "../db/open.ts";
import { serve } from "./served.ts";
import { CARD, dropRun, openTestServer, RUN, runForm, takeIn, testLog } from "./server.ts";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "algidus-keep-"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const KILLS = 4;

const post = (address: string, path: string, body: unknown, key: string): Promise<Response> =>
  fetch(new URL(path, address), {
    method: "POST",
    headers: { "Idempotency-Key": key, ...(body instanceof FormData ? {} : { "Content-Type": "application/json" }) },
    body: body instanceof FormData ? body : JSON.stringify(body),
  });

/** Passes over a request whose server was killed; anything else is a failure. */
function cutOff(error: unknown): false {
  if (error instanceof TypeError) return false;
  throw error;
}

describe("what was answered as saved is saved", () => {
  it(`is found after ${KILLS} kills in mid-write, runs whole or absent; what had no answer is sent again and is there once`, async () => {
    const database = join(folder, "kill.db");
    const saved = new Set<string>();
    const unanswered = new Map<string, { path: string; body: () => unknown }>();
    let serviceId = "";
    const send = async (address: string, path: string, body: () => unknown, key: string): Promise<boolean> => {
      unanswered.set(key, { path, body });
      const answer = await post(address, path, body(), key);
      await answer.arrayBuffer();
      expect([key, answer.status]).toEqual([key, 201]);
      unanswered.delete(key);
      return true;
    };
    const sendAgain = async (address: string): Promise<void> => {
      for (const [key, { path, body }] of unanswered) await send(address, path, body, key);
    };
    for (let round = 0; round < KILLS; round++) {
      const { child, address } = await serve(database);
      if (!serviceId) serviceId = ((await (await post(address, "/api/cards", CARD, "first")).json()) as Card).serviceId;
      await sendAgain(address);
      const dead = new Promise((resolve) => child.once("exit", resolve));
      // Some answers, then it is killed at once, while the next are being written: a slow machine only takes longer.
      const enough = saved.size + 2 + 3 * round;
      const writers = Array.from({ length: 3 }, async (_, writer) => {
        for (let k = 0; ; k++) {
          const serial = `${round}-${writer}-${k}`;
          const sent = await send(address, "/api/cards", () => ({ ...CARD, serial }), serial).catch(cutOff);
          if (!sent) return;
          saved.add(serial);
          if (saved.size >= enough) child.kill("SIGKILL");
        }
      });
      const log = testLog({ seed: 50 + round });
      const form = () => runForm(log, RUN);
      const ingest = send(address, `/api/services/${serviceId}/runs`, form, `run-${round}`).catch(cutOff);
      await dead;
      await Promise.all([...writers, ingest]);
    }
    const last = await serve(database);
    const lost = unanswered.size;
    await sendAgain(last.address);
    await new Promise((resolve) => {
      last.child.once("exit", resolve);
      last.child.kill("SIGTERM");
    });
    expect(lost).toBeGreaterThan(0);
    const store = await openStore(database);
    const check = await store.client.execute("PRAGMA integrity_check");
    expect(check.rows[0]?.integrity_check).toBe("ok");
    expect((await store.client.execute("PRAGMA foreign_key_check")).rows).toEqual([]);
    const rows = await store.client.execute("SELECT serial FROM cards");
    const serials = rows.rows.map((row) => String(row.serial));
    const found = new Set(serials);
    expect(serials).toHaveLength(found.size);
    expect([...saved].filter((serial) => !found.has(serial))).toEqual([]);
    expect(saved.size).toBeGreaterThan(KILLS);
    const whole = await store.client.execute(
      "SELECT count(*) AS n FROM runs JOIN blobs AS log ON log.hash = log_hash JOIN blobs AS samples ON samples.hash = samples_hash",
    );
    const all = await store.client.execute("SELECT count(*) AS n FROM runs");
    expect(whole.rows[0]?.n).toBe(all.rows[0]?.n);
    expect(Number(all.rows[0]?.n)).toBe(KILLS);
    await store.close();
  });

  it("says that the disk is full, changes nothing, and goes on when there is room again", async () => {
    const server = await openTestServer();
    try {
      await takeIn(server);
      const { client } = server.running.context.store;
      const pages = Number((await client.execute("PRAGMA page_count")).rows[0]?.page_count);
      await client.execute(`PRAGMA max_page_count = ${pages}`);
      const big = { ...CARD, complaint: "y".repeat(900) };
      const answers = [];
      for (let k = 0; k < 40; k++) answers.push(await server.ask<ProblemDetail>("POST", "/api/cards", big));
      const full = answers.find((answer) => answer.status !== 201);
      expect(full?.status).toBe(507);
      expect(full?.body.remedy).toMatch(/still in the page/);
      expect(JSON.stringify(full?.body)).not.toContain(server.folder);
      await client.execute("PRAGMA max_page_count = 100000");
      expect((await server.ask("POST", "/api/cards", big)).status).toBe(201);
    } finally {
      await server.close();
    }
  });
});

describe("backup and restore", () => {
  it("copies while the server writes, and puts the copy back with nothing lost", async () => {
    const server = await openTestServer();
    const copy = join(folder, "copy.db");
    try {
      const card = await takeIn(server);
      await dropRun(server, card);
      const writing = Promise.all(Array.from({ length: 10 }, () => takeIn(server)));
      await backupDatabase(server.database, copy);
      await writing;
    } finally {
      await server.close();
    }
    const target = join(folder, "shop.db");
    writeFileSync(target, "");
    const { kept } = await restoreDatabase(copy, target);
    expect(kept && existsSync(kept)).toBe(true);
    const restored = await openTestServer({ database: target });
    try {
      const { body } = await restored.ask<ServiceLine[]>("GET", "/api/bench");
      expect(body.some((entry) => entry.figure.includes("K over room"))).toBe(true);
    } finally {
      await restored.close();
    }
  });

  it("refuses a damaged backup and leaves the database alone", async () => {
    const store = await openStore(join(folder, "shop.db"));
    await store.close();
    const bad = join(folder, "bad.db");
    writeFileSync(bad, "this is no database at all, not even nearly one");
    await expect(restoreDatabase(bad, join(folder, "shop.db"))).rejects.toThrow(/not a database/);
    await (await openStore(join(folder, "shop.db"))).close();
  });
});

describe("one process at a time", () => {
  it("a second server and a restore are refused while one runs, and both let in when it has ended", async () => {
    const server = await openTestServer();
    const copy = join(folder, "copy.db");
    await takeIn(server);
    await backupDatabase(server.database, copy);
    const held = { code: "database-in-use", what: expect.stringContaining(String(process.pid)) };
    await expect(openTestServer({ database: server.database })).rejects.toMatchObject(held);
    await expect(restoreDatabase(copy, server.database)).rejects.toMatchObject(held);
    expect((await server.ask("POST", "/api/cards", CARD)).status).toBe(201);
    await server.running.close();
    await restoreDatabase(copy, server.database);
    const again = await openTestServer({ database: server.database });
    expect((await again.ask<unknown[]>("GET", "/api/bench")).body).toHaveLength(1);
    await again.close();
    rmSync(server.folder, { recursive: true, force: true });
  });

  it.each([
    ["a process that is gone", { pid: 2 ** 22 + 1, began: null, since: "2026-05-04T08:00:00Z" }],
    [
      "an earlier process of the same number",
      { pid: process.pid, began: "another start", since: "2026-05-04T08:00:00Z" },
    ],
    ["a write that was cut off", "{"],
  ])("what %s left is taken over", (_, left) => {
    const file = join(folder, "left.db");
    writeFileSync(`${file}.lock`, typeof left === "string" ? left : JSON.stringify(left));
    const letGo = holdDatabase(file);
    expect(() => holdDatabase(file)).toThrow(/has held this database/);
    letGo();
    expect(readdirSync(folder)).toEqual([]);
  });
});

describe("versions", () => {
  it("refuses a database of a newer version and one that is not ours, in words", async () => {
    const file = join(folder, "new.db");
    const store = await openStore(file);
    await store.client.execute("INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('future', 9999999999999)");
    await store.close();
    await expect(openStore(file)).rejects.toThrow(/newer version/);
    await expect(openStore(file)).rejects.not.toThrow(/SELECT|INSERT/);
  });

  it("takes a copy before it brings an older database up to date", async () => {
    const file = join(folder, "old.db");
    const store = await openStore(file);
    await store.client.execute("UPDATE __drizzle_migrations SET created_at = 1");
    await store.client.execute("PRAGMA wal_checkpoint(TRUNCATE)");
    await store.close();
    copyFileSync(file, join(folder, "untouched.db"));
    await expect(openStore(file)).rejects.toThrow();
    expect(readdirSync(folder)).toContain("old.db.before-1.bak");
  });
});
