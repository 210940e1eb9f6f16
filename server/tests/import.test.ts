import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { gunzipSync, gzipSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { ExportFile, ImportReport, Keeping, ServiceLine, ServiceView } from "#contract";
import { Problem, type ProblemDetail } from "#core";
import { transfer } from "../keeper-transfer.ts";
import { removeStaged } from "../services/import.ts";
import { dropRun, openTestServer, type TestServer, takeIn } from "./server.ts";

/** What comes from another machine is not to be trusted: one bad row is named, and nothing of its file comes in. */

let from: TestServer;
let into: TestServer;
let file: ExportFile;
beforeAll(async () => {
  [from, into] = [await openTestServer(), await openTestServer()];
  const card = await takeIn(from);
  await dropRun(from, card);
  await from.ask("PUT", `/api/services/${card.serviceId}/decision`, {
    choice: "leave",
    recommended: "leave",
    reason: "",
  });
  file = (await from.ask<ExportFile>("GET", "/api/export.json")).body;
});
afterAll(async () => {
  await from.close();
  await into.close();
});

type Row = Record<string, unknown>;
type Change = (row: Row) => Row;
const changed = (table: string, change: Change, index = 0): ExportFile => {
  const copy = structuredClone(file);
  const rows = copy.tables[table] ?? [];
  rows[index] = change(rows[index] ?? {});
  return copy;
};
const send = (server: TestServer, body: unknown) =>
  server.ask<ProblemDetail & ImportReport>("POST", "/api/import", body);
const lines = async (server: TestServer): Promise<number> =>
  (await server.ask<ServiceLine[]>("GET", "/api/bench")).body.length;

/** The first half of an import, as the server's own process does it: what it refuses, null where it takes all. */
async function checkedIn(text: string): Promise<ProblemDetail | null> {
  const path = join(into.folder, "export.json");
  writeFileSync(path, text);
  try {
    await transfer({ kind: "stage", file: into.database, from: path, to: `${path}.staged` });
    return null;
  } catch (error) {
    if (error instanceof Problem) return error.detail();
    throw error;
  } finally {
    await removeStaged(`${path}.staged`);
  }
}

describe("an import is refused, with the row that is wrong and why:", () => {
  const blobOf = (kind: string): number => file.tables.blobs.findIndex((row) => row.kind === kind);
  it.each<[string, string, Change, RegExp]>([
    ["a list that is a number", "cards", (row) => ({ ...row, lookOver: 5 }), /Row 1 of cards .*lookOver/],
    ["figures that are none", "runs", (row) => ({ ...row, analysis: {} }), /Row 1 of runs lacks “analysis\.samples”/],
    [
      "roles that no column has",
      "runs",
      (row) => ({ ...row, mapping: [{ header: "a", role: "boss" }] }),
      /mapping\.0\.role/,
    ],
    [
      "limits out of range",
      "boardModels",
      (row) => ({ ...row, limits: { edgeC: 9000 } }),
      /Row 1 of boardModels .*limits/,
    ],
    [
      "a decision of no known kind",
      "services",
      (row) => ({ ...row, decision: { choice: "melt" } }),
      /services .*decision/,
    ],
    ["a number that is a text", "runs", (row) => ({ ...row, fanPct: "sixty" }), /runs .*fanPct/],
    ["a missing column", "cards", ({ maker: _maker, ...row }) => row, /Row 1 of cards lacks “maker”/],
    ["a row that is none", "cards", () => ["a"] as unknown as Row, /Row 1 of cards/],
    [
      "a setting of a wrong kind",
      "settings",
      () => ({ key: "workshop", value: { scatterRunK: "much" } }),
      /Row 1 of settings/,
    ],
    ["events without a time", "events", ({ at: _at, ...row }) => row, /Row 1 of events lacks “at”/],
  ])("%s", async (_, table, change, words) => {
    const refused = await checkedIn(JSON.stringify(changed(table, change)));
    expect(refused?.code).toBe("bad-export");
    expect(refused?.what).toMatch(words);
    expect(refused?.what).toMatch(/nothing was imported/);
  });

  it.each<[string, string, (bytes: Buffer) => Buffer]>([
    ["a log that is no gzip", "log", () => Buffer.from("no gzip at all")],
    ["a log of another name", "log", (bytes) => gzipSync(`${gunzipSync(bytes).toString()}\nmore`)],
    ["samples that are cut off", "samples", (bytes) => bytes.subarray(0, bytes.length - 20)],
  ])("%s", async (_, kind, change) => {
    const bytes = (row: Row) => change(Buffer.from(String(row.bytes), "base64")).toString("base64");
    const damaged = changed("blobs", (row) => ({ ...row, bytes: bytes(row) }), blobOf(kind));
    expect((await checkedIn(JSON.stringify(damaged)))?.what).toMatch(/of blobs is damaged/);
  });

  it.each<[string, (text: string) => string, RegExp]>([
    ["a file cut off in the middle", (text) => text.slice(0, text.length / 2), /not JSON/],
    ["text that is no JSON", () => "cards;runs\n1;2", /not JSON/],
    ["nothing at all", () => "", /not JSON/],
    ["another program's file", () => '{"format":"other","tables":{}}', /not an export/],
    ["no lists", () => '{"format":"algidus-export","version":1,"tables":{"cards":7}}', /no list/],
    ["a newer version", (text) => text.replace('"version":1', '"version":2'), /newer version/],
  ])("%s", async (_, change, words) => {
    expect((await checkedIn(change(JSON.stringify(file))))?.what).toMatch(words);
  });

  it("to whoever sent it, with everything as it was", async () => {
    const refused = await send(
      into,
      changed("cards", (row) => ({ ...row, lookOver: 5 })),
    );
    expect([refused.status, refused.body.code]).toEqual([422, "bad-export"]);
    expect(refused.body.what).toMatch(/Row 1 of cards .*lookOver.*nothing was imported/);
    // Whom a row refers to is known only once all are together.
    const orphan = await send(
      into,
      changed("services", (row) => ({ ...row, cardId: "nobody" })),
    );
    expect(orphan.body.what).toMatch(/Row 1 of services refers/);
    expect((await send(into, "cards;runs\n1;2")).body.what).toMatch(/not an export|not JSON/);
    expect(await lines(into)).toBe(0);
    expect(await checkedIn(JSON.stringify(file))).toBeNull();
  });
});

it("takes what was skipped as Work, before that became three stations, as all three", async () => {
  const here = await openTestServer();
  try {
    const early = changed("services", (row) => ({ ...row, skips: { work: "sold as it is" } }));
    expect((await send(here, early)).body.added).toMatchObject({ cards: 1 });
    const [line] = (await here.ask<ServiceLine[]>("GET", "/api/bench")).body;
    const { body } = await here.ask<ServiceView>("GET", `/api/services/${line?.serviceId}`);
    const skipped = body.stations.filter(({ skipReason }) => skipReason === "sold as it is");
    expect(skipped.map(({ id }) => id)).toEqual(["clean", "compound", "fans"]);
  } finally {
    await here.close();
  }
});

it("puts cards of a board model that is here already under it, though it has another id there", async () => {
  const here = await openTestServer();
  try {
    const mine = await takeIn(here);
    expect((await send(here, file)).body.added).toMatchObject({ boardModels: 0, cards: 1, runs: 1 });
    const boards = (await here.ask<Array<{ id: string; cards: number }>>("GET", "/api/boards")).body;
    expect(boards).toEqual([expect.objectContaining({ id: mine.boardModelId, cards: 2 })]);
    const { backups } = (await here.ask<Keeping>("GET", "/api/backups")).body;
    // On a slow machine the one of the day may be there as well.
    expect(backups.filter(({ why }) => why === "before-import")).toHaveLength(1);
    expect(await lines(here)).toBe(2);
  } finally {
    await here.close();
  }
});

it("takes many cards while others are served", async () => {
  const many = structuredClone(file);
  const { cards, services } = many.tables;
  for (let k = 0; k < 250; k++) {
    cards.push({ ...cards[0], id: `card-${k}`, serial: `S${k}` });
    services.push({ ...services[0], id: `service-${k}`, cardId: `card-${k}`, decision: null, powerOn: null });
  }
  const here = await openTestServer();
  try {
    const state = { isDone: false };
    const sent = send(here, many).finally(() => {
      state.isDone = true;
    });
    let answers = 0;
    while (!state.isDone) {
      expect((await here.ask("GET", "/api/bench?limit=20")).status).toBe(200);
      answers++;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    expect((await sent).body.added.cards).toBe(251);
    expect(answers).toBeGreaterThan(5);
    expect((await here.ask<ServiceLine[]>("GET", "/api/bench?limit=500")).body).toHaveLength(251);
  } finally {
    await here.close();
  }
});
