import { expect, type Page, test } from "@playwright/test";
import sharp from "sharp";
import type { BoardMapView, CoolerJob, CoolerLine, CoolerView } from "#contract";
import { addScrew, type BoardMap, EMPTY_MAP, PACKAGES, stampPart } from "#core/boardmap/index.ts";
import { CLEAN, drawnBoard } from "#core/boardphoto/tests/drawn-board.ts";
import { turnedOverCooler } from "#core/coolers/index.ts";
import { App, Bench, expectAccessible, expectFits, textFile } from "./support/app.ts";
import { takeInOpen } from "./support/steps.ts";

test.describe.configure({ mode: "serial" });

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

const BEGUN: BoardMap = {
  ...EMPTY_MAP,
  board: { ...EMPTY_MAP.board, dieTallMm: 2.4 },
  die: { xMm: 100, yMm: 52, widthMm: 20, heightMm: 20 },
};
/** Four holes about a die, uneven so that a mirror image shows, and one memory package left of it. */
const MAP: BoardMap = [
  [-27, -27],
  [27, -27],
  [-27, 27],
  [27, 31],
].reduce(
  (map, [x = 0, y = 0]) => addScrew(map, { xMm: 100 + x, yMm: 52 + y }).map,
  PACKAGES[0] ? stampPart(BEGUN, PACKAGES[0], { xMm: 65, yMm: 52 }, "front").map : BEGUN,
);

/** Types into the field of that name with the keyboard alone. */
async function type(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByLabel(label, { exact: true });
  await field.focus();
  await expect(field).toBeFocused();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type(value);
  await page.keyboard.press("Enter");
}
async function press(page: Page, name: string | RegExp): Promise<void> {
  const button = page.getByRole("button", { name, exact: typeof name === "string" }).first();
  await expect(button).toBeEnabled();
  await button.focus();
  await page.keyboard.press("Enter");
}
/** Chooses in a list with the keyboard alone: its first letters. */
async function choose(page: Page, label: string, letters: string): Promise<void> {
  const options = page.getByLabel(label, { exact: true }).getByRole("option", { name: new RegExp(`^${letters}`) });
  await expect(options.first()).toBeAttached();
  await page.getByLabel(label, { exact: true }).focus();
  await page.keyboard.type(letters);
}
const saved = (page: Page) => expect(page.getByRole("status").first()).toHaveText("saved");

const TABLE = "#d8d4cc";
let card: { id: string; serviceId: string; boardModelId: string };

test("by keyboard alone a small block is drawn, tried on a board, put on a card; its mount sheet says which screw goes where", async ({
  page,
}) => {
  card = await takeInOpen(app, page, "COOL-1", "OC-7", MAP);
  const bench = new Bench(page, app);
  await bench.open("/coolers");
  await expect(page.getByText("None yet.")).toBeVisible();
  await expectAccessible(page);
  await type(page, "Name", "Small block");
  await expect(page.getByRole("heading", { name: "Small block", level: 1 })).toBeVisible();
  await press(page, "Four posts");
  await page.keyboard.press("Escape");
  await choose(page, "Board model", "OC");
  const verdict = page.getByText(/^OC-7: /);
  await expect(verdict).toContainText("does not go on");
  // The fourth post is picked by keys and moved up to its hole.
  await page.getByRole("heading", { level: 1 }).focus();
  for (let k = 0; k < 5; k++) await page.keyboard.press(".");
  await expect(page.getByRole("heading", { name: "Post p4" })).toBeVisible();
  await type(page, "Centre y (mm)", "31");
  await press(page, "Add a kind of screw");
  await type(page, "Length (mm)", "8");
  await expect(verdict).toHaveText("OC-7: goes on; memory loses its contact");
  await press(page, "Face");
  await type(page, "Level above the plate’s plane (mm)", "-0.3");
  await saved(page);

  // What is dragged is answered while it moves: the face comes over the package, or off it.
  const face = page.locator('[data-thing="f1"]').first();
  const box = await face.boundingBox();
  if (!box) throw new Error("The face is not drawn.");
  const tried = page.getByRole("img", { name: "Small block on OC-7" });
  await expect(tried.getByText("1.00")).toBeVisible();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 150, { steps: 6 });
  await expect(tried.getByText("1.00")).toHaveCount(0);
  await page.keyboard.press("Escape");
  await page.mouse.up();
  await expect(tried.getByText("1.00")).toBeVisible();

  await bench.open(`/cards/${card.id}/cooler`);
  await choose(page, "Cooler that goes on", "Small");
  await expect(page.getByText("goes on", { exact: true })).toBeVisible();
  await expect(page.getByText("Nothing speaks against it", { exact: false })).toBeVisible();
  await page.getByRole("link", { name: "Mount", exact: true }).press("Enter");
  for (const id of ["S1", "S2", "S3", "S4"])
    await expect(page.getByRole("row", { name: new RegExp(`^${id} p\\d screw 1, M2.5 × 8 mm`) })).toBeVisible();
  await expect(page.getByRole("row", { name: /^f1 M1 1.00 mm pad of 1.25 mm/ })).toBeVisible();
  await expect(page.getByText(/kPa on the die/)).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize({ width: 360, height: 740 });
  await expectFits(page);
});

test("a heatsink is drawn once and put on a chip; whether the cooler closes over it is said", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.open("/coolers");
  await choose(page, "Kind", "add-on");
  await type(page, "Name", "Fin 14");
  await expect(page.getByRole("heading", { name: "Fin 14", level: 1 })).toBeVisible();
  await type(page, "Fin height (mm)", "9");
  await type(page, "Fins", "7");
  await expect(page.getByText(/^7 fins/)).toBeVisible();
  await saved(page);
  await bench.open(`/cards/${card.id}/cooler?part=heatsinks`);
  await expect(page.getByLabel("Cooler that goes on").getByRole("option", { name: "Fin 14" })).toHaveCount(0);
  await press(page, "Add a heatsink");
  await choose(page, "Heatsink", "Fin 14");
  await expect(page.getByLabel("Fin height (mm)")).toHaveValue("9");
  // The block leaves a millimetre over the package: 9 mm of fins, base and joint do not go under it.
  await expect(page.getByText(/the cooler leaves 1.0 mm: it does not close over it/)).toBeVisible();
  await expect(page.getByText("Expected at the chip")).toBeVisible();
  await expectAccessible(page);
});

test("a drawing from the other side is offered to be turned over", async ({ page }) => {
  const { request } = page;
  const lines = (await (await request.get(app.url("/api/coolers"))).json()) as CoolerLine[];
  const line = lines.find(({ name }) => name === "Small block");
  const view = (await (await request.get(app.url(`/api/coolers/${line?.id}`))).json()) as CoolerView;
  const drawnFromBelow = turnedOverCooler(view.cooler);
  await request.put(app.url(`/api/coolers/${view.id}`), {
    data: { cooler: { ...drawnFromBelow, kind: "waterblock" }, version: view.version },
  });
  await new Bench(page, app).open(`/cards/${card.id}/cooler`);
  await expect(page.getByText("The drawing looks mirrored")).toBeVisible();
  await press(page, "Turn it over");
  await expect(page.getByText("goes on", { exact: true })).toBeVisible();
});

test("a leak test is the gate before power: two readings are too few, a log of a steady loop is tight", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open(`/cards/${card.id}/prove`);
  await expect(page.getByText("Its loop has to be tested for leaks before any power")).toBeVisible();
  await page.getByRole("link", { name: "To the leak test" }).press("Enter");
  await page.getByLabel("Gauge (kPa)", { exact: true }).fill("40");
  await type(page, "Air (°C)", "21");
  await expect(page.getByRole("cell", { name: "40.00" })).toBeVisible();
  await type(page, "Gauge (kPa)", "39.9");
  await expect(page.getByText("Two readings say nothing of their scatter", { exact: false })).toBeVisible();
  const rows = (fallKPaPerMin: number) =>
    Array.from(
      { length: 70 },
      (_, k) => `${60 * k};${(40 - fallKPaPerMin * k + (k % 3) * 0.1).toFixed(1)};${(21 + (k % 2) * 0.1).toFixed(1)}`,
    );
  const log = page.getByLabel("Log of gauge and air");
  await log.setInputFiles(textFile("no.csv", "Time [s];Room [°C]\n0;21\n60;21\n"));
  await expect(page.getByText(/No column of this log is a pressure/)).toBeVisible();
  await log.setInputFiles(textFile("leak.csv", `Time [s];Pressure [kPa];Room [°C]\n${rows(0.1).join("\n")}`));
  await expect(page.getByRole("heading", { name: /Leaking/ })).toBeVisible();
  await log.setInputFiles(textFile("tight.csv", `Time [s];Pressure [kPa];Room [°C]\n${rows(0).join("\n")}`));
  await expect(page.getByRole("heading", { name: /Tight/ })).toBeVisible();
  await expect(async () => {
    const job = (await (await page.request.get(app.url(`/api/services/${card.serviceId}/cooler`))).json()) as CoolerJob;
    expect(job.plan.leak.readings).toHaveLength(70);
  }).toPass();
  await bench.open(`/cards/${card.id}/prove`);
  await expect(
    page
      .getByRole("button", { name: /^Start/ })
      .or(page.getByText("Set up a test bench"))
      .first(),
  ).toBeVisible();
  await expect(page.getByText("Its loop", { exact: false })).toHaveCount(0);
});

test("an unmapped board in twelve actions from a slanted photo; what is proposed is tapped, dragged, left and taken one by one", async ({
  page,
}) => {
  const drawn = drawnBoard(1003, CLEAN);
  const { width, height, place } = drawn;
  const slantDeg = 4;
  const photo = await sharp(Buffer.from(drawn.pixels), { raw: { width, height, channels: 4 } })
    .rotate(slantDeg, { background: TABLE })
    .extend({ top: 60, bottom: 60, left: 60, right: 60, background: TABLE })
    .jpeg({ quality: 88 })
    .toBuffer();
  const turned = await sharp(photo).metadata();
  const [sin, cos] = [Math.sin((slantDeg * Math.PI) / 180), Math.cos((slantDeg * Math.PI) / 180)];
  const corners = [
    [-1, 1],
    [1, 1],
    [1, -1],
    [-1, -1],
  ].map(([u = 0, v = 0]) => {
    const [dx, dy] = [(u * width) / 2, (v * height) / 2];
    return { x: turned.width / 2 + dx * cos - dy * sin, y: turned.height / 2 + dx * sin + dy * cos };
  });
  const other = await takeInOpen(app, page, "PHOTO-1", "OP-9", EMPTY_MAP);
  await new Bench(page, app).open(`/boards/${other.boardModelId}/map`);
  let actions = 0;
  const act = async (one: Promise<unknown>): Promise<void> => {
    actions++;
    await one;
  };
  await act(type(page, "Board width (mm)", String(place.widthMm)));
  await act(type(page, "Board height (mm)", String(place.heightMm)));
  await act(
    page.getByLabel("Photo of the board").setInputFiles({ name: "board.jpg", mimeType: "image/jpeg", buffer: photo }),
  );
  const picture = page.getByRole("button", { name: "Photo: click its corners" });
  // Once it has its own shape: until then a place on it is none of the photo.
  await expect
    .poll(async () => {
      const box = await picture.boundingBox();
      return box ? box.width / box.height : 0;
    })
    .toBeCloseTo(turned.width / turned.height, 1);
  // Nor while it still grows or moves.
  const placed = async () => JSON.stringify(await picture.boundingBox());
  await expect
    .poll(async () => {
      const before = await placed();
      await new Promise((resolve) => setTimeout(resolve, 400));
      return before === (await placed());
    })
    .toBe(true);
  for (const { x, y } of corners) {
    const scale = ((await picture.boundingBox())?.width ?? 0) / turned.width;
    await act(picture.click({ position: { x: x * scale, y: y * scale } }));
  }
  await act(press(page, /^Straighten/));
  await act(press(page, "Look for parts"));
  await expect(page.getByText(/\d+ proposed. This one: the die/)).toBeVisible({ timeout: 60_000 });
  await expectAccessible(page);
  await act(press(page, /^Take all/));
  expect(actions).toBeLessThanOrEqual(12);
  await expect(page.locator('[data-thing^="M"]')).toHaveCount(drawn.memory.length);
  await expect(page.locator('[data-thing="die"]')).toHaveCount(1);
  await saved(page);
  const { request } = page;
  const mapNow = async (): Promise<BoardMap> =>
    ((await (await request.get(app.url(`/api/boards/${other.boardModelId}/map`))).json()) as BoardMapView).map;
  const { die, parts } = await mapNow();
  const off = (a: { xMm: number; yMm: number } | null, b: { xMm: number; yMm: number }): number =>
    a ? Math.hypot(a.xMm - b.xMm, a.yMm - b.yMm) : Number.POSITIVE_INFINITY;
  expect(off(die, drawn.die)).toBeLessThan(1.5);
  for (const chip of drawn.memory)
    expect(Math.min(...parts.filter(({ kind }) => kind === "memory").map((one) => off(one, chip)))).toBeLessThan(1.5);

  const left = page.getByText(/proposed. This one:/);
  const count = async () => Number.parseInt((await left.textContent()) ?? "0", 10);
  const before = await count();
  // Tapped and dragged by 5 mm: it is the one that is asked about, and is taken where it was let go.
  const last = page.locator("[data-proposal]").last();
  const top = async (which: typeof last) => Number(await which.getAttribute("y"));
  const fromMm = await top(last);
  const tall = Number(await last.getAttribute("height"));
  await last.hover();
  const box = await last.boundingBox();
  if (!box) throw new Error("No proposal is drawn.");
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.down();
  await page.mouse.move(x, y + (5 / tall) * box.height, { steps: 4 });
  await page.mouse.up();
  const movedMm = async () => (await top(page.locator('[data-proposal="0"]'))) - fromMm;
  await expect.poll(async () => Math.abs((await movedMm()) - 5)).toBeLessThan(0.7);
  expect(await count()).toBe(before);
  await page.getByRole("heading", { level: 1 }).focus();
  await page.keyboard.press("x");
  await expect.poll(count).toBe(before - 1);
  await page.keyboard.press("Enter");
  await expect.poll(count).toBeLessThan(before - 1);
  await saved(page);
});
