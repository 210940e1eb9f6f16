import { expect, test } from "@playwright/test";
import { App, Bench, expectAccessible, expectFits, expectStill, logFile } from "./support/app.ts";

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

const LONG = "Donaudampfschifffahrtselektrizitaetenhauptbetriebswerkbauunterbeamtengesellschaft";

test("on a phone: the station is in view, the drop box and Keep within one screen, the longest words wrap at 320 px", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await page.setViewportSize({ width: 360, height: 740 });
  await bench.openNewCard("Quillmar", "Pocket 4");
  await bench.station("Baseline");
  await expect(page.getByText("Drop the log of a baseline run")).toBeInViewport();
  await bench.openNewCard("Quillmar", LONG, { serial: LONG, ownerName: LONG });
  await page.setViewportSize({ width: 320, height: 640 });
  const fits = async (): Promise<void> => {
    await expectStill(page);
    await expectFits(page);
  };
  for (const [station, seed] of [
    ["Baseline", 1],
    ["Prove", 2],
  ] as const) {
    await bench.station(station);
    const faults = seed === 1 ? { dryPaste: 0.5 } : {};
    await page
      .locator("input[type=file]")
      .first()
      .setInputFiles(logFile(`${LONG}.csv`, { seed, faults }));
    await expect(page.getByRole("button", { name: "Keep this run" })).toBeVisible();
    await page.getByRole("region", { name: `${LONG}.csv` }).evaluate((sheet) => sheet.scrollIntoView());
    await expect(page.getByRole("button", { name: "Keep this run" })).toBeInViewport();
    await fits();
    await page.getByRole("button", { name: "Keep this run" }).click();
    await expect(page.getByRole("heading", { level: 1 })).toContainText("the work");
    await fits();
    await page.getByRole("link", { name: `Quillmar ${LONG}` }).click();
  }
  await expect(page.getByText(/K cooler/).first()).toBeVisible();
  await expect(page.getByRole("link", { name: /^Prove/ })).toBeInViewport();
  // Nothing of what differed is cut off.
  await expect(page.getByRole("row", { name: /Fan speed same/ }).last()).toBeVisible();
  await fits();
  await bench.station("Record");
  await expect(page.getByRole("link", { name: /^Record/ })).toBeInViewport();
  await fits();
});

test("the record is one an owner can read: address, price, photos, plain words; terms elsewhere explain themselves", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open("/workshop");
  await page.getByLabel("Address").fill("4 Quay Lane");
  await page.getByRole("button", { name: "Save settings" }).click();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await bench.openNewCard("Brevane", "Reads 2");
  const png = await page.screenshot({ clip: { x: 0, y: 0, width: 80, height: 60 } });
  await page.locator("input[type=file]").first().setInputFiles({ name: "a.png", mimeType: "image/png", buffer: png });
  await expect(page.getByRole("img", { name: "Photo 1" })).toBeVisible();
  await bench.station("Baseline");
  await bench.dropRun(logFile("before.csv", { faults: { dryPaste: 0.6 } }), "fixed");
  await page.getByRole("button", { name: "What is θ (theta)?" }).click();
  await expect(page.getByText(/how many kelvin each watt costs/)).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Brevane Reads 2" }).click();
  await bench.station("Prove");
  await bench.dropRun(logFile("after.csv", { seed: 2 }), "fixed");
  await page.getByRole("link", { name: "Brevane Reads 2" }).click();
  await bench.station("Record");
  await page.getByLabel(/^Price of the work/).fill("1.200");
  await page.getByRole("button", { name: "1200", exact: true }).click();
  await page.keyboard.press("Enter");
  const record = page.getByRole("article");
  await expect(record).toContainText("Price: 1200.00 EUR");
  await expect(record).toContainText("4 Quay Lane");
  await expect(record.getByRole("img", { name: "The card" })).toBeVisible();
  await expect(record).toContainText("Chip warmer than the room by");
  await expect(record).not.toContainText(/hotspot|\bdie\b|VRM/i);
  await expectAccessible(page);
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("heading", { level: 1 })).toBeHidden();
  await expect(record.getByRole("heading", { name: "Service record" })).toBeVisible();
});
