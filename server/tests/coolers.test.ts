import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  type Card,
  type CoolerJob,
  type CoolerLine,
  type CoolerPlan,
  type CoolerView,
  EMPTY_BENCH,
  EMPTY_COOLER_PLAN,
  type ServiceLine,
  type ServiceView,
  type TestBench,
} from "#contract";
import { type Cooler, EMPTY_COOLER } from "#core/coolers/index.ts";
import { CARD, dropRun, openTestServer, type TestServer } from "./server.ts";

let server: TestServer;
let card: Card;
beforeAll(async () => {
  server = await openTestServer();
  ({ body: card } = await server.ask<Card>("POST", "/api/cards", CARD));
  await dropRun(server, card);
});
afterAll(() => server.close());

const BLOCK: Cooler = {
  ...EMPTY_COOLER,
  name: "Block",
  kind: "waterblock",
  plate: { xMm: 0, yMm: 0, widthMm: 40, heightMm: 40, metal: "copper" },
};
const add = (cooler: Cooler) => server.ask<CoolerView>("POST", "/api/coolers", { cooler });
const jobOf = async () => (await server.ask<CoolerJob>("GET", `/api/services/${card.serviceId}/cooler`)).body;
const keep = async (more: Partial<CoolerPlan>) => {
  const { plan, version } = await jobOf();
  const body = { plan: { ...plan, ...more }, version };
  return server.ask<CoolerJob>("PUT", `/api/services/${card.serviceId}/cooler`, body);
};
/** Power for the run after the work, on a simulated bench. */
async function start() {
  const { body: bench } = await server.ask<TestBench>("POST", "/api/benches", { ...EMPTY_BENCH, name: "Left" });
  const { body } = await server.ask<{ id: string; code?: string }>("POST", "/api/live", {
    benchId: bench.id,
    serviceId: card.serviceId,
    side: "after",
    protocol: {
      name: "Short",
      about: "",
      steps: [{ kind: "soak", label: "Short soak", fan: 62, powerPct: 100, minutes: 3, early: false }],
    },
    loadName: "loop",
    sidePanel: "open bench",
    roomC: null,
  });
  if (body.code === undefined) await server.ask("PUT", `/api/live/${body.id}/stop`);
  return body.code ?? "started";
}

describe("coolers", () => {
  it("are kept with their drawing, changed by version, removed and put back", async () => {
    const { status, body } = await add(BLOCK);
    expect(status).toBe(201);
    const changed = {
      ...BLOCK,
      name: "Block B",
      posts: [{ id: "p1", xMm: 1, yMm: 2, thread: "M2.5", holeDepthMm: 5, levelMm: 0 }],
    };
    const put = await server.ask<CoolerView>("PUT", `/api/coolers/${body.id}`, { cooler: changed, version: 1 });
    expect(put.body).toMatchObject({ version: 2, cooler: { name: "Block B", posts: [{ id: "p1" }] } });
    const stale = await server.ask<{ code: string }>("PUT", `/api/coolers/${body.id}`, { cooler: BLOCK, version: 1 });
    expect([stale.status, stale.body.code]).toEqual([409, "changed-elsewhere"]);
    const gone = await server.ask<CoolerLine[]>("PUT", `/api/coolers/${body.id}/removed`, { removed: true });
    expect(gone.body).toEqual([]);
    expect((await server.ask("GET", `/api/coolers/${body.id}`)).status).toBe(404);
    const back = await server.ask<CoolerLine[]>("PUT", `/api/coolers/${body.id}/removed`, { removed: false });
    expect(back.body).toMatchObject([{ name: "Block B", cards: 0 }]);
  });

  it.each([
    ["a thread that is none", { posts: [{ id: "p", xMm: 0, yMm: 0, thread: "wood", holeDepthMm: 5, levelMm: 0 }] }],
    ["no name", { name: " " }],
    ["a newer version", { version: 99 }],
    [
      "more posts than a cooler has",
      {
        posts: Array.from({ length: 41 }, (_, k) => ({
          id: `p${k}`,
          xMm: 0,
          yMm: 0,
          thread: "M2",
          holeDepthMm: 5,
          levelMm: 0,
        })),
      },
    ],
  ])("refuse %s, and keep nothing", async (_, more) => {
    const before = (await server.ask<CoolerLine[]>("GET", "/api/coolers")).body.length;
    expect((await add({ ...BLOCK, ...more } as Cooler)).status).toBe(422);
    expect((await server.ask<CoolerLine[]>("GET", "/api/coolers")).body).toHaveLength(before);
  });
});

describe("another cooler on a card", () => {
  it("is no heatsink: that one stands on the list with its fins, to be put on a chip", async () => {
    const fins = { widthMm: 14, lengthMm: 12, baseMm: 1.5, finHeightMm: 6, finThickMm: 0.8, count: 6 };
    const { body: sink } = await add({ ...EMPTY_COOLER, name: "Fin 14", kind: "heatsink", fins });
    const { body: list } = await server.ask<CoolerLine[]>("GET", "/api/coolers");
    expect(list.find(({ id }) => id === sink.id)).toMatchObject({ kind: "heatsink", fins });
    expect(list.filter((one) => one.kind !== "heatsink").every((one) => one.fins === null)).toBe(true);
    const refused = await server.ask<{ code: string }>("PUT", `/api/services/${card.serviceId}/cooler`, {
      plan: { ...EMPTY_COOLER_PLAN, coolerId: sink.id },
      version: 0,
    });
    expect([refused.status, refused.body.code]).toEqual([422, "only-a-heatsink"]);
  });

  it("fills what a file of an older version has not", async () => {
    const { dieKPa: _, fins: __, ...older } = BLOCK;
    const kit = [{ id: "short", thread: "M2.5", lengthMm: 7, washerMm: 0.5, quantity: 4 }];
    const { status, body } = await server.ask<CoolerView>("POST", "/api/coolers", { cooler: { ...older, kit } });
    expect(status).toBe(201);
    expect(body.cooler).toEqual({ ...BLOCK, kit: [{ ...kit[0], shouldered: false }] });
  });

  it("is chosen; no power before its loop is tight; what is accepted or tight lets it go on", async () => {
    const { body: block } = await add({ ...BLOCK, name: "Wet" });
    expect((await jobOf()).plan).toEqual(EMPTY_COOLER_PLAN);
    expect((await jobOf()).now).toMatchObject({ runName: expect.any(String), powerW: expect.any(Number) });
    // The run logged no sound level: a reading taken by hand says how loud it was.
    expect((await jobOf()).now?.dba).toBeNull();
    const reading = {
      kind: "sound",
      place: "30 cm",
      shown: 38.5,
      emissivity: null,
      surroundC: null,
      note: "",
      liveId: null,
    };
    await server.ask("POST", `/api/services/${card.serviceId}/readings`, reading);
    expect((await jobOf()).now?.dba).toBe(38.5);
    const { body: job } = await keep({ coolerId: block.id });
    expect(job.cooler?.name).toBe("Wet");

    const skip = async (station: string) =>
      server.ask<ServiceView>("PUT", `/api/services/${card.serviceId}/skip`, { station, reason: "not needed here" });
    for (const station of ["takeIn", "decide", "strip", "clean", "pads", "compound", "fans", "closeUp"])
      await skip(station);
    const lineOf = async () =>
      (await server.ask<ServiceLine[]>("GET", "/api/bench")).body.find(({ serviceId }) => serviceId === card.serviceId);
    expect((await lineOf())?.next).toBe("Test its loop for leaks before power");
    expect(await start()).toBe("leak-test-first");

    const readings = Array.from({ length: 12 }, (_, k) => ({ atMin: 5 * k, pressureKPa: 40, airC: 21 }));
    const leaking = readings.map((one) => ({ ...one, pressureKPa: 40 - one.atMin / 4 }));
    await keep({ leak: { ...EMPTY_COOLER_PLAN.leak, readings: leaking } });
    expect((await lineOf())?.next).toBe("Its loop leaks: mend it before power");
    expect(await start()).toBe("leak-test-first");
    await keep({ leak: { ...EMPTY_COOLER_PLAN.leak, readings: leaking, accepted: "a slow one, watched" } });
    expect((await lineOf())?.next).not.toMatch(/loop/i);
    await keep({ leak: { ...EMPTY_COOLER_PLAN.leak, readings } });
    expect((await lineOf())?.next).not.toMatch(/loop/i);
    expect(await start()).toBe("started");
  });

  it("kept before a field was there has it as usual when it is read", async () => {
    const { client } = server.running.context.store;
    const before = await jobOf();
    await client.batch(
      [
        "UPDATE coolers SET cooler = json_remove(cooler, '$.fins', '$.dieKPa')",
        "UPDATE cooler_plans SET plan = json_remove(plan, '$.room.supportNm')",
      ],
      "write",
    );
    expect(await jobOf()).toEqual(before);
    const { body } = await server.ask<CoolerView>("GET", `/api/coolers/${before.plan.coolerId}`);
    expect(body.cooler).toMatchObject({ fins: null, dieKPa: null });
  });

  it("refuses a plan made from an older one, and a cooler that is not there", async () => {
    const { plan } = await jobOf();
    const path = `/api/services/${card.serviceId}/cooler`;
    expect((await server.ask<{ code: string }>("PUT", path, { plan, version: 0 })).body.code).toBe("changed-elsewhere");
    expect((await keep({ coolerId: "nobody" })).status).toBe(404);
  });
});
