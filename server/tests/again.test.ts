import { mkdtempSync, rmSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  type Board,
  type Card,
  EMPTY_BENCH,
  EMPTY_MATERIAL,
  type Run,
  type ServiceView,
  type Stores,
  type TestBench,
  type WorkNote,
} from "#contract";
import type { ProblemDetail } from "#core";
import { CARD, dropRun, openTestServer, type TestServer, takeIn } from "./server.ts";

/** A change whose answer was lost is sent again by the same hand, from the version that hand still knows. */

let server: TestServer;
let card: Card;
beforeAll(async () => {
  server = await openTestServer();
  card = await takeIn(server);
});
afterAll(() => server.close());

interface Row {
  id: string;
  version: number;
}
/** Makes a row and says how it is changed, in two ways, and how it is read anew. */
interface Kind {
  path: string;
  make: () => Promise<Row>;
  change: (row: Row) => object;
  other: object;
  read: (id: string) => Promise<Row | undefined>;
}
const stores = async (): Promise<Stores> => (await server.ask<Stores>("GET", "/api/stores")).body;
const boards = async (): Promise<Board[]> => (await server.ask<Board[]>("GET", "/api/boards")).body;
const notes = async (): Promise<WorkNote[]> =>
  (await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`)).body.notes;
const NOTE = { doneOn: "2026-05-04", person: "Runa", work: ["cleaned"], compound: "", minutes: null, text: "" };
const PRICE = { label: "any shop", thicknessMm: 1.5, widthMm: 120, heightMm: 85, price: 15 };
const LOT = { ...PRICE, amount: 3, openedOn: null, useBefore: null };

async function pad(): Promise<{ materialId: string }> {
  const { body } = await server.ask<Stores>("POST", "/api/materials", { ...EMPTY_MATERIAL, name: "Violet pad" });
  return { materialId: body.materials.at(-1)?.id ?? "" };
}

const KINDS: Record<string, Kind> = {
  "a card": {
    path: "/api/cards",
    make: () => takeIn(server),
    change: (row) => ({
      ...CARD,
      newBoardModel: "",
      boardModelId: (row as Card).boardModelId,
      complaint: "coil noise",
    }),
    other: { complaint: "runs hot" },
    read: async (id) => (await server.ask<Card>("GET", `/api/cards/${id}`)).body,
  },
  "a board model": {
    path: "/api/boards",
    make: async () => (await boards())[0]!,
    change: (row) => ({ name: "OF-70", notes: "two screws differ", limits: (row as Board).limits }),
    other: { notes: "all screws alike" },
    read: async (id) => (await boards()).find((one) => one.id === id),
  },
  "a note": {
    path: "/api/notes",
    make: async () => {
      await dropRun(server, card);
      return (await server.ask<ServiceView>("POST", `/api/services/${card.serviceId}/notes`, NOTE)).body.notes[0]!;
    },
    change: () => ({ ...NOTE, text: "old pads crumbled" }),
    other: { text: "old pads were sound" },
    read: async (id) => (await notes()).find((one) => one.id === id),
  },
  "a run": {
    path: "/api/runs",
    make: () => dropRun(server, card, { seed: 2 }),
    change: (row) => ({ ...row, name: "Second soak" }),
    other: { name: "Third soak" },
    read: async (id) => (await server.ask<Run>("GET", `/api/runs/${id}`)).body,
  },
  "a material": {
    path: "/api/materials",
    make: async () => {
      const { materialId } = await pad();
      return (await stores()).materials.find((one) => one.id === materialId)!;
    },
    change: () => ({ ...EMPTY_MATERIAL, name: "Violet pad", note: "tears easily" }),
    other: { note: "sticks well" },
    read: async (id) => (await stores()).materials.find((one) => one.id === id),
  },
  "a lot": {
    path: "/api/lots",
    make: async () => (await server.ask<Stores>("POST", "/api/lots", { ...LOT, ...(await pad()) })).body.lots.at(-1)!,
    change: (row) => ({ ...LOT, materialId: (row as Row & { materialId: string }).materialId, amount: 2 }),
    other: { amount: 1 },
    read: async (id) => (await stores()).lots.find((one) => one.id === id),
  },
  "a price": {
    path: "/api/offers",
    make: async () =>
      (await server.ask<Stores>("POST", "/api/offers", { ...PRICE, ...(await pad()) })).body.offers.at(-1)!,
    change: (row) => ({ ...PRICE, materialId: (row as Row & { materialId: string }).materialId, price: 17 }),
    other: { price: 14 },
    read: async (id) => (await stores()).offers.find((one) => one.id === id),
  },
};

/** Additions, and how many there are. */
const ADDITIONS: Record<string, { path: () => string; body: () => Promise<object>; count: () => Promise<number> }> = {
  "a card": {
    path: () => "/api/cards",
    body: async () => CARD,
    count: async () => (await server.ask<unknown[]>("GET", "/api/bench")).body.length,
  },
  "a note": {
    path: () => `/api/services/${card.serviceId}/notes`,
    body: async () => {
      await dropRun(server, card, { seed: 3 });
      return NOTE;
    },
    count: async () => (await notes()).length,
  },
  "a lot": {
    path: () => "/api/lots",
    body: async () => ({ ...LOT, ...(await pad()) }),
    count: async () => (await stores()).lots.length,
  },
  "a price": {
    path: () => "/api/offers",
    body: async () => ({ ...PRICE, ...(await pad()) }),
    count: async () => (await stores()).offers.length,
  },
  "something used": {
    path: () => `/api/services/${card.serviceId}/uses`,
    body: async () => {
      const { body } = await server.ask<Stores>("POST", "/api/lots", { ...LOT, ...(await pad()) });
      return { lotId: body.lots.at(-1)?.id, amount: 1, what: "piece of pad", accepted: false };
    },
    count: async () => (await server.ask<unknown[]>("GET", `/api/services/${card.serviceId}/uses`)).body.length,
  },
};

/** Everything the database holds, in words. */
async function exported(): Promise<string[]> {
  const { client } = server.running.context.store;
  const tables = await client.execute("SELECT name FROM sqlite_master WHERE type = 'table'");
  return Promise.all(
    tables.rows.map(async ({ name }) => JSON.stringify((await client.execute(`SELECT * FROM "${name}"`)).rows)),
  );
}

describe("sent again after its answer was lost", () => {
  it.each(Object.keys(ADDITIONS))("%s is added once, and another one with a key of its own", async (name) => {
    const { path, body, count } = ADDITIONS[name]!;
    const sent = await body();
    const before = await count();
    const add = (key: string) => server.ask("POST", path(), sent, { "Idempotency-Key": key });
    // At the same time, as when the first is still at work, and later.
    const answers = [...(await Promise.all([add("first"), add("first")])), await add("first")];
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201]);
    expect(answers[1]?.body).toEqual(answers[0]?.body);
    expect(answers[2]?.body).toEqual(answers[0]?.body);
    expect(await count()).toBe(before + 1);
    expect((await add("second")).status).toBe(201);
    expect(await count()).toBe(before + 2);
  });

  it("a bench is answered with its token, which is kept nowhere in clear", async () => {
    const input = { ...EMPTY_BENCH, name: "Rack by the window", driver: "push" };
    const add = async () =>
      (await server.ask<TestBench>("POST", "/api/benches", input, { "Idempotency-Key": "bench" })).body;
    const [first, again] = [await add(), await add()];
    expect(again.id).toBe(first.id);
    const dump = (await exported()).join();
    const push = ({ id, token }: TestBench) =>
      server.ask(
        "POST",
        `/api/benches/${id}/samples`,
        { samples: [{ edge: 40 }] },
        { Authorization: `Bearer ${token}` },
      );
    for (const { token } of [first, again]) {
      expect(token?.length).toBeGreaterThan(20);
      expect(dump).not.toContain(token);
    }
    // The first one was lost with its answer.
    expect([(await push(again)).status, (await push(first)).status]).toEqual([200, 401]);
  });

  it("an upload that broke off before it was here holds nothing up", async () => {
    const path = `/api/cards/${card.id}/photos`;
    const key = { "Idempotency-Key": "broken" };
    const socket = connect(Number(new URL(server.running.address).port), "127.0.0.1");
    const head = [
      `POST ${path} HTTP/1.1`,
      "Host: 127.0.0.1",
      "Idempotency-Key: broken",
      "Content-Type: multipart/form-data; boundary=x",
      "Content-Length: 100000",
    ].join("\r\n");
    await new Promise<void>((resolve) => {
      socket.write(`${head}\r\n\r\n--x\r\n`, () => resolve());
    });
    // Long enough for the server to have begun with it.
    await new Promise((resolve) => setTimeout(resolve, 200));
    socket.destroy();
    const form = new FormData();
    const dot = await sharp({ create: { width: 4, height: 4, channels: 3, background: "#456" } })
      .png()
      .toBuffer();
    form.append("photo", new Blob([new Uint8Array(dot)]), "card.png");
    const answers = [await server.ask<Card>("POST", path, form, key), await server.ask<Card>("POST", path, form, key)];
    expect(answers.map(({ status, body }) => [status, body.photos.length])).toEqual([
      [201, 1],
      [201, 1],
    ]);
  });

  it("an addition that was refused is looked at anew, and one is known again after a restart and a clock that leapt", async () => {
    const folder = mkdtempSync(join(tmpdir(), "algidus-again-"));
    const database = join(folder, "again.db");
    const open = () => openTestServer({ database });
    const key = { "Idempotency-Key": "one" };
    const count = async (at: TestServer): Promise<number> => (await at.ask<unknown[]>("GET", "/api/bench")).body.length;
    const first = await open();
    expect((await first.ask("POST", "/api/cards", { ...CARD, maker: "" }, key)).status).toBe(422);
    expect((await first.ask("POST", "/api/cards", CARD, key)).status).toBe(201);
    await first.close();
    const later = await open();
    expect((await later.ask("POST", "/api/cards", CARD, key)).status).toBe(201);
    expect(await count(later)).toBe(1);
    await later.running.context.store.client.execute("UPDATE changes_made SET at = '2026-05-04T08:00:00Z'");
    await later.ask("POST", "/api/cards", CARD, { "Idempotency-Key": "two" });
    await later.ask("POST", "/api/cards", CARD, key);
    // What was sent before the clock was put right is still the same change.
    expect(await count(later)).toBe(2);
    await later.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it.each(Object.keys(KINDS))("the change of %s is taken for what it is, and kept once", async (name) => {
    const { path, make, change, other, read } = KINDS[name]!;
    const row = await make();
    const body = { ...change(row), version: row.version };
    expect((await server.ask("PUT", `${path}/${row.id}`, body)).status).toBe(200);
    const kept = await read(row.id);
    expect(kept).toMatchObject({ ...change(row), version: row.version + 1 });

    expect((await server.ask("PUT", `${path}/${row.id}`, body)).status).toBe(200);
    expect(await read(row.id)).toEqual(kept);

    const late = await server.ask<ProblemDetail>("PUT", `${path}/${row.id}`, { ...body, ...other });
    expect([late.status, late.body.code]).toEqual([409, "changed-elsewhere"]);
    expect(await read(row.id)).toEqual(kept);
  });
});
