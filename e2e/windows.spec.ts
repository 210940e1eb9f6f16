import { expect, test } from "@playwright/test";
import { App, Bench, expectAccessible, logFile } from "./support/app.ts";

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

test("figures from paper: the verdict follows what is typed, says how it was read, and both are kept as a card", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open("/compare");
  await page.getByRole("button", { name: "Type both from paper" }).click();
  for (const [label, before, after] of [
    ["Room air", "21,5", "22"],
    ["Edge", "79", "66"],
    ["Hotspot", "98", "80"],
    ["Power", "205", "204"],
    ["Under load for", "15", "15"],
  ] as const) {
    await page.getByLabel(`${label} before`).fill(before);
    await page.getByLabel(`${label} after`).fill(after);
  }
  await expect(page.getByText(/K cooler at the same/)).toBeVisible();
  await expect(page.getByText("Both runs were typed from paper:")).toBeVisible();
  await page.getByLabel("Edge after").fill("780");
  await expect(page.getByText("A temperature lies between 0 and 150 °C. Is it in Fahrenheit?")).toBeVisible();
  await page.getByLabel("Edge after").fill("66");
  await expectAccessible(page);
  await page.reload();
  await expect(page.getByLabel("Edge before")).toHaveValue("79");
  await page.getByLabel("Maker").fill("Quillmar");
  await page.getByLabel("Model").fill("Paper 4");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/prove$/);
  await expect(page.getByText(/K cooler at the same/)).toBeVisible();
  await expect(page.getByText("typed from paper").first()).toBeVisible();
  // Typed too high, and put right where it is shown.
  await page.getByRole("link", { name: /Figures from paper.*44/ }).click();
  await page.getByLabel("Edge (°C)").fill("76");
  await page.getByRole("button", { name: "Save these figures" }).click();
  await expect(page.getByText("54.0", { exact: true }).first()).toBeVisible();
});

test("a log that was dropped and what was typed for it wait, over leaving the station and a reload", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Ostrel", "Waiting 3");
  await bench.station("Baseline");
  await page.locator("input[type=file]").first().setInputFiles(logFile("waits.csv"));
  await page.getByLabel("Name of this run").fill("morning");
  await bench.station("Fans");
  await bench.station("Baseline");
  await expect(page.getByRole("region", { name: "waits.csv" })).toBeVisible();
  await expect(page.getByLabel("Name of this run")).toHaveValue("morning");
  await page.reload();
  await expect(page.getByRole("region", { name: "waits.csv" })).toBeVisible();
  await expect(page.getByLabel("Name of this run")).toHaveValue("morning");
  await page.getByRole("button", { name: "Keep this run" }).click();
  await expect(page.getByRole("heading", { name: "morning, before the work" })).toBeVisible();
  await page.goBack();
  await expect(page.getByRole("region", { name: "waits.csv" })).toHaveCount(0);
});

test("a log dropped before what waits at its place was read is there once, and takes nothing of it away", async ({
  page,
}) => {
  // What waits is read late, as on a busy machine.
  await page.addInitScript(() => {
    const query = navigator.locks.query.bind(navigator.locks);
    navigator.locks.query = () =>
      new Promise((resolve) => {
        setTimeout(() => resolve(query()), 1500);
      });
  });
  const bench = new Bench(page, app);
  await bench.openNewCard("Ostrel", "Early 6");
  await bench.station("Baseline");
  const drop = (name: string, seed: number) =>
    page.locator("input[type=file]").first().setInputFiles(logFile(name, { seed }));
  await drop("first.csv", 1);
  await bench.station("Fans");
  await bench.station("Baseline");
  await drop("second.csv", 2);
  await expect(page.getByRole("region", { name: "first.csv" })).toContainText("1 more waiting");
  await page.getByRole("button", { name: "Discard this file" }).click();
  const second = page.getByRole("region", { name: "second.csv" });
  await expect(second).toBeVisible();
  await expect(second).not.toContainText("more waiting");
});

test("two windows do not share what is typed: the second is told, and takes it over only when asked to", async ({
  page,
  context,
}) => {
  const bench = new Bench(page, app);
  await bench.open("/take-in");
  await page.getByLabel("Maker").fill("Brevane");
  const other = await context.newPage();
  await other.goto(app.url("/take-in"));
  await expect(other.getByText("Another window holds something typed here that is not saved")).toBeVisible();
  await expect(other.getByLabel("Maker")).toHaveValue("");
  await other.getByLabel("Model", { exact: true }).fill("Own 1");
  await page.reload();
  await expect(page.getByLabel("Maker")).toHaveValue("Brevane");
  await expect(page.getByLabel("Model", { exact: true })).toHaveValue("");
  await other.reload();
  await expect(other.getByLabel("Model", { exact: true })).toHaveValue("Own 1");
  await other.getByRole("button", { name: "Take it over" }).click();
  await expect(other.getByLabel("Maker")).toHaveValue("Brevane");
  // What a window held that is closed by now is nobody's, and comes back in the next.
  await other.close();
  await page.close();
  const next = await context.newPage();
  await next.goto(app.url("/take-in"));
  await expect(next.getByLabel("Maker")).toHaveValue("Brevane");
});

test("taking over changes only what this window changed", async ({ page, context }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Ostrel", "Fields 5");
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel("Owner", { exact: true }).fill("Runa");
  await page.getByLabel("Serial number").fill("S-9");
  await page.getByRole("button", { name: "Save changes" }).click();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await other.getByRole("button", { name: "Save changes" }).click();
  await other.getByRole("button", { name: "Take over with mine" }).click();
  await expect(other.getByText("Saved", { exact: true })).toBeVisible();
  await expect(other.getByLabel("Serial number")).toHaveValue("S-9");
  await page.reload();
  await expect(page.getByLabel("Serial number")).toHaveValue("S-9");
  await expect(page.getByLabel("Owner", { exact: true })).toHaveValue("Runa");
});
