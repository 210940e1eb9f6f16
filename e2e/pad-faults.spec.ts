import { expect, type Page, test } from "@playwright/test";
import { type Card, EMPTY_CARD, EMPTY_MATERIAL, type PadJob, type Stores } from "#contract";
import { addScrew, type BoardMap, EMPTY_MAP, makeRow, mirrorCopy, PACKAGES, stampPart } from "#core/boardmap/index.ts";
import { App, Bench } from "./support/app.ts";

// One workshop for all: a card whose board is drawn and whose gaps are read, so that each test begins where it goes wrong.
let app: App;
let card: Card;
test.beforeAll(async () => {
  app = await new App({ between: true }).start();
  card = await ask<Card>("POST", "/api/cards", {
    ...EMPTY_CARD,
    maker: "Ostrel",
    model: "Fjell 60",
    newBoardModel: "OF-60",
  });
  await keepMap(MAP);
  await ask("POST", `/api/services/${card.serviceId}/gaps`, {
    readings: MAP.parts.map(({ id }) => ({
      partId: id,
      source: "gap",
      valueMm: 1.1,
      padState: "unknown",
      softness: "unknown",
      coverPct: null,
    })),
  });
});
test.afterEach(() => {
  app.network = undefined;
});
test.afterAll(() => app.close());

async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  const answer = await fetch(app.ownUrl(path), {
    method,
    headers: { "Content-Type": "application/json" },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  return (await answer.json()) as T;
}

const MAP: BoardMap = (() => {
  let map: BoardMap = { ...EMPTY_MAP, die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 } };
  for (const xMm of [95, 145]) for (const yMm of [25, 79]) map = addScrew(map, { xMm, yMm }).map;
  const one = stampPart(map, PACKAGES[0]!, { xMm: 85, yMm: 44 }, "front");
  const two = makeRow(one.map, one.ids, 2, 0, 16);
  return mirrorCopy(two.map, two.ids, "left-right").map;
})();
const mapPath = (): string => `/api/boards/${card.boardModelId}/map`;
async function keepMap(map: BoardMap): Promise<void> {
  const { version } = await ask<{ version: number }>("GET", mapPath());
  await ask("PUT", mapPath(), { map, version });
}
async function addMaterial(name: string, more: object): Promise<string> {
  const stores = await ask<Stores>("POST", "/api/materials", {
    ...EMPTY_MATERIAL,
    name,
    conductivityWPerMK: 6,
    ...more,
  });
  return stores.materials.find((one) => one.name === name)?.id ?? "";
}
const addLot = (materialId: string, more: object) =>
  ask<Stores>("POST", "/api/lots", {
    materialId,
    label: "",
    thicknessMm: null,
    widthMm: null,
    heightMm: null,
    amount: 1,
    price: 6,
    openedOn: null,
    useBefore: null,
    ...more,
  });
const CURVE = [
  [0, 0],
  [0.1, 35],
  [0.2, 80],
  [0.3, 150],
  [0.5, 480],
];
const open = async (page: Page, step: string): Promise<void> =>
  new Bench(page, app).open(`/cards/${card.id}/pads?do=${step}`);
const padJob = (): Promise<PadJob> => ask<PadJob>("GET", `/api/services/${card.serviceId}/pads`);
const readingsNow = async (): Promise<number> => (await padJob()).readings.length;

test("a die without screws, parts that overlap or lie off the board: said with the way to mend it, readings kept", async ({
  page,
}) => {
  const wrong: Array<[BoardMap, RegExp]> = [
    [{ ...MAP, screws: [] }, /The die has no screws/],
    [{ ...MAP, parts: MAP.parts.map((part) => (part.id === "M2" ? { ...part, yMm: 48 } : part)) }, /M2 overlaps M1/],
    [
      { ...MAP, parts: MAP.parts.map((part) => (part.id === "M3" ? { ...part, xMm: 238 } : part)) },
      /M3 lies off the board/,
    ],
  ];
  for (const [map, words] of wrong) {
    await keepMap(map);
    await open(page, "choose");
    await expect(page.getByRole("main").getByText(words)).toBeVisible();
    await expect(page.getByText("readings and choices are kept")).toBeVisible();
  }
  await page.getByRole("link", { name: "Mend it on the board map" }).click();
  await expect(page.getByText("One thing to mend")).toBeVisible();
  await page.getByRole("button", { name: "Show M3" }).click();
  await page.getByLabel("Centre x (mm)", { exact: true }).fill("155");
  await page.keyboard.press("Enter");
  await expect(page.getByText("One thing to mend")).toHaveCount(0);
  await expect(page.getByRole("status").first()).toHaveText("saved");
  expect(await readingsNow()).toBe(4);
});

test("a reading below nothing, a place not on the map and a word for a number are questioned; what was typed stays", async ({
  page,
}) => {
  await keepMap(MAP);
  await open(page, "measure");
  const reading = page.getByLabel(/^Reading of M/);
  for (const [text, words] of [
    ["-0.4", "-0.4 is negative: zero the caliper"],
    ["about 1", "“about” is no reading"],
    ["0.04", "0.04 would be a pad of 0.04 mm"],
  ] as const) {
    await reading.fill(text);
    await page.keyboard.press("Enter");
    await expect(page.getByRole("alert")).toContainText(words);
    await expect(reading).toHaveValue(text);
  }
  expect(await readingsNow()).toBe(4);
  // A caliper types faster than the server answers.
  let network: "slow" | "away" | "answer lost" | "held" = "slow";
  let release: (() => void) | undefined;
  let late: Promise<number> | undefined;
  app.network = (_, path, reach) => {
    if (!path.endsWith("/gaps")) return undefined;
    const now = network;
    return (async () => {
      if (now === "held") {
        late ??= new Promise<void>((resolve) => {
          release = resolve;
        }).then(reach);
        await late;
        return false;
      }
      await new Promise((resolve) => setTimeout(resolve, 500));
      if (now === "answer lost") await reach();
      return now === "slow";
    })();
  };
  await reading.fill("");
  for (const text of ["1.05", "1.07"]) {
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  }
  await expect.poll(readingsNow).toBe(6);
  // What could not be kept is told, waits at its place, and outlives the page.
  network = "away";
  await page.keyboard.type("1.09");
  await page.keyboard.press("PageDown");
  await expect(page.getByText(/Typed and not kept yet: M\d/)).toBeVisible();
  await page.reload();
  // At its own place it stands in the field again.
  await expect(reading).toHaveValue("1.09");
  network = "slow";
  await page.keyboard.press("Enter");
  await expect.poll(readingsNow).toBe(7);
  await expect(page.getByText(/Typed and not kept yet/)).toHaveCount(0);
  // One that is kept, its answer lost, is kept once.
  network = "answer lost";
  await page.keyboard.type("1.11");
  await page.keyboard.press("Enter");
  await expect.poll(readingsNow).toBe(8);
  await expect(reading).toHaveValue("1.11");
  network = "slow";
  await page.keyboard.type(" 1.12");
  await page.keyboard.press("Enter");
  await expect.poll(readingsNow).toBe(9);
  // One that was on its way when the page went is sent again from the next, and counts once when both arrive.
  network = "held";
  await page.keyboard.type("1.13");
  await page.keyboard.press("Enter");
  await expect(reading).toHaveValue("");
  await expect.poll(() => release !== undefined).toBe(true);
  network = "slow";
  await page.reload();
  await expect(reading).toHaveValue("1.13");
  await page.keyboard.press("Enter");
  await expect.poll(readingsNow).toBe(10);
  await expect(page.getByText(/Typed and not kept yet/)).toHaveCount(0);
  release?.();
  expect(await late).toBe(201);
  expect(await readingsNow()).toBe(10);
  // The map loses M4: its reading counts for nothing, is told and kept.
  await keepMap({ ...MAP, parts: MAP.parts.filter((part) => part.id !== "M4") });
  await page.reload();
  await expect(page.getByText("Not on the map: M4")).toBeVisible();
  await keepMap(MAP);
  await page.reload();
  await expect(page.getByText("Not on the map: M4")).toHaveCount(0);
});

test("empty stores, a gap no stock can fill, a pad without a curve: each says what to do", async ({ page }) => {
  await keepMap(MAP);
  await open(page, "choose");
  await expect(page.getByText("The stores are empty")).toBeVisible();
  const soft = await addMaterial("Soft grey pad", { curve: CURVE, curveSource: "own press" });
  await addLot(soft, { thicknessMm: 0.5, widthMm: 85, heightMm: 45 });
  await page.reload();
  await page.getByRole("button", { name: "Choose thickness and softness" }).click();
  await expect(page.getByText(/Nothing fits M\d, M\d, M\d, M\d/)).toBeVisible();
  await expect(page.getByText(/Take putty, add a thickness, or measure it again/).first()).toBeVisible();

  const bare = await addMaterial("Pad without a curve", {});
  await addLot(bare, { thicknessMm: 1.5, widthMm: 85, heightMm: 45 });
  await page.reload();
  await page.getByRole("button", { name: "all memory" }).click();
  await page.getByLabel("Material").selectOption({ label: "Pad without a curve" });
  await expect(page.getByRole("alert")).toContainText("Pad without a curve has no softness curve");
  // Nobody has its figures: a typical one will do, and says so.
  await expect(page.getByText("How soft is Pad without a curve?")).toBeVisible();
  await page.getByRole("button", { name: "soft", exact: true }).click();
  await expect(page.getByText("Pad without a curve: softness typical of a soft pad, not measured")).toBeVisible();
  await expect(page.getByText(/✓ The die seats/)).toBeVisible();
  await page.getByLabel("Material").selectOption({ label: "Soft grey pad" });
  await expect(page.getByText(/✓ The die seats/)).toBeVisible();
  await expect
    .poll(async () => new Set(Object.values((await padJob()).plan.picks).map((pick) => pick?.materialId)))
    .toEqual(new Set([soft]));
});

test("a change that is saved, its answer lost, is not taken for another window's", async ({ page }) => {
  let lost = 0;
  let losing: RegExp | undefined;
  let away: RegExp | undefined;
  app.network = (method, path, reach) => {
    if (away?.test(path)) return Promise.resolve(false);
    if (method !== "PUT" || !losing?.test(path)) return undefined;
    losing = undefined;
    return (async () => {
      await reach();
      lost++;
      // Nobody waits for it any more: the page is loaded anew, or the network is gone.
      await new Promise((resolve) => setTimeout(resolve, 700));
      return false;
    })();
  };
  const nothingAsked = async (): Promise<void> => {
    await expect(page.getByText(/was changed in another window/)).toHaveCount(0);
  };

  // The plan: changed, changed again while the answer is missing, and loaded anew.
  await open(page, "choose");
  const face = page.getByLabel("Cooler face (°C)");
  await expect(page.getByText(/The die (seats|does not seat)/)).toBeVisible();
  losing = /\/pads$/;
  await face.fill("51");
  await page.keyboard.press("Enter");
  await expect.poll(() => lost).toBe(1);
  expect((await padJob()).plan.faceC).toBe(51);
  await face.fill("53");
  await page.keyboard.press("Enter");
  await page.reload();
  await expect.poll(async () => (await padJob()).plan.faceC).toBe(53);
  await expect(face).toHaveValue("53");
  await nothingAsked();

  // The map: its answer gets lost on the way, and the page tries again.
  await page.getByRole("link", { name: "Board map of OF-60" }).click();
  // Until the map's page is there, the plan of the pads is on screen and has an M4 of its own.
  await expect(page.getByText(/4 parts · 4 screws/)).toBeVisible();
  await page.locator('[data-thing="M4"]').click();
  losing = /\/map$/;
  await page.keyboard.press("Shift+ArrowUp");
  await expect.poll(() => lost).toBe(2);
  await page.keyboard.press("Shift+ArrowUp");
  await expect(page.getByRole("status").first()).toHaveText("saved");
  await nothingAsked();
  const { map } = await ask<{ map: BoardMap }>("GET", mapPath());
  expect(map.parts.find((one) => one.id === "M4")?.yMm).toBeGreaterThan(MAP.parts[3]?.yMm ?? 0);

  // Taken back while the answer is missing: what is shown is what is kept.
  await page.reload();
  await page.locator('[data-thing="M4"]').click();
  losing = /\/map$/;
  const kept = map.parts.find((one) => one.id === "M4")?.yMm;
  await page.keyboard.press("Shift+ArrowUp");
  await expect.poll(() => lost).toBe(3);
  await page.keyboard.press("ControlOrMeta+z");
  await expect
    .poll(async () => (await ask<{ map: BoardMap }>("GET", mapPath())).map.parts.find((one) => one.id === "M4")?.yMm)
    .toBe(kept);
  await expect(page.getByRole("status").first()).toHaveText("saved");
  await nothingAsked();

  // A screw's pull: steps that follow each other faster than the map is saved, one of them with its answer lost.
  await open(page, "choose");
  await expect(page.getByText(/The die (seats|does not seat)/)).toBeVisible();
  await page.getByLabel("Look at").selectOption("S2");
  losing = /\/map$/;
  const pull = page.getByLabel(/^Pull when seated/);
  await pull.focus();
  const before = Number(await pull.inputValue());
  for (let step = 0; step < 4; step++) await page.keyboard.press("ArrowRight");
  const keptPull = async () =>
    (await ask<{ map: BoardMap }>("GET", mapPath())).map.screws.find((one) => one.id === "S2")?.forceN;
  await expect.poll(() => lost).toBe(4);
  await expect.poll(keptPull).toBe(before + 4);
  await expect(pull).toHaveValue(String(before + 4));
  await expect(page.getByRole("alert")).toHaveCount(0);

  // The network is gone until after the page was loaded anew.
  away = /\/map$/;
  await pull.press("ArrowRight");
  await expect(page.getByRole("alert").first()).toContainText("does not answer");
  await page.reload();
  await page.getByLabel("Look at").selectOption("S2");
  await expect(pull).toHaveValue(String(before + 5));
  expect(await keptPull()).toBe(before + 4);
  away = undefined;
  await expect.poll(keptPull).toBe(before + 5);
  await keepMap(MAP);
});

test("putty for the pad places is weighed, taken out of the stock once, and what is too little is said", async ({
  page,
}) => {
  await keepMap(MAP);
  const putty = await addMaterial("White putty", { kind: "putty", densityGPerMl: 3, mostMm: 3 });
  await addLot(putty, { amount: 3, label: "Tub" });
  await open(page, "choose");
  await page.getByRole("button", { name: "all memory" }).click();
  await page.getByLabel("Material").selectOption({ label: "White putty" });
  await page.getByLabel("Put on this thick (mm)").fill("1.5");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "3. Cut" }).click();
  // 1.15 × 4 × 14 × 12 × 1.5 mm³ are 1.16 ml, of 3 g/ml 3.5 g: more than there is.
  await expect(page.getByText("White putty: 1.16 ml, 3.5 g")).toBeVisible();
  await expect(page.getByText("That is more than there is")).toBeVisible();
  await expect(page.getByRole("button", { name: "Take it out" })).toBeDisabled();
  await addLot(putty, { amount: 10, label: "Second tub" });
  await page.reload();
  await page.getByRole("button", { name: "Take it out" }).click();
  await expect(page.getByText(/9\.52 g in stock\. Taken out for this card: 3\.48 g/)).toBeVisible();
});
