import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Card, type CoolerView, EMPTY_COOLER_PLAN, NO_TERMS, type Stores } from "#contract";
import { EMPTY_MAP, PACKAGES, stampPart } from "#core/boardmap/index.ts";
import { EMPTY_COOLER } from "#core/coolers/index.ts";
import { damages, type Json } from "#core/problem/tests/damages.ts";
import { CARD, dropRun, openTestServer, type TestServer } from "./server.ts";

let server: TestServer;
let card: Card;
let coolerId: string;
let materialId: string;
beforeAll(async () => {
  server = await openTestServer();
  ({ body: card } = await server.ask<Card>("POST", "/api/cards", CARD));
  await dropRun(server, card);
  const cooler = { ...EMPTY_COOLER, name: "Block" };
  coolerId = (await server.ask<CoolerView>("POST", "/api/coolers", { cooler })).body.id;
  const { body: stores } = await server.ask<Stores>("POST", "/api/materials", MATERIAL);
  materialId = stores.materials[0]?.id ?? "";
});
afterAll(() => server.close());

const MATERIAL = {
  kind: "pad",
  name: "Soft pad",
  note: "",
  conductivityWPerMK: 6,
  curve: [
    [0, 0],
    [0.2, 80],
  ],
  curveSource: "sheet",
  mostMm: null,
  densityGPerMl: null,
  conductsElectricity: false,
  attacksAluminium: false,
  lowAt: null,
};
const SHEET = { thicknessMm: 1, widthMm: 90, heightMm: 50 };

/** What can be sent, where to, and where what is kept can be read again. */
interface Way {
  name: string;
  method: "POST" | "PUT";
  to: () => string;
  body: () => Record<string, unknown>;
  /** Where its version stands now; it is sent with every try. */
  version?: () => string;
}
const WAYS: readonly Way[] = [
  { name: "a card taken in", method: "POST", to: () => "/api/cards", body: () => CARD },
  {
    name: "a card changed",
    method: "PUT",
    to: () => `/api/cards/${card.id}`,
    body: () => CARD,
    version: () => `/api/cards/${card.id}`,
  },
  {
    name: "a note",
    method: "POST",
    to: () => `/api/services/${card.serviceId}/notes`,
    body: () => ({
      doneOn: "2026-03-01",
      person: "",
      work: ["cleaned"],
      compound: "",
      minutes: 20,
      text: "",
    }),
  },
  {
    name: "terms of a service",
    method: "PUT",
    to: () => `/api/services/${card.serviceId}/terms`,
    body: () => ({ ...NO_TERMS, promisedAt: "2026-12-24T12:00:00.000Z", held: { pads: "2026-12-20T12:00:00.000Z" } }),
  },
  {
    name: "marks of steps",
    method: "POST",
    to: () => `/api/services/${card.serviceId}/steps`,
    body: () => ({
      marks: [
        {
          id: "mark-0001",
          station: "strip",
          attempt: 1,
          stepId: "off",
          what: "done",
          value: "",
          text: "",
          at: "2026-03-01T10:00:00.000Z",
        },
      ],
    }),
  },
  {
    name: "a board map",
    method: "PUT",
    to: () => `/api/boards/${card.boardModelId}/map`,
    body: () => ({
      map: PACKAGES[0]
        ? stampPart(
            { ...EMPTY_MAP, die: { xMm: 100, yMm: 50, widthMm: 20, heightMm: 20 } },
            PACKAGES[0],
            { xMm: 60, yMm: 50 },
            "front",
          ).map
        : EMPTY_MAP,
    }),
    version: () => `/api/boards/${card.boardModelId}/map`,
  },
  {
    name: "a cooler",
    method: "PUT",
    to: () => `/api/coolers/${coolerId}`,
    body: () => ({
      cooler: {
        ...EMPTY_COOLER,
        name: "Block",
        plate: { xMm: 0, yMm: 0, widthMm: 40, heightMm: 40, metal: "copper" },
        posts: [{ id: "p1", xMm: 1, yMm: 2, thread: "M2.5", holeDepthMm: 5, levelMm: 0 }],
        air: [{ fanRpm: 1500, kPerW: 0.2, dba: 35 }],
      },
    }),
    version: () => `/api/coolers/${coolerId}`,
  },
  {
    name: "the plan of another cooler",
    method: "PUT",
    to: () => `/api/services/${card.serviceId}/cooler`,
    body: () => ({
      plan: {
        ...EMPTY_COOLER_PLAN,
        leak: { ...EMPTY_COOLER_PLAN.leak, readings: [{ atMin: 0, pressureKPa: 40, airC: 21 }] },
      },
    }),
    version: () => `/api/services/${card.serviceId}/cooler`,
  },
  { name: "a material", method: "POST", to: () => "/api/materials", body: () => MATERIAL },
  {
    name: "a lot",
    method: "POST",
    to: () => "/api/lots",
    body: () => ({ ...SHEET, materialId, price: 9.5, label: "A1", amount: 3, openedOn: null, useBefore: null }),
  },
  {
    name: "a protocol",
    method: "POST",
    to: () => "/api/protocols",
    body: () => ({
      name: "Short",
      about: "",
      steps: [{ kind: "soak", label: "Short soak", fan: 62, powerPct: 100, minutes: 3, early: false }],
    }),
  },
  {
    name: "a reading by hand",
    method: "POST",
    to: () => `/api/services/${card.serviceId}/readings`,
    body: () => ({
      kind: "sound",
      place: "30 cm",
      shown: 38,
      emissivity: null,
      surroundC: null,
      note: "",
      liveId: null,
    }),
  },
  {
    name: "what findings are asked for",
    method: "POST",
    to: () => "/api/findings",
    body: () => ({ by: "compound", adjust: ["pads"], only: { use: "games" }, measure: "die", paper: true }),
  },
  { name: "settings", method: "PUT", to: () => "/api/settings", body: () => SETTINGS },
];
const SETTINGS = {
  workshop: "Northlight",
  currency: "€",
  scatterMountK: 0.7,
  scatterRunK: 0.5,
  person: "",
  address: "",
  warmestRoomC: 30,
};

const TRIES = 45;
/** Of a refusal, whatever was sent. */
const MOST_SAID = 3000;

describe.each(WAYS)("$name", ({ method, to, body, version }) => {
  const now = async (): Promise<Record<string, unknown>> =>
    version ? { version: (await server.ask<{ version: number }>("GET", version())).body.version } : {};

  it("is kept when it is whole", async () => {
    const { status, body: answer } = await server.ask(method, to(), { ...body(), version: 0, ...(await now()) });
    expect([200, 201], JSON.stringify(answer)).toContain(status);
  });

  it("damaged at any place it is kept or refused with a message; the server never fails over it", async () => {
    const faults: string[] = [];
    for (const { where, document } of damages(body() as Json, 77, TRIES)) {
      const sent = { ...(document as Record<string, unknown>), version: 0, ...(await now()) };
      const { status, body: answer } = await server.ask<{ what?: string; detail?: string; title?: string }>(
        method,
        to(),
        sent,
      );
      if (status >= 500 || ![200, 201, 404, 409, 413, 422].includes(status)) faults.push(`${where}: ${status}`);
      if (JSON.stringify(answer).length > MOST_SAID && status >= 400) faults.push(`${where}: says too much`);
      if (status >= 400 && !(answer.what ?? answer.title ?? answer.detail)) faults.push(`${where}: no word`);
    }
    expect(faults).toEqual([]);
    expect((await server.ask("GET", "/api/health")).body).toEqual({ ok: true });
    expect((await server.ask("GET", `/api/services/${card.serviceId}`)).status).toBe(200);
    expect((await server.ask("GET", "/api/bench")).status).toBe(200);
  });
});
