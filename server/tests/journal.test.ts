import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { EMPTY_BENCH, type TestBench } from "#contract";
import { readRun } from "#core";
import { type JournalRow, packRows, Thinner, thinnedRows, unpackRows, writeSegment } from "../benches/journal.ts";
import { liveChunks, liveRuns } from "../db/schema.ts";
import { openTestServer, type TestServer, takeIn } from "./server.ts";

const CHANNELS = [
  { header: 'GPU "A", temperature [°C]', role: "edge" as const, unit: "°C" },
  { header: "Board power [W]", role: "power" as const, unit: "W" },
];
const STARTED_MS = Date.parse("2026-03-01T10:00:00.000Z");
const WIDTH = CHANNELS.length + 2;

describe("rows of the journal", () => {
  it("come back as they went in, gaps included", () => {
    const rows: JournalRow[] = [
      [0, 0, 40.5, 20],
      [0.1, 0, Number.NaN, 181.2],
      [0.2, -1, 41, 182],
    ];
    expect([...unpackRows(packRows(rows, WIDTH))]).toEqual(rows.flat());
  });

  it("are thinned by means that leave gaps out; the segment is that of the last", () => {
    const thin = new Thinner(WIDTH, 2);
    for (const row of [
      [0, 0, 40, 10],
      [1, 0, 42, Number.NaN],
      [2, 1, Number.NaN, Number.NaN],
    ])
      thin.add(row);
    expect(thin.take()).toEqual([
      [0.5, 0, 41, 10],
      [2, 1, null, null],
    ]);
    expect(thin.take()).toEqual([]);
  });
});

describe("a kept journal", () => {
  let server: TestServer;
  const id = "live-1";
  beforeAll(async () => {
    server = await openTestServer();
    const card = await takeIn(server);
    const { body: bench } = await server.ask<TestBench>("POST", "/api/benches", { ...EMPTY_BENCH, name: "Left" });
    const { store } = server.running.context;
    await store.write(async (tx) => {
      await tx.insert(liveRuns).values({
        id,
        benchId: bench.id,
        serviceId: card.serviceId,
        side: "before",
        protocol: { name: "x", about: "", steps: [] },
        loadName: "",
        sidePanel: "unknown",
        roomC: null,
        channels: CHANNELS,
        status: "done",
        reason: null,
        counts: { kept: 3000, repeated: 0, notNumbers: 0, outOfTime: 0 },
        elapsedS: 2999,
        runIds: [],
        startedAt: store.now(),
        endedAt: null,
      });
      for (let seq = 0; seq < 120; seq++) {
        const rows = Array.from({ length: 25 }, (_, k): JournalRow => {
          const tS = seq * 25 + k;
          const segment = Math.floor(tS / 1000);
          return [tS, segment, 40 + segment, tS % 7 === 0 ? Number.NaN : 100 + segment];
        });
        await tx
          .insert(liveChunks)
          .values({ id: `c${seq}`, liveId: id, seq, rows: rows.length, bytes: packRows(rows, WIDTH) });
      }
    });
  });
  afterAll(() => server.close());

  it("is thinned to what a chart can show, from a given second on", async () => {
    const { context } = server.running;
    const all = await thinnedRows(context, id, WIDTH, 3000, -1, 300);
    expect(all).toHaveLength(300);
    expect([all[0]?.[2], all.at(-1)?.[2]]).toEqual([40, 42]);
    const rest = await thinnedRows(context, id, WIDTH, 3000, 2499.5, 300);
    expect(rest).toHaveLength(50);
  });

  it("is written out segment by segment as a log that reads back whole", async () => {
    const folder = mkdtempSync(join(tmpdir(), "algidus-segment-"));
    const path = join(folder, "1.csv");
    expect(await writeSegment(server.running.context, id, CHANNELS, 1, STARTED_MS, path)).toBe(1000);
    const table = readRun([readFileSync(path)]);
    expect([table.rows, table.timeS[0], table.timeS.at(-1)]).toEqual([1000, 0, 999]);
    expect(table.columns.map((column) => column.header)).toEqual(["Time", ...CHANNELS.map((one) => one.header)]);
    // Its own clock: 1000 rows went before.
    expect(table.start).toEqual({ epochS: STARTED_MS / 1000 + 1000, clock: "utc", dayOnly: false });
    const power = table.columns[2]?.values ?? new Float64Array();
    expect(power.filter(Number.isNaN)).toHaveLength(143);
    expect(await writeSegment(server.running.context, id, CHANNELS, 9, STARTED_MS, path)).toBe(0);
    rmSync(folder, { recursive: true });
  });
});
