import { appendFileSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { type BenchInput, EMPTY_BENCH, type LiveRows, type LiveRun, type TestBench } from "#contract";
import { serve } from "./served.ts";
import { openTestServer, type TestServer, takeIn, until } from "./server.ts";

/** A live run goes on where a server that was stopped or killed left it: no sample twice, none missing. */

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "algidus-resume-"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const soak = (minutes: number) => ({
  name: "Soak",
  about: "",
  steps: [{ kind: "soak" as const, label: "Soak", fan: 62, powerPct: 100, minutes, early: false }],
});

async function begin(
  server: TestServer,
  bench: Partial<BenchInput>,
  minutes: number,
): Promise<{ live: LiveRun; bench: TestBench }> {
  const card = await takeIn(server);
  const made = (await server.ask<TestBench>("POST", "/api/benches", { ...EMPTY_BENCH, name: "Left", ...bench })).body;
  if (made.token) await push(server.running.address, made, [{ at: 1_800_000_000, "GPU temperature [°C]": 40 }]);
  const { body } = await server.ask<LiveRun>("POST", "/api/live", {
    benchId: made.id,
    serviceId: card.serviceId,
    side: "before",
    protocol: soak(minutes),
    loadName: "loop",
    sidePanel: "open bench",
    roomC: 21,
  });
  return { live: body, bench: made };
}

const push = (address: string, bench: TestBench, samples: object[]): Promise<Response> =>
  fetch(new URL(`/api/benches/${bench.id}/samples`, address), {
    method: "POST",
    headers: { Authorization: `Bearer ${bench.token}`, "Content-Type": "application/json" },
    body: JSON.stringify({ samples }),
  });
const readLive = (server: TestServer, id: string) =>
  server.ask<LiveRun>("GET", `/api/live/${id}`).then(({ body }) => body);
const readRows = async (server: TestServer, id: string) =>
  (await server.ask<LiveRows>("GET", `/api/live/${id}/rows`)).body.rows;

describe("a run on the simulated bench", () => {
  it("goes on after a restart as if nothing had happened: every second once, no jump of a temperature, the soak its full length", async () => {
    const first = await openTestServer({ database: join(folder, "shop.db") });
    const { live } = await begin(first, { seed: 7, speed: 100 }, 4);
    await until(
      () => readLive(first, live.id),
      (one) => one.elapsedS > 100,
    );
    await first.running.close();
    const again = await openTestServer({ database: first.database });
    try {
      const before = await readRows(again, live.id);
      const half = await until(
        () => readLive(again, live.id),
        (one) => one.elapsedS > 200 || one.status !== "running",
      );
      expect(half.status).toBe("running");
      const rows = await readRows(again, live.id);
      expect(rows.length).toBeGreaterThan(before.length);
      expect(rows.map(([tS]) => tS)).toEqual(rows.map((_, index) => index));
      // The sensor shows whole degrees.
      const [earlier, later] = [rows[before.length - 1]?.[2] ?? 0, rows[before.length]?.[2] ?? Number.NaN];
      expect(Math.abs(later - earlier)).toBeLessThanOrEqual(1);
      const ended = await until(
        () => readLive(again, live.id),
        (one) => one.status !== "running",
      );
      expect(ended.status).toBe("done");
      expect(ended.counts).toMatchObject({ repeated: 0, outOfTime: 0 });
      expect(ended.elapsedS).toBeGreaterThan(240);
    } finally {
      await again.close();
    }
  });
});

describe("a run that a script feeds", () => {
  it("has each sample once after kills in the middle, the sender sending again what had no answer", async () => {
    const database = join(folder, "kill.db");
    const setUp = await openTestServer({ database });
    const { live, bench } = await begin(setUp, { driver: "push" }, 200);
    await setUp.running.close();
    let sent = 0;
    let answered = 0;
    const sample = (k: number) => ({ at: 1_800_000_000.1 + k / 1000, "GPU temperature [°C]": 40 + (k % 7) / 10 });
    for (let kill = 0; kill < 3; kill++) {
      const { child, address } = await serve(database);
      const dead = new Promise((resolve) => child.once("exit", resolve));
      setTimeout(() => child.kill("SIGKILL"), 400 + 90 * kill);
      for (;;) {
        // All that had no answer, and some that had one, with the next ones.
        sent += 5;
        const from = Math.max(0, answered - 60);
        const answer = await push(
          address,
          bench,
          Array.from({ length: sent - from }, (_, k) => sample(from + k)),
        ).catch(() => null);
        if (!answer?.ok) break;
        const text = await answer.text().catch(() => "");
        if (!text) break;
        expect(JSON.parse(text)).toMatchObject({ running: true });
        answered = sent;
      }
      await dead;
    }
    const last = await openTestServer({ database });
    try {
      await until(
        () => last.ask<LiveRun[]>("GET", "/api/live"),
        ({ body }) => body.length === 1,
      );
      await push(
        last.running.address,
        bench,
        Array.from({ length: sent }, (_, k) => sample(k)),
      );
      expect(answered).toBeGreaterThan(60);
      const found = await readLive(last, live.id);
      expect([found.status, found.counts.kept, found.counts.outOfTime]).toEqual(["running", sent, 0]);
      const edges = (await readRows(last, live.id)).map((row) => row[2]);
      if (sent < 2000)
        expect(edges).toEqual(Array.from({ length: sent }, (_, k) => Math.round((40 + (k % 7) / 10) * 100) / 100));
      await last.ask("PUT", `/api/live/${live.id}/stop`);
      await until(
        () => readLive(last, live.id),
        (one) => one.status !== "running",
      );
    } finally {
      await last.close();
    }
  });

  it("knows again what it has, however far back", async () => {
    const server = await openTestServer();
    try {
      const { live, bench } = await begin(server, { driver: "push" }, 200);
      const many = Array.from({ length: 60 }, (_, k) => ({
        at: 1_800_000_000.05 + k / 20,
        "GPU temperature [°C]": 40,
      }));
      const { address } = server.running;
      await push(address, bench, many);
      await push(address, bench, many);
      expect((await readLive(server, live.id)).counts).toEqual({ kept: 60, repeated: 60, notNumbers: 0, outOfTime: 0 });
      const next = { at: 1_800_000_003.1, "GPU temperature [°C]": 41 };
      expect((await (await push(address, bench, [next])).json()) as object).toEqual({ kept: 1, running: true });
      await server.ask("PUT", `/api/live/${live.id}/stop`);
    } finally {
      await server.close();
    }
  });
});

it("what a logger wrote while the server was away is read when it is back", async () => {
  const path = join(folder, "logger.csv");
  writeFileSync(path, "Time [s],GPU temperature [°C]\n0,40\n");
  const first = await openTestServer({ database: join(folder, "shop.db") });
  const { live } = await begin(first, { driver: "file", path }, 200);
  for (let k = 0; k < 5; k++) appendFileSync(path, `${k},${41 + k}\n`);
  await until(
    () => readLive(first, live.id),
    (one) => one.counts.kept === 5,
  );
  await first.running.close();
  for (let k = 5; k < 25; k++) appendFileSync(path, `${k},${41 + k}\n`);
  const again = await openTestServer({ database: first.database });
  try {
    await until(
      () => readLive(again, live.id),
      (one) => one.counts.kept === 25,
    );
    const rows = await readRows(again, live.id);
    expect(rows.map((row) => row.at(-1))).toEqual(Array.from({ length: 25 }, (_, k) => 41 + k));
    const times = rows.map((row) => row[0] ?? 0);
    expect([...times].sort((one, other) => one - other)).toEqual(times);
  } finally {
    await again.close();
  }
});
