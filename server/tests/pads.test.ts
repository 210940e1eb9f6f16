import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  type BoardMapView,
  type Card,
  type DayView,
  EMPTY_MATERIAL,
  EMPTY_PAD_PLAN,
  type ExportFile,
  type Lot,
  type OpenPads,
  type PadJob,
  type PadPlanInput,
  type QuoteView,
  type ServiceLine,
  type ServiceView,
  type Stores,
  type Use,
} from "#contract";
import type { ProblemDetail } from "#core";
import { addScrew, type BoardMap, EMPTY_MAP, PACKAGES, type Package, stampPart } from "#core/boardmap/index.ts";
import { openTestServer, type TestServer, takeIn, until } from "./server.ts";

let server: TestServer;
let card: Card;
beforeAll(async () => {
  server = await openTestServer();
  card = await takeIn(server);
});
afterAll(() => server.close());

const MAP: BoardMap = addScrew(
  stampPart(
    { ...EMPTY_MAP, die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 } },
    PACKAGES[0]!,
    { xMm: 80, yMm: 52 },
    "front",
  ).map,
  { xMm: 95, yMm: 25 },
).map;
type Refusal = ProblemDetail & { errors: Record<string, string> };
const path = (): string => `/api/boards/${card.boardModelId}/map`;
const pads = (one: Card = card): string => `/api/services/${one.serviceId}/pads`;

describe("board maps", () => {
  it("begin empty, are kept with their version, and refuse a change made from an older one", async () => {
    expect((await server.ask<BoardMapView>("GET", path())).body).toMatchObject({ version: 0, map: { parts: [] } });
    const kept = await server.ask<BoardMapView>("PUT", path(), { map: MAP, version: 0 });
    expect(kept.body).toMatchObject({ version: 1, map: MAP, boardName: "OF-70" });
    const late = await server.ask<Refusal>("PUT", path(), { map: EMPTY_MAP, version: 0 });
    expect([late.status, late.body.code]).toEqual([409, "changed-elsewhere"]);
    expect((await server.ask<BoardMapView>("GET", path())).body.map).toEqual(MAP);
    expect((await server.ask("GET", "/api/boards/nobody/map")).status).toBe(404);
  });

  it.each([
    ["a newer version", { ...MAP, version: 99 }, "map.version", /newer version/],
    ["another file", { ...MAP, format: "drawing" }, "map.format", /not a board map/],
    ["a board of metres", { ...MAP, board: { ...MAP.board, widthMm: 24000 } }, "map.board.widthMm", /10 to 1000 mm/],
    ["a part without size", { ...MAP, parts: [{ ...MAP.parts[0], widthMm: 0 }] }, "map.parts.0.widthMm", /size/],
  ])("refuse %s by name and stay as they were", async (_, map, field, words) => {
    const refused = await server.ask<Refusal>("PUT", path(), { map, version: 1 });
    expect(refused.status).toBe(422);
    expect(refused.body.errors[field]).toMatch(words);
    expect((await server.ask<BoardMapView>("GET", path())).body.version).toBe(1);
  });

  it("take a photo underneath, without the data of its camera, and let it go again", async () => {
    const form = new FormData();
    const picture = await sharp({ create: { width: 40, height: 20, channels: 3, background: "#445566" } })
      .withExif({ IFD0: { Copyright: "secret place" } })
      .jpeg()
      .toBuffer();
    form.append("place", JSON.stringify({ xMm: 120, yMm: 52, widthMm: 240, heightMm: 104 }));
    form.append("photo", new Blob([new Uint8Array(picture)]), "board.jpg");
    const kept = await server.ask<BoardMapView>("PUT", path().replace("map", "underlay"), form);
    expect(kept.body.underlay).toMatchObject({ widthMm: 240, heightMm: 104 });
    expect(kept.body.map).toEqual(MAP);
    const answer = await fetch(new URL(`${path().replace("map", "underlay")}.jpg`, server.running.address));
    const bytes = Buffer.from(await answer.arrayBuffer());
    expect((await sharp(bytes).metadata()).width).toBe(40);
    expect(bytes.includes("secret place")).toBe(false);
    const gone = await server.ask<BoardMapView>("PUT", path().replace("map", "underlay"), new FormData());
    expect(gone.body.underlay).toBeNull();
    // Nothing of it is lost: it can be put back as it was.
    const back = new FormData();
    back.append("place", JSON.stringify(kept.body.underlay));
    const again = await server.ask<BoardMapView>("PUT", path().replace("map", "underlay"), back);
    expect(again.body.underlay).toEqual(kept.body.underlay);
    back.set("place", JSON.stringify({ ...kept.body.underlay, hash: "nowhere" }));
    expect((await server.ask("PUT", path().replace("map", "underlay"), back)).status).toBe(404);
  });

  it("have a list of packages that can be changed", async () => {
    const own: Package = { name: "Memory 16 × 10", kind: "memory", widthMm: 16, heightMm: 10, tallMm: 1 };
    const { body: list } = await server.ask<Package[]>("GET", "/api/packages");
    expect(list).toContainEqual(expect.objectContaining({ widthMm: 14, heightMm: 12 }));
    expect((await server.ask<Package[]>("PUT", "/api/packages", [...list, own])).body.at(-1)).toEqual(own);
    expect((await server.ask("PUT", "/api/packages", [{ ...own, widthMm: -1 }])).status).toBe(422);
  });
});

it("pads come up on the Bench where they were decided on, and a skip with its reason leads on", async () => {
  const one = await takeIn(server);
  const service = `/api/services/${one.serviceId}`;
  await server.ask("PUT", `${service}/skip`, { station: "baseline", reason: "runs elsewhere" });
  const decision = { choice: "pads", recommended: "pads", reason: "" };
  await server.ask("PUT", `${service}/decision`, decision);
  const next = async (): Promise<string | undefined> =>
    (await server.ask<ServiceLine[]>("GET", "/api/bench")).body.find((entry) => entry.cardId === one.id)?.stationTitle;
  expect(await next()).toBe("Strip");
  await server.ask("PUT", `${service}/skip`, { station: "strip", reason: "is open already" });
  expect(await next()).toBe("Clean");
  await server.ask("PUT", `${service}/skip`, { station: "clean", reason: "no dust in it" });
  expect(await next()).toBe("Pads");
  await server.ask("PUT", `${service}/skip`, { station: "pads", reason: "old ones are whole" });
  expect(await next()).toBe("Compound");
});

const READING = { partId: "M1", source: "squeezed", valueMm: 1.1, padState: "moist", softness: "soft", coverPct: 40 };

describe("gap readings", () => {
  it("are kept per card, taken back and put back; earlier cards of the model count", async () => {
    const first = await server.ask<PadJob>("POST", `/api/services/${card.serviceId}/gaps`, {
      readings: [READING, { ...READING, valueMm: 1.15 }],
    });
    expect(first.body.readings.map((one) => one.valueMm)).toEqual([1.1, 1.15]);
    const id = first.body.readings[1]?.id;
    const less = await server.ask<PadJob>("PUT", `/api/gaps/${id}/removed`, { removed: true });
    expect(less.body.readings).toHaveLength(1);
    await server.ask("PUT", `/api/gaps/${id}/removed`, { removed: false });
    const next = await takeIn(server);
    const { body } = await server.ask<PadJob>("GET", pads(next));
    expect(body).toMatchObject({ earlierCards: 1, map: MAP, mapVersion: 1, boardName: "OF-70" });
    expect(new Set(body.readings.map((one) => one.card))).toEqual(new Set([card.serviceId]));
  });

  it("refuse inches typed as millimetres, and a card without a board model", async () => {
    const inch = await server.ask<Refusal>("POST", `/api/services/${card.serviceId}/gaps`, {
      readings: [{ ...READING, valueMm: 25 }],
    });
    expect(inch.body.errors["readings.0.valueMm"]).toMatch(/inches/);
    const { body: loose } = await server.ask<Card>("POST", "/api/cards", {
      ...card,
      boardModelId: null,
      newBoardModel: "",
      serial: "no board",
    });
    const refused = await server.ask<Refusal>("POST", `/api/services/${loose.serviceId}/gaps`, { readings: [READING] });
    expect(refused.body).toMatchObject({ code: "no-board-model", remedy: expect.stringContaining("Take in") });
  });
});

async function stock(): Promise<{ stores: Stores; lot: Lot }> {
  const { body: made } = await server.ask<Stores>("POST", "/api/materials", {
    ...EMPTY_MATERIAL,
    name: `Pad ${Math.random()}`,
    conductivityWPerMK: 6,
    lowAt: 1,
  });
  const material = made.materials.find(
    (one) => !made.lots.some((lot) => lot.materialId === one.id) && one.kind === "pad",
  );
  const { body: stores } = await server.ask<Stores>("POST", "/api/lots", {
    materialId: material?.id,
    label: "",
    thicknessMm: 1.25,
    widthMm: 85,
    heightMm: 45,
    amount: 2,
    price: 7,
    openedOn: null,
    useBefore: null,
  });
  return { stores, lot: stores.lots.find((one) => one.materialId === material?.id)! };
}

const lotNow = async (id: string): Promise<Lot | undefined> =>
  (await server.ask<Stores>("GET", "/api/stores")).body.lots.find((one) => one.id === id);

describe("pad plans and booking", () => {
  it("keeps a plan, shows it as the station's figure, and books a cut sheet with its left-overs, there and back", async () => {
    const { lot } = await stock();
    const plan: PadPlanInput = {
      ...EMPTY_PAD_PLAN,
      picks: {
        M1: {
          materialId: lot.materialId,
          thicknessMm: 1.25,
          layers: 1,
          widthMm: 14,
          heightMm: 12,
          offXMm: 0,
          offYMm: 0,
          filmLeft: false,
        },
      },
      cutting: {
        sheets: [
          {
            from: "lot",
            sourceId: lot.id,
            materialId: lot.materialId,
            thicknessMm: 1.25,
            widthMm: 85,
            heightMm: 45,
            price: 0,
            pieces: [
              { pieceId: "A", xMm: 0, yMm: 0, widthMm: 14, heightMm: 12, rotated: false, notches: [], cut: true },
            ],
            leftOvers: [
              { xMm: 14, yMm: 0, widthMm: 71, heightMm: 45 },
              { xMm: 0, yMm: 12, widthMm: 14, heightMm: 33 },
              { xMm: 0, yMm: 0, widthMm: 3, heightMm: 45 },
            ],
            booked: false,
          },
        ],
        unplaced: [],
        cost: 0,
        lowerBoundCost: 0,
      },
    };
    const kept = await server.ask<PadJob>("PUT", pads(), { plan, version: 0 });
    expect(kept.body).toMatchObject({ version: 1, plan });
    const { body: service } = await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`);
    expect(service.stations.find((one) => one.id === "pads")).toMatchObject({
      state: "done",
      figure: "1 pad · 1.25 mm",
    });

    const early = await server.ask<Refusal>("PUT", `${pads()}/booked`, { sheet: 0, booked: true, version: 0 });
    expect(early.body.code).toBe("changed-elsewhere");
    expect((await lotNow(lot.id))?.amount).toBe(2);
    const booked = await server.ask<PadJob>("PUT", `${pads()}/booked`, { sheet: 0, booked: true, version: 1 });
    expect(booked.body).toMatchObject({ version: 2, plan: { cutting: { sheets: [{ booked: true }] } } });
    expect((await lotNow(lot.id))?.amount).toBe(1);
    const left = (await server.ask<Stores>("GET", "/api/stores")).body.lots.filter((one) => one.leftOverOf !== null);
    // The strip of 3 mm is waste.
    expect(new Set(left.map((one) => `${one.widthMm} × ${one.heightMm}, ${one.amount}`))).toEqual(
      new Set(["14 × 33, 1", "71 × 45, 1"]),
    );
    const again = await server.ask<PadJob>("PUT", `${pads()}/booked`, { sheet: 0, booked: true, version: 1 });
    expect(again.body.version).toBe(2);
    expect((await lotNow(lot.id))?.amount).toBe(1);

    // A page can’t book by calling a sheet booked, nor take over the booking of another.
    const { plan: held } = again.body;
    const [own] = held.cutting?.sheets ?? [];
    const claim = (sheets: unknown[]) =>
      server.ask<PadJob>("PUT", pads(), {
        plan: { ...held, cutting: { ...held.cutting, sheets } },
        version: again.body.version,
        changes: [],
      });
    const claimed = await claim([own, { ...own, bookingId: "of another card" }, { ...own }]);
    expect(claimed.body.plan.cutting?.sheets.map(({ booked }) => booked)).toEqual([true, false, false]);
    const back = await server.ask<PadJob>("PUT", pads(), { plan: held, version: claimed.body.version, changes: [] });
    expect(back.body.plan.cutting?.sheets[0]).toMatchObject({ booked: true, bookingId: own?.bookingId });
    // Left-overs may be called anything by now, and a use by hand may be called like a booking's.
    for (const { id, version, leftOverOf: _left, ...body } of left)
      await server.ask("PUT", `/api/lots/${id}`, { ...body, label: "Top drawer", version });
    await server.ask("POST", `/api/services/${card.serviceId}/uses`, {
      lotId: lot.id,
      amount: 0.25,
      what: "Pads cut, sheet 1",
      accepted: false,
    });
    const { body: uses } = await server.ask<Use[]>("GET", `/api/services/${card.serviceId}/uses`);
    const ofBooking = uses.find((one) => one.bookingId !== null);
    const byHand = await server.ask<Refusal>("PUT", `/api/uses/${ofBooking?.id}/removed`, { removed: true });
    expect(byHand.body.code).toBe("booked");

    await server.ask("PUT", `${pads()}/booked`, { sheet: 0, booked: false, version: back.body.version });
    expect((await lotNow(lot.id))?.amount).toBe(1.75);
    const { body: after } = await server.ask<Stores>("GET", "/api/stores");
    expect(after.lots.filter((one) => one.leftOverOf !== null)).toEqual([]);
  });

  it("books nothing that is no longer there, and says so", async () => {
    const { lot } = await stock();
    const { body: job } = await server.ask<PadJob>("GET", pads());
    const cutting = job.plan.cutting!;
    const plan = { ...job.plan, cutting: { ...cutting, sheets: [{ ...cutting.sheets[0], sourceId: lot.id }] } };
    const { body: kept } = await server.ask<PadJob>("PUT", pads(), { plan, version: job.version });
    await server.ask("POST", `/api/services/${card.serviceId}/uses`, {
      lotId: lot.id,
      amount: 2,
      what: "",
      accepted: false,
    });
    const refused = await server.ask<Refusal>("PUT", `${pads()}/booked`, {
      sheet: 0,
      booked: true,
      version: kept.version,
    });
    expect(refused.body.code).toBe("not-enough");
    expect((await server.ask<PadJob>("GET", pads())).body.plan.cutting?.sheets[0]?.booked).toBe(false);
  });
});

it("a card whose pads have to be bought waits for them in the plan until they are put into stock", async () => {
  const ALWAYS = Array.from({ length: 7 }, () => ({ fromMin: 0, untilMin: 1440 }));
  await server.ask("PUT", "/api/settings/week", { people: [], opening: ALWAYS });
  const { body: stores } = await server.ask<Stores>("GET", "/api/stores");
  const materialId = stores.materials[0]?.id ?? "";
  const sheet = { materialId, thicknessMm: 2.75, widthMm: 90, heightMm: 50, price: 9, label: "shop" };
  const { body: priced } = await server.ask<Stores>("POST", "/api/offers", { ...sheet, leadDays: 5 });
  const offer = priced.offers.find(({ leadDays }) => leadDays === 5);
  const { body: job } = await server.ask<PadJob>("GET", pads());
  const pick = {
    materialId,
    thicknessMm: 2.75,
    layers: 1,
    widthMm: 14,
    heightMm: 12,
    offXMm: 0,
    offYMm: 0,
    filmLeft: false,
  };
  const cutting = {
    sheets: [
      { from: "offer", sourceId: offer?.id, ...sheet, label: undefined, pieces: [], leftOvers: [], booked: false },
    ],
    unplaced: [],
    cost: 9,
    lowerBoundCost: 9,
  };
  const plan = { ...job.plan, picks: { M1: pick }, cutting };
  expect((await server.ask("PUT", pads(), { plan, version: job.version })).status).toBe(200);
  // The quote takes its pads at what the plan costs, with the usual compound of 6.00.
  const { body: quoted } = await server.ask<QuoteView>("GET", `/api/services/${card.serviceId}/quote`);
  expect(quoted.quote.options.find(({ work }) => work === "pads")?.materialUnits).toBe(900 + 600);
  const { body: open } = await server.ask<OpenPads[]>("GET", "/api/pads/open");
  expect(open.find(({ serviceId }) => serviceId === card.serviceId)).toMatchObject({ picks: { M1: pick } });
  /** When the first step that the pads are needed for begins, in days from now. */
  const days = (isIt: (value: number) => boolean): Promise<number> =>
    until(async () => {
      const { body: day } = await server.ask<DayView>("GET", "/api/day");
      const starts = (day.plan?.blocks ?? [])
        .filter(({ serviceId, id }) => serviceId === card.serviceId && ["pads", "compound", "closeUp"].includes(id))
        .map(({ startMs }) => startMs);
      return (Math.min(...starts) - day.atMs) / 86_400_000;
    }, isIt);
  const waits = await days((value) => value > 4.9 && value < 99);
  expect(waits).toBeGreaterThan(4.9);
  expect(waits).toBeLessThan(5.2);
  // Ordered three days ago: two are left, counted from noon.
  const orderedOn = new Date(Date.now() - 3 * 86_400_000).toISOString().slice(0, 10);
  const { body: ordered } = await server.ask<Stores>("PUT", `/api/offers/${offer?.id}`, {
    ...sheet,
    leadDays: 5,
    orderedOn,
    version: 1,
  });
  expect(ordered.offers.find(({ id }) => id === offer?.id)).toMatchObject({ orderedOn, version: 2 });
  expect(await days((value) => value < 2.6)).toBeGreaterThan(0.9);
  const { body: come } = await server.ask<Stores>("POST", "/api/lots", {
    ...sheet,
    amount: 1,
    openedOn: null,
    useBefore: null,
  });
  expect(come.offers.find(({ id }) => id === offer?.id)).toMatchObject({ orderedOn: null, version: 3 });
  expect(await days((value) => value < 0.9)).toBeLessThan(0.9);
  // As it was for what comes after.
  const { body: now } = await server.ask<PadJob>("GET", pads());
  await server.ask("PUT", pads(), { plan: job.plan, version: now.version });
});

describe("the stores", () => {
  it("say what is low and what is past its day", async () => {
    const { lot } = await stock();
    const { version: _version, id, leftOverOf: _left, ...body } = lot;
    const changed = await server.ask<Stores>("PUT", `/api/lots/${id}`, {
      ...body,
      amount: 1,
      useBefore: "2020-01-01",
      version: lot.version,
    });
    expect(changed.body.low).toContainEqual(expect.objectContaining({ materialId: lot.materialId, left: 1, lowAt: 1 }));
    expect(changed.body.stale).toContainEqual(expect.objectContaining({ lotId: id, useBefore: "2020-01-01" }));
    const old = await server.ask<Refusal>("PUT", `/api/lots/${id}`, { ...body, version: lot.version });
    expect(old.body.code).toBe("changed-elsewhere");
  });

  it("book what is used, refuse more than there is, and take it back once", async () => {
    const { lot } = await stock();
    const uses = `/api/services/${card.serviceId}/uses`;
    const taken = await server.ask<Use[]>("POST", uses, { lotId: lot.id, amount: 1.5, what: "", accepted: false });
    const use = taken.body.at(-1);
    expect(use).toMatchObject({ amount: 1.5, unit: "sheet" });
    expect((await lotNow(lot.id))?.amount).toBe(0.5);
    const more = await server.ask<Refusal>("POST", uses, { lotId: lot.id, amount: 1, what: "", accepted: false });
    expect(more.body.what).toMatch(/Only 0.5 sheet/);
    for (let twice = 0; twice < 2; twice++) await server.ask("PUT", `/api/uses/${use?.id}/removed`, { removed: true });
    expect((await lotNow(lot.id))?.amount).toBe(2);
  });

  it("let liquid metal out only when its danger is accepted, and keep that on record", async () => {
    const { body: made } = await server.ask<Stores>("POST", "/api/materials", {
      ...EMPTY_MATERIAL,
      kind: "liquid metal",
      name: "Liquid metal",
      conductivityWPerMK: 73,
      conductsElectricity: true,
      attacksAluminium: true,
    });
    const material = made.materials.find((one) => one.name === "Liquid metal");
    const { body } = await server.ask<Stores>("POST", "/api/lots", {
      materialId: material?.id,
      label: "",
      thicknessMm: null,
      widthMm: null,
      heightMm: null,
      amount: 1,
      price: 14,
      openedOn: null,
      useBefore: null,
    });
    const lotId = body.lots.find((one) => one.materialId === material?.id)?.id;
    const uses = `/api/services/${card.serviceId}/uses`;
    const refused = await server.ask<Refusal>("POST", uses, { lotId, amount: 0.2, what: "", accepted: false });
    expect(refused.body).toMatchObject({ code: "needs-accept", what: expect.stringContaining("destroys aluminium") });
    const accepted = await server.ask<Use[]>("POST", uses, { lotId, amount: 0.2, what: "", accepted: true });
    expect(accepted.body.at(-1)).toMatchObject({ accepted: true, materialName: "Liquid metal" });
    expect((await lotNow(lotId ?? ""))?.amount).toBe(0.8);
  });

  it.each([
    [
      "a curve that falls",
      {
        curve: [
          [0, 0],
          [0.2, 80],
          [0.1, 90],
        ],
      },
      "curve",
    ],
    ["a conductivity of 0", { conductivityWPerMK: 0 }, "conductivityWPerMK"],
    ["no name", { name: " " }, "name"],
  ])("refuse a material with %s", async (_, more, field) => {
    const refused = await server.ask<Refusal>("POST", "/api/materials", { ...EMPTY_MATERIAL, name: "x", ...more });
    expect(Object.keys(refused.body.errors)[0]).toMatch(new RegExp(`^${field}`));
  });
});

it("maps, readings, plans and stores travel with the export", async () => {
  const { body: file } = await server.ask<ExportFile>("GET", "/api/export.json");
  const other = await openTestServer();
  try {
    const { body: report } = await other.ask<{ added: Record<string, number> }>("POST", "/api/import", file);
    for (const table of ["boardMaps", "gapReadings", "padPlans", "materials", "lots", "lotUses"])
      expect([table, report.added[table]]).toEqual([table, expect.any(Number)]);
    expect((await other.ask<BoardMapView>("GET", path())).body.map).toEqual(MAP);
    const [here, there] = await Promise.all([
      server.ask<Stores>("GET", "/api/stores"),
      other.ask<Stores>("GET", "/api/stores"),
    ]);
    expect(there.body).toEqual(here.body);
    expect((await other.ask<PadJob>("GET", pads())).body).toEqual((await server.ask<PadJob>("GET", pads())).body);
  } finally {
    await other.close();
  }
});
