import { spawn } from "node:child_process";
import { text } from "node:stream/consumers";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  type Card,
  EMPTY_MATERIAL,
  type Lot,
  MATERIAL_KINDS,
  type Material,
  STOCK_UNIT,
  type Stores,
  type Use,
} from "#contract";
import type { ProblemDetail } from "#core";
import { root } from "../root.ts";
import type { CheckReport } from "../services/check.ts";
import { openTestServer, type TestServer, takeIn } from "./server.ts";

let server: TestServer;
let card: Card;
beforeAll(async () => {
  server = await openTestServer();
  card = await takeIn(server);
});
afterAll(() => server.close());

type Refusal = ProblemDetail & { errors: Record<string, string> };
const stores = async (): Promise<Stores> => (await server.ask<Stores>("GET", "/api/stores")).body;

async function material(name: string, more: Partial<Material> = {}): Promise<Material> {
  const { body } = await server.ask<Stores>("POST", "/api/materials", { ...EMPTY_MATERIAL, name, ...more });
  return body.materials.find((one) => one.name === name)!;
}
async function lot(materialId: string, more: Partial<Lot> = {}): Promise<Lot> {
  const known = new Set((await stores()).lots.map((one) => one.id));
  const { body } = await server.ask<Stores>("POST", "/api/lots", {
    materialId,
    label: "",
    thicknessMm: null,
    widthMm: null,
    heightMm: null,
    amount: 10,
    price: 1,
    openedOn: null,
    useBefore: null,
    ...more,
  });
  return body.lots.find((one) => !known.has(one.id))!;
}
const use = (lotId: string, amount: number, more: object = {}) =>
  server.ask<Use[]>("POST", `/api/services/${card.serviceId}/uses`, {
    lotId,
    amount,
    what: "",
    accepted: false,
    ...more,
  });
const amountOf = async (id: string): Promise<number | undefined> =>
  (await stores()).lots.find((one) => one.id === id)?.amount;

describe("what a store can hold", () => {
  it("is every kind of material, each counted in its unit", async () => {
    for (const kind of MATERIAL_KINDS) {
      const made = await material(`One ${kind}`, { kind });
      const { id } = await lot(made.id);
      const { body } = await use(id, 1, { accepted: true });
      expect(body.at(-1)).toMatchObject({ materialName: `One ${kind}`, unit: STOCK_UNIT[kind], amount: 1 });
      expect(await amountOf(id)).toBe(9);
    }
  });

  it("is opened on the day of whoever takes from it, wherever the server stands", async () => {
    const sheet = await material("Dated");
    // Fourteen hours ahead of UTC and twelve behind it: never the same day.
    for (const [zone, hours] of [
      ["Pacific/Kiritimati", 14],
      ["Etc/GMT+12", -12],
    ] as const) {
      const { id } = await lot(sheet.id);
      const there = (): string => new Date(Date.now() + hours * 3_600_000).toISOString().slice(0, 10);
      const days = [there()];
      const body = { lotId: id, amount: 1, what: "", accepted: false };
      await server.ask("POST", `/api/services/${card.serviceId}/uses`, body, { "Time-Zone": zone });
      days.push(there());
      expect(days).toContain((await stores()).lots.find((one) => one.id === id)?.openedOn);
    }
    expect((await server.ask("GET", "/api/stores", undefined, { "Time-Zone": "Moon/Far" })).status).toBe(200);
  });

  it("keeps curve, source, dangers and dates as they were given", async () => {
    const curve: Array<[number, number]> = [
      [0, 0],
      [0.15, 60],
      [0.4, 300],
    ];
    const made = await material("Violet pad", {
      curve,
      curveSource: "own press, two sheets",
      conductivityWPerMK: 9.5,
      conductsElectricity: true,
      attacksAluminium: true,
      note: "tears",
    });
    expect(made).toMatchObject({ curve, curveSource: "own press, two sheets", conductivityWPerMK: 9.5, note: "tears" });
    const kept = await lot(made.id, {
      thicknessMm: 0.75,
      widthMm: 100,
      heightMm: 50,
      openedOn: "2026-10-01",
      useBefore: "2027-10-01",
    });
    expect(kept).toMatchObject({
      thicknessMm: 0.75,
      openedOn: "2026-10-01",
      useBefore: "2027-10-01",
      leftOverOf: null,
    });
  });
});

describe("taking out and giving back", () => {
  it("many at once never take more than there is", async () => {
    const { id } = await lot((await material("Wipes", { kind: "wipes" })).id, { amount: 5 });
    const answers = await Promise.all(Array.from({ length: 12 }, () => use(id, 1)));
    expect(answers.filter((one) => one.status < 300)).toHaveLength(5);
    expect(await amountOf(id)).toBe(0);
  });

  it("counts to a hundredth without creeping digits, and gives all of it back", async () => {
    const { id } = await lot((await material("Oil", { kind: "oil" })).id, { amount: 1 });
    for (let k = 0; k < 7; k++) await use(id, 0.1);
    expect(await amountOf(id)).toBeCloseTo(0.3, 9);
    const { body } = await server.ask<Use[]>("GET", `/api/services/${card.serviceId}/uses`);
    for (const one of body.filter((taken) => taken.lotId === id))
      await server.ask("PUT", `/api/uses/${one.id}/removed`, { removed: true });
    expect(await amountOf(id)).toBeCloseTo(1, 9);
  });

  it("given back and taken again by Undo, as often as pressed", async () => {
    const { id } = await lot((await material("Swabs", { kind: "wipes" })).id, { amount: 20 });
    const { body } = await use(id, 8);
    const taken = body.at(-1)!;
    for (const removed of [true, false, false, true, true, false])
      await server.ask("PUT", `/api/uses/${taken.id}/removed`, { removed });
    expect(await amountOf(id)).toBe(12);
  });

  it("of nothing, of less than nothing or for nobody is refused, and nothing is taken", async () => {
    const { id } = await lot((await material("Alcohol", { kind: "alcohol" })).id, { amount: 500 });
    for (const amount of [0, -3]) expect((await use(id, amount)).status).toBe(422);
    expect((await use("no-such-lot", 1)).status).toBe(404);
    const nobody = await server.ask<Refusal>("POST", "/api/services/nobody/uses", {
      lotId: id,
      amount: 1,
      what: "",
      accepted: false,
    });
    expect(nobody.status).toBe(404);
    expect(await amountOf(id)).toBe(500);
  });
});

describe("stock as the check sees it", () => {
  /** In a process of its own, as the server goes on. */
  /** While the server goes on: it may be in the middle of a write that has to end first. */
  const check = async ({ database }: TestServer, ...words: string[]): Promise<CheckReport["stock"]> => {
    const child = spawn(process.execPath, ["bin/algidus", "check", "--json", ...words], {
      cwd: root,
      stdio: ["ignore", "pipe", "inherit"],
      env: { ...process.env, ALGIDUS_DB: database },
    });
    return (JSON.parse(await text(child.stdout)) as CheckReport).stock;
  };

  it("is what was put in without what was taken: after uses, recounts, uses taken back, and an import", async () => {
    const spray = await lot((await material("Spray", { kind: "wipes" })).id, { amount: 20 });
    const first = (await use(spray.id, 4)).body.at(-1)!;
    const counted = (await stores()).lots.find((one) => one.id === spray.id)!;
    const { leftOverOf: _, ...input } = counted;
    // Counted by hand: 7, whatever was put in.
    await server.ask("PUT", `/api/lots/${spray.id}`, { ...input, amount: 7 });
    await server.ask("PUT", `/api/uses/${first.id}/removed`, { removed: true });
    expect(await amountOf(spray.id)).toBe(11);
    await use(spray.id, 10);
    // There is not enough for the first any more: it is refused, and no amount is made up.
    const { status, body } = await server.ask<Refusal>("PUT", `/api/uses/${first.id}/removed`, { removed: false });
    expect([status, body.code, await amountOf(spray.id)]).toEqual([422, "not-enough", 1]);
    expect((await check(server)).wrong).toEqual([]);
    const other = await openTestServer();
    const everything = (
      await server.ask<{ tables: { lots: Array<Record<string, unknown>> } }>("GET", "/api/export.json")
    ).body;
    for (const one of everything.tables.lots) delete one.beforeUses;
    expect((await other.ask("POST", "/api/import", everything)).status).toBe(200);
    expect((await check(other)).wrong).toEqual([]);
    await other.close();
  });

  it("tells a lot that holds something else, and sets it right when asked to", async () => {
    const { id } = await lot((await material("Gloves", { kind: "wipes" })).id, { amount: 50 });
    await use(id, 6);
    await server.running.context.store.client.execute({ sql: "UPDATE lots SET amount = 49 WHERE id = ?", args: [id] });
    expect((await check(server)).wrong).toEqual([{ id, label: "", amount: 49, shouldBe: 44 }]);
    expect((await check(server, "--repair")).repaired).toBe(true);
    expect([(await check(server)).wrong, await amountOf(id)]).toEqual([[], 44]);
    // More taken than there ever was: nothing is left, and the next look finds nothing wrong.
    await server.running.context.store.client.execute({
      sql: "UPDATE lots SET before_uses = 2 WHERE id = ?",
      args: [id],
    });
    await check(server, "--repair");
    expect([(await check(server)).wrong, await amountOf(id)]).toEqual([[], 0]);
  });
});

describe("what runs low", () => {
  it("is summed over a material's lots, and comes up on the Bench until there is more", async () => {
    const screws = await material("Screws M2", { kind: "screw", lowAt: 12 });
    const first = await lot(screws.id, { amount: 8 });
    await lot(screws.id, { amount: 6 });
    const low = async () => (await stores()).low.find((one) => one.materialId === screws.id);
    expect(await low()).toBeUndefined();
    await use(first.id, 2);
    expect(await low()).toMatchObject({ name: "Screws M2", left: 12, lowAt: 12, unit: "piece" });
    await lot(screws.id, { amount: 50 });
    expect(await low()).toBeUndefined();
  });

  it("a material taken off takes its warnings along; Undo brings both back", async () => {
    const fan = await material("Fan 85 mm", { kind: "fan", lowAt: 1 });
    await lot(fan.id, { amount: 1, useBefore: "2020-01-01" });
    const named = async (): Promise<boolean[]> => {
      const { materials, low } = await stores();
      return [materials.some((one) => one.id === fan.id), low.some((one) => one.materialId === fan.id)];
    };
    expect(await named()).toEqual([true, true]);
    await server.ask("PUT", `/api/materials/${fan.id}/removed`, { removed: true });
    expect(await named()).toEqual([false, false]);
    await server.ask("PUT", `/api/materials/${fan.id}/removed`, { removed: false });
    expect(await named()).toEqual([true, true]);
  });
});

describe("two windows on one material", () => {
  it("the second is told, and what the first wrote stands", async () => {
    const { version, id, ...input } = await material("Two windows");
    const first = await server.ask<Stores>("PUT", `/api/materials/${id}`, { ...input, note: "first", version });
    expect(first.status).toBe(200);
    const second = await server.ask<Refusal>("PUT", `/api/materials/${id}`, { ...input, note: "second", version });
    expect([second.status, second.body.code]).toEqual([409, "changed-elsewhere"]);
    expect((await stores()).materials.find((one) => one.id === id)?.note).toBe("first");
  });
});

describe("prices", () => {
  it("are noted for a size, shown with it, and taken off with Undo", async () => {
    const pad = await material("Priced pad");
    const offer = { materialId: pad.id, label: "any shop", thicknessMm: 1.5, widthMm: 120, heightMm: 85, price: 15 };
    const { body } = await server.ask<Stores>("POST", "/api/offers", offer);
    const made = body.offers.find((one) => one.materialId === pad.id);
    expect(made).toMatchObject(offer);
    const dearer = { ...offer, price: 17, version: made?.version };
    const changed = await server.ask<Stores>("PUT", `/api/offers/${made?.id}`, dearer);
    expect(changed.body.offers.find((one) => one.id === made?.id)).toMatchObject({ price: 17, version: 2 });
    expect((await server.ask("PUT", `/api/offers/${made?.id}`, { ...dearer, price: 16 })).status).toBe(409);
    const wrong = await server.ask<Refusal>("POST", "/api/offers", { ...offer, price: -1 });
    expect(Object.keys(wrong.body.errors)).toEqual(["price"]);
    await server.ask("PUT", `/api/offers/${made?.id}/removed`, { removed: true });
    expect((await stores()).offers.some((one) => one.id === made?.id)).toBe(false);
  });
});
