import { appendFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  EMPTY_BENCH,
  type LiveRows,
  type LiveRun,
  type LiveStart,
  type Reading,
  type ServiceLine,
  type ServiceView,
  type TestBench,
} from "#contract";
import { PROTOCOLS, temperatureOf } from "#core";
import { openStore } from "../db/open.ts";
import { MOST_PER_ADDRESS } from "../routes/watchers.ts";
import { openTestServer, type TestServer, takeIn, until } from "./server.ts";

let server: TestServer;
let serviceId: string;
beforeAll(async () => {
  server = await openTestServer();
  serviceId = (await takeIn(server)).serviceId;
});
afterAll(() => server.close());

const protocolNamed = (name: string) => PROTOCOLS.find((one) => one.name === name) ?? { name, about: "", steps: [] };
const SHORT = {
  name: "Short",
  about: "",
  steps: [{ kind: "soak" as const, label: "Short soak", fan: 62, powerPct: 100, minutes: 3, early: false }],
};

async function addBench(more: Partial<TestBench>, from = server): Promise<TestBench> {
  const { body } = await from.ask<TestBench>("POST", "/api/benches", { ...EMPTY_BENCH, name: "Left", ...more });
  return body;
}

function start(bench: TestBench, more: Partial<LiveStart> = {}, from = server) {
  return from.ask<LiveRun & { code: string; what: string }>("POST", "/api/live", {
    benchId: bench.id,
    serviceId,
    side: "before",
    protocol: SHORT,
    loadName: "loop",
    sidePanel: "open bench",
    roomC: null,
    ...more,
  });
}
const readLive = (id: string, from = server) => from.ask<LiveRun>("GET", `/api/live/${id}`).then(({ body }) => body);

describe("simulated bench", () => {
  it("runs a protocol to its early stop and keeps the run with its figures", async () => {
    const bench = await addBench({ seed: 3, speed: 200 });
    const { status, body: live } = await start(bench, { protocol: protocolNamed("Fixed fan") });
    expect(status).toBe(201);
    const ended = await until(
      () => readLive(live.id),
      (one) => one.status !== "running",
    );
    expect(ended).toMatchObject({ status: "done", reason: null });
    const { body: service } = await server.ask<ServiceView>("GET", `/api/services/${serviceId}`);
    const run = service.runs.find((one) => one.id === ended.runIds[0]);
    expect(run).toMatchObject({ side: "before", name: "Fixed fan 62 %", fanMode: "fixed", fanPct: 62 });
    // Every sample that came in is in the run, none twice.
    expect(run?.analysis.samples).toBe(ended.counts.kept);
    expect(run && temperatureOf(run.analysis, "edge")?.finalC).toBeGreaterThan(30);
    expect(run?.analysis.ambient?.source).toBe("column");
    // Stopped early, yet known: the bench does not ask to run on.
    const { body: entries } = await server.ask<ServiceLine[]>("GET", "/api/bench");
    expect(entries.find((entry) => entry.cardId === ended.cardId)).toMatchObject({
      station: "decide",
      figure: expect.stringMatching(/K over room$/),
      next: "Decide: open it or leave it",
    });
  });

  it("lets one of two pages start, and stops by hand keeping what there is", async () => {
    const bench = await addBench({ seed: 5, speed: 100 });
    const answers = await Promise.all([start(bench), start(bench)]);
    expect(answers.map((one) => one.status).sort((a, b) => a - b)).toEqual([201, 409]);
    expect(answers.find((one) => one.status === 409)?.body.code).toBe("bench-busy");
    const id = answers.find((one) => one.status === 201)?.body.id ?? "";
    await until(
      () => readLive(id),
      (one) => one.elapsedS > 100,
    );
    await server.ask("PUT", `/api/live/${id}/stop`);
    const ended = await until(
      () => readLive(id),
      (one) => one.status !== "running",
    );
    expect(ended).toMatchObject({ status: "stopped", reason: "Stopped by hand." });
    expect(ended.runIds).toHaveLength(1);
    expect((await server.ask<LiveRun[]>("GET", "/api/live")).body).toEqual([]);
  });

  it("streams states and rows, and gives a page that was away the rest", async () => {
    const bench = await addBench({ seed: 6, speed: 60, intervalS: 0.1 });
    const { body: live } = await start(bench);
    const answer = await fetch(new URL(`/api/live/${live.id}/stream`, server.running.address));
    expect(answer.headers.get("content-type")).toContain("text/event-stream");
    const reader = answer.body?.getReader();
    let text = "";
    while (!/event: rows/.test(text)) text += new TextDecoder().decode((await reader?.read())?.value);
    await reader?.cancel();
    expect(text).toMatch(/event: state\ndata: \{/);
    await until(
      () => readLive(live.id),
      (one) => one.elapsedS > 60,
    );
    const { body } = await server.ask<LiveRows>("GET", `/api/live/${live.id}/rows?after=30`);
    expect(body.rows.length).toBeGreaterThan(20);
    expect(body.rows.every((row) => (row[0] ?? 0) > 29)).toBe(true);
    expect(body.upToS).toBeGreaterThanOrEqual(60);
    await server.ask("PUT", `/api/live/${live.id}/stop`);
    await until(
      () => readLive(live.id),
      (one) => one.status !== "running",
    );
  });

  it("lets so many pages follow, tells one more why not, and goes on telling the others", async () => {
    const bench = await addBench({ seed: 9, speed: 50 });
    const { body: live } = await start(bench);
    const gone = new AbortController();
    const follow = () => fetch(new URL(`/api/live/${live.id}/stream`, server.running.address), { signal: gone.signal });
    const pages = await Promise.all(Array.from({ length: MOST_PER_ADDRESS }, follow));
    expect(pages.map(({ status }) => status)).toEqual(pages.map(() => 200));
    const refused = await follow();
    expect([refused.status, ((await refused.json()) as { code: string }).code]).toEqual([429, "too-many-watchers"]);
    for (const page of pages) {
      const reader = page.body?.getReader();
      let text = "";
      while (!text.includes("event: rows")) text += new TextDecoder().decode((await reader?.read())?.value);
      await reader?.cancel();
    }
    const later = await until(follow, ({ status }) => status === 200);
    await later.body?.cancel();
    await server.ask("PUT", `/api/live/${live.id}/stop`);
    await until(
      () => readLive(live.id),
      (one) => one.status !== "running",
    );
  });

  it("is kept as far as it got, and marked, when the server was away for long", async () => {
    const other = await openTestServer();
    const card = await takeIn(other);
    const bench = await addBench({ seed: 7, speed: 100 }, other);
    const { body: live } = await start(bench, { serviceId: card.serviceId }, other);
    await until(
      () => readLive(live.id, other),
      (one) => one.elapsedS > 120,
    );
    await other.running.close();
    const store = await openStore(other.database);
    await store.client.execute("UPDATE live_runs SET last_at = '2026-05-04T08:00:00.000Z'");
    await store.close();
    const again = await openTestServer({ database: other.database });
    const ended = await until(
      () => readLive(live.id, again),
      (one) => one.status !== "running",
    );
    expect(ended.status).toBe("interrupted");
    expect(ended.reason).toMatch(/restarted.*as far as it got/);
    const { body: service } = await again.ask<ServiceView>("GET", `/api/services/${card.serviceId}`);
    expect(service.runs[0]?.name).toMatch(/cut short/);
    expect(service.runs[0]?.analysis.samples).toBeGreaterThan(100);
    await again.close();
    rmSync(other.folder, { recursive: true, force: true });
  });
});

describe("a script that pushes", () => {
  const send = (bench: TestBench, samples: unknown[], token = bench.token) =>
    server.ask<{ kept: number; code: string }>(
      "POST",
      `/api/benches/${bench.id}/samples`,
      { samples },
      {
        Authorization: `Bearer ${token}`,
      },
    );
  const sample = (s: number, edge: unknown = 50) => ({
    at: 1_800_000_000 + s,
    "GPU temperature [°C]": edge,
    "Board power [W]": 180,
  });

  it("is refused with a wrong token, and heard with the right one", async () => {
    const bench = await addBench({ driver: "push", name: "Script" });
    expect(bench.token?.length).toBeGreaterThan(20);
    const wrong = await send(bench, [sample(0)], "guess");
    expect([wrong.status, wrong.body.code]).toEqual([401, "wrong-token"]);
    expect((await server.ask<TestBench[]>("GET", "/api/benches")).body.every((one) => one.token === null)).toBe(true);
  });

  it("keeps good samples and counts repeats, text and times from the future", async () => {
    const bench = await addBench({ driver: "push", name: "Script" });
    await send(bench, [sample(-1)]);
    const { body: live } = await start(bench, { roomC: 21.5 });
    expect(live.byHand).toBe(true);
    await send(bench, [sample(0), sample(0), sample(0.5, "hot"), sample(1), sample(9_999)]);
    const seen = await readLive(live.id);
    expect(seen.counts).toEqual({ kept: 3, repeated: 1, notNumbers: 1, outOfTime: 1 });
    expect(seen.channels.map((channel) => channel.role)).toEqual(["edge", "power"]);
    await send(bench, [sample(2, 95)]);
    expect((await readLive(live.id)).trouble).toMatch(/jumped 1 time/);
    await server.ask("PUT", `/api/live/${live.id}/stop`);
    await until(
      () => readLive(live.id),
      (one) => one.status !== "running",
    );
  });
});

describe("an answer to a script", () => {
  it("comes when its samples are on disk, and says so where they can't be; sent again they are there once", async () => {
    const own = await openTestServer();
    try {
      const card = await takeIn(own);
      const bench = await addBench({ driver: "push", name: "Script" }, own);
      const headers = { Authorization: `Bearer ${bench.token}` };
      const send = (samples: unknown[]) =>
        own.ask<{ kept: number; code: string }>("POST", `/api/benches/${bench.id}/samples`, { samples }, headers);
      const sample = (s: number) => ({ at: 1_800_000_000 + s, "GPU temperature [°C]": 50 + Math.sin(1e5 * s) });
      await send([sample(-1)]);
      const { body: live } = await start(bench, { roomC: 21.5, serviceId: card.serviceId }, own);
      const { client } = own.running.context.store;
      const onDisk = async () => {
        const sql = "SELECT coalesce(sum(rows), 0) AS n FROM live_chunks WHERE live_id = ?";
        return Number((await client.execute({ sql, args: [live.id] })).rows[0]?.n);
      };
      expect((await send([sample(0), sample(0.1)])).body.kept).toBe(2);
      expect(await onDisk()).toBe(2);

      const { rows } = await client.execute("PRAGMA page_count");
      await client.execute(`PRAGMA max_page_count = ${Number(rows[0]?.page_count)}`);
      const many = Array.from({ length: 4000 }, (_, k) => sample(0.2 + k / 1e5));
      const full = await send(many);
      expect([full.status, full.body.code, await onDisk()]).toEqual([507, "disk-full", 2]);
      await client.execute("PRAGMA max_page_count = 100000");
      expect((await send(many)).status).toBe(200);
      expect(await onDisk()).toBe(4002);
    } finally {
      await own.close();
    }
  });
});

describe("room air by hand", () => {
  it("typed at the start and read again during the run is what the run is judged with", async () => {
    const card = await takeIn(server);
    const bench = await addBench({ driver: "push", name: "Airless" });
    const headers = { Authorization: `Bearer ${bench.token}` };
    const send = (from: number, count: number) =>
      server.ask(
        "POST",
        `/api/benches/${bench.id}/samples`,
        {
          samples: Array.from({ length: count }, (_, k) => ({
            at: 1_700_000_000 + (from + k) / 100,
            "GPU temperature [°C]": 40 + (k % 2),
            "Board power [W]": 180,
          })),
        },
        headers,
      );
    await send(-10, 1);
    const { body: live } = await start(bench, { serviceId: card.serviceId, roomC: 20 });
    await send(0, 60);
    const reading = {
      kind: "room",
      place: "",
      shown: 23,
      emissivity: null,
      surroundC: null,
      note: "",
      liveId: live.id,
    };
    const { body: kept } = await server.ask<Reading[]>("POST", `/api/services/${card.serviceId}/readings`, reading);
    expect(kept[0]?.atS).toBeGreaterThan(0);
    await server.ask("PUT", `/api/live/${live.id}/stop`);
    await until(
      () => readLive(live.id),
      (one) => one.status !== "running",
    );
    const { body: service } = await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`);
    expect(service.runs[0]?.analysis.ambient).toMatchObject({ valueC: 21.5, source: "option" });
  });
});

describe("orders to a run", () => {
  it("that has ended or is none are refused; a bench with a run on it is not removed", async () => {
    expect((await server.ask<{ code: string }>("PUT", "/api/live/none/stop")).body.code).toBe("not-running");
    const bench = await addBench({ seed: 8, speed: 50 });
    const { body: live } = await start(bench);
    expect((await server.ask("PUT", `/api/benches/${bench.id}/removed`, { removed: true })).status).toBe(409);
    const { body: next } = await server.ask<LiveRun>("PUT", `/api/live/${live.id}/skip-ahead`);
    expect(next.status).toBe("running");
    await server.ask("PUT", `/api/live/${live.id}/stop`);
    await until(
      () => readLive(live.id),
      (one) => one.status !== "running",
    );
    expect((await server.ask("PUT", `/api/live/${live.id}/confirm`)).status).toBe(409);
    expect((await server.ask("PUT", `/api/benches/${bench.id}/removed`, { removed: true })).status).toBe(200);
    expect((await start(bench)).status).toBe(404);
  });
});

describe("a logger's file", () => {
  it("is followed from its end; lines that are no numbers or repeat are counted", async () => {
    const folder = mkdtempSync(join(tmpdir(), "algidus-tail-"));
    const path = join(folder, "log.csv");
    writeFileSync(path, "Time;GPU temp [°C];Board power [W]\n0;40,5;20\n");
    const bench = await addBench({ driver: "file", path });
    const { body: live } = await start(bench, { roomC: 22 });
    appendFileSync(path, "1;41,5;180\n1;41,5;180\n2;warm;181\n3;43,");
    appendFileSync(path, "5;182\n");
    const seen = await until(
      () => readLive(live.id),
      (one) => one.counts.kept >= 3,
    );
    expect(seen.counts).toMatchObject({ kept: 3, repeated: 1, notNumbers: 1 });
    const { body } = await server.ask<LiveRows>("GET", `/api/live/${live.id}/rows`);
    expect(body.rows.flatMap((row) => row[3] ?? [])).toEqual(expect.arrayContaining([41.5]));
    rmSync(folder, { recursive: true });
    const ended = await until(
      () => readLive(live.id),
      (one) => one.status !== "running",
    );
    expect(ended.reason).toMatch(/file is gone/);
  });

  it("that is not there is refused with what to do", async () => {
    const bench = await addBench({ driver: "file", path: "/nowhere/log.csv" });
    const { status, body } = await start(bench);
    expect([status, body.code]).toEqual([422, "no-device"]);
  });
});

describe("Linux hwmon on a recorded tree (names and units of the kernel's documented sysfs interface)", () => {
  it("reads edge, junction, memory, fan, duty and power; an unplugged device ends the run and keeps it", async () => {
    const top = mkdtempSync(join(tmpdir(), "algidus-hwmon-"));
    const files: Record<string, string> = {
      name: "cardchip",
      temp1_input: "61000",
      temp1_label: "edge",
      temp2_input: "74000",
      temp2_label: "junction",
      temp3_input: "78000",
      temp3_label: "mem",
      fan1_input: "1480",
      pwm1: "128",
      power1_average: "183000000",
    };
    mkdirSync(join(top, "hwmon0"));
    for (const [name, text] of Object.entries(files)) writeFileSync(join(top, "hwmon0", name), `${text}\n`);
    const bench = await addBench({ driver: "hwmon", path: top, intervalS: 0.1 });
    const { body: live } = await start(bench, { roomC: 22 });
    expect(live.channels.map((channel) => channel.role)).toEqual([
      "fanRpm",
      "power",
      "fanPct",
      "edge",
      "hotspot",
      "memory",
    ]);
    await until(
      () => readLive(live.id),
      (one) => one.counts.kept >= 12,
    );
    const { body } = await server.ask<LiveRows>("GET", `/api/live/${live.id}/rows`);
    expect(body.rows[0]?.slice(2)).toEqual([1480, 183, 50.2, 61, 74, 78]);
    rmSync(top, { recursive: true });
    const ended = await until(
      () => readLive(live.id),
      (one) => one.status !== "running",
    );
    expect(ended.status).toBe("interrupted");
    expect(ended.reason).toMatch(/can’t be read any more/);
    expect(ended.runIds).toHaveLength(1);
  });
});

describe("readings by hand", () => {
  it("correct infrared for emissivity, stamp into the live run, warn on bare metal, refuse nonsense", async () => {
    const path = `/api/services/${serviceId}/readings`;
    const reading = { kind: "infrared", place: "memory 3", emissivity: 0.9, surroundC: 22, note: "", liveId: null };
    const { body } = await server.ask<Reading[]>("POST", path, { ...reading, shown: 80 });
    // ε·T⁴ + 0.1·T_room⁴ must give back what was shown (Stefan–Boltzmann).
    const seen = (0.9 * ((body[0]?.value ?? 0) + 273.15) ** 4 + 0.1 * 295.15 ** 4) ** 0.25 - 273.15;
    expect(seen).toBeCloseTo(80, 6);
    const metal = await server.ask<Reading[]>("POST", path, { ...reading, shown: 40, emissivity: 0.07 });
    expect(metal.body.at(-1)?.warning).toMatch(/tape/);
    const wrong = await server.ask<{ errors: object }>("POST", path, { ...reading, kind: "room", shown: 72 });
    expect([wrong.status, Object.keys(wrong.body.errors)]).toEqual([422, ["shown"]]);
  });
});
