import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  type Card,
  EMPTY_COOLER_PLAN,
  EMPTY_PAD_PLAN,
  NO_HAND_OVER,
  NO_NEXT,
  NO_TERMS,
  type QuoteView,
} from "#contract";
import { EMPTY_MAP } from "#core/boardmap/index.ts";
import { EMPTY_COOLER } from "#core/coolers/index.ts";
import { openTestServer, type TestServer, takeIn } from "./server.ts";

let server: TestServer;
let card: Card;
let coolerId = "";
beforeAll(async () => {
  server = await openTestServer();
  card = await takeIn(server);
  const made = await server.ask<{ id: string }>("POST", "/api/coolers", { cooler: { ...EMPTY_COOLER, name: "Block" } });
  coolerId = made.body.id;
});
afterAll(() => server.close());

const ofService = (name: string) => () => `/api/services/${card.serviceId}/${name}`;

/** Every kind of kept document: where it is, and what is sent of it. */
const DOCUMENTS: Array<[name: string, path: () => string, body: (times: number) => object | Promise<object>]> = [
  [
    "board map",
    () => `/api/boards/${card.boardModelId}/map`,
    (n) => ({ map: { ...EMPTY_MAP, board: { ...EMPTY_MAP.board, widthMm: 100 + n } } }),
  ],
  ["cooler", () => `/api/coolers/${coolerId}`, (n) => ({ cooler: { ...EMPTY_COOLER, name: "Block", note: `${n}` } })],
  ["pad plan", ofService("pads"), (n) => ({ plan: { ...EMPTY_PAD_PLAN, faceC: 40 + n } })],
  [
    "plan of another cooler",
    ofService("cooler"),
    (n) => ({ plan: { ...EMPTY_COOLER_PLAN, room: { ...EMPTY_COOLER_PLAN.room, lengthMm: 200 + n } } }),
  ],
  [
    "quote",
    ofService("quote"),
    async (n) => {
      const { quote } = (await server.ask<QuoteView>("GET", ofService("quote")())).body;
      return { quote: { ...quote, boughtUnits: n } };
    },
  ],
  ["hand-over", ofService("hand-over"), (n) => ({ ...NO_HAND_OVER, watch: `${n}` })],
  [
    "next service",
    ofService("next"),
    (n) => ({ ...NO_NEXT, use: { hoursPerWeek: n, sessionsPerDay: 1, cyclesPerHour: null } }),
  ],
  ["day's terms", ofService("terms"), (n) => ({ ...NO_TERMS, weight: 1 + n })],
];

describe.each(DOCUMENTS)("a %s", (_, path, body) => {
  const put = async (times: number, version: number, changes?: string[]) =>
    server.ask<{ version: number; code?: string }>("PUT", path(), { ...(await body(times)), version, changes });

  it("is changed from the version it has; a page's own change whose answer was lost is in nobody's way, another's is", async () => {
    const { version } = (await put(1, 0, ["zero"])).body;
    // A cooler was added with its first version.
    const first = version ?? (await put(1, 1, ["zero"])).body.version;
    expect((await put(2, first, ["one"])).body.version).toBe(first + 1);
    // Its answer lost, the page goes on from the version it knows.
    expect((await put(3, first, ["one", "two"])).body.version).toBe(first + 2);
    expect((await put(4, first, ["other"])).body.code).toBe("changed-elsewhere");
    expect((await put(2, first, ["one"])).status).toBe(409);
    expect((await put(5, first + 2, ["other"])).body.version).toBe(first + 3);
  });

  it("takes the same again from who names no changes, and nothing else made from an older version", async () => {
    expect((await put(6, 0)).body.code).toBe("changed-elsewhere");
    const { version } = (await put(5, 1)).body;
    expect((await put(7, version)).body.version).toBe(version + 1);
    expect((await put(7, version)).body.version).toBe(version + 1);
    expect((await put(8, version)).body.code).toBe("changed-elsewhere");
  });
});
