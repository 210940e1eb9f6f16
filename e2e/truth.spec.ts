import { expect, test } from "@playwright/test";
import { App, Bench, expectAccessible, logFile, textFile } from "./support/app.ts";

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

const FILES = "input[type=file]";
const WORN = { faults: { dryPaste: 0.6 }, sensors: { room: null } };
const BAD = { seed: 3, faults: { heldOffMm: 0.25 } };

test("two logs are compared in three steps: drop both, type the room once, read the verdict; then they are kept as a card", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open("/");
  await page.getByRole("link", { name: "Compare two logs" }).first().click();
  await page
    .locator(FILES)
    .first()
    // The one after the work comes first by its name's place, and is still taken for what it says.
    .setInputFiles([logFile("after.csv", { seed: 2, sensors: { room: null } }), logFile("before.csv", WORN)]);
  await expect(page.getByRole("region", { name: "Before", exact: true })).toContainText("before.csv");
  await page.getByLabel("Room air in both runs (°C)").fill("22");
  await expect(page.getByText(/K cooler at the same fan speed and power$/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Swap before and after" }).click();
  await expect(page.getByText(/K hotter/).first()).toBeVisible();
  await page.getByRole("button", { name: "Swap before and after" }).click();
  await expect(page.getByText(/K cooler at the same fan speed and power$/)).toBeVisible();
  // Another case is none of the card's doing: it counts only with the air at the intake of both.
  await page.getByText("Another case, or another load?").click();
  await page.getByLabel("Case before").selectOption("open bench");
  await page.getByLabel("Case after").selectOption("panel on");
  await expect(page.getByText(/^Can’t be compared: .*same case/)).toBeVisible();
  await expect(page.getByRole("row", { name: /^Case open bench panel on can’t be corrected/ })).toBeVisible();
  await page.getByLabel("Intake before (°C)").fill("150");
  await expect(page.getByText(/^As warm as the card under load/)).toBeVisible();
  await page.getByLabel("Intake before (°C)").fill("22");
  await page.getByLabel("Intake after (°C)").fill("22,5");
  await expect(page.getByText(/K cooler at the same fan speed and power$/)).toBeVisible();
  await page.getByLabel("Load before").fill("long loop");
  await page.getByLabel("Load after").fill("texture fill");
  await expect(page.getByRole("row", { name: /^Memory .* another load: not judged$/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /^Name of the load long loop texture fill/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel("Maker").fill("Quillmar");
  await page.getByLabel("Model").fill("Pair 2");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/cards\/[\w-]+\/prove$/);
  await expect(page.getByText(/K cooler at the same fan speed and power$/)).toBeVisible();
});

test("a log dropped beside every box is taken, not opened by the browser", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.open("/stores");
  await expect(page.getByRole("heading", { name: "Stores", exact: true })).toBeVisible();
  const { name, buffer } = logFile("anywhere.csv");
  const dropped = await page.evaluateHandle(
    ([file, text]) => {
      const data = new DataTransfer();
      data.items.add(new File([text ?? ""], file ?? "", { type: "text/csv" }));
      return data;
    },
    [name, buffer.toString()],
  );
  // The page listens a moment after it is drawn.
  await expect(async () => {
    await page.dispatchEvent("main", "drop", { dataTransfer: dropped });
    await expect(page.getByRole("heading", { name: "Compare two logs" })).toBeVisible({ timeout: 5000 });
  }).toPass({ timeout: 60_000 });
  await expect(page.getByRole("region", { name: "Before", exact: true })).toContainText("anywhere.csv");
});

test("a card that came out worse is mounted again: what was changed is said, the next run is judged, both attempts are shown", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Ostrel", "Twice 2");
  const keep = async (name: string, more: Parameters<typeof logFile>[1]): Promise<void> => {
    await page.locator(FILES).first().setInputFiles(logFile(name, more));
    await page.getByRole("button", { name: "Keep this run" }).click();
    await page.getByRole("link", { name: "Ostrel Twice 2" }).click();
  };
  await bench.station("Baseline");
  await keep("before.csv", { faults: { dryPaste: 0.5 } });
  await bench.station("Prove");
  await keep("bad.csv", BAD);
  await page.getByRole("button", { name: "I mounted it again" }).click();
  await page.getByLabel("What was changed").fill("thinner pads on the memory");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Attempt 2: run the same load again")).toBeVisible();
  await keep("good.csv", { seed: 4 });
  await expect(page.getByText(/K cooler/).first()).toBeVisible();
  await expect(page.getByRole("button", { name: "I mounted it again" })).toHaveCount(0);
  const attempts = page.getByRole("region", { name: "Attempts" });
  await expect(attempts.getByText("thinner pads on the memory")).toBeVisible();
  await expect(attempts.getByRole("listitem").nth(0)).toContainText("hotter");
  await expect(attempts.getByRole("listitem").nth(1)).toContainText("compared above");
  await page.getByRole("button", { name: "Leave “good.csv” out" }).click();
  await page.getByLabel("Why “good.csv” does not count").fill("window was open");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Does not count: window was open")).toBeVisible();
  await expect(page.getByText(/hotter/).first()).toBeVisible();
  await page.getByRole("button", { name: "Count it again" }).click();
  await expect(attempts.getByRole("listitem").nth(1)).toContainText("cooler");
  await bench.station("Record");
  await expect(
    page.getByText(/Mounted 2 times until this result: .*hotter.*; thinner pads on the memory\./),
  ).toBeVisible();
});

test("a log of three loads shows them, and each that is ticked becomes a run of its own", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Three");
  await bench.station("Baseline");
  const loads = [
    { fromS: 60, toS: 960, watts: 200 },
    { fromS: 1020, toS: 1320, watts: 120 },
    { fromS: 1380, toS: 1680, watts: 240 },
  ];
  let edgeK = 5;
  const rows = Array.from({ length: 1740 }, (_, s) => {
    const watts = loads.find((load) => s >= load.fromS && s < load.toS)?.watts ?? 15;
    edgeK += (0.25 * watts - edgeK) / 90;
    return `${s},${(22 + edgeK).toFixed(1)},${watts},22.0`;
  });
  const text = ["Time [s],GPU temperature [°C],Power [W],Room air [°C]", ...rows].join("\n");
  await page.locator(FILES).first().setInputFiles(textFile("three.csv", text));
  await expect(page.getByText("This log holds 3 loads.")).toBeVisible();
  const first = page.getByRole("checkbox", { name: /^1:00 to 16:00 min 200 W, came to rest: the longest/ });
  await expect(first).toBeChecked();
  await page.getByRole("checkbox", { name: /240 W/ }).check();
  await page.getByRole("button", { name: "Keep 2 runs" }).click();
  await page.getByRole("link", { name: "Quillmar Three" }).click();
  await expect(page.getByRole("link", { name: /three\.csv, load 1/ })).toBeVisible();
  await page.getByRole("link", { name: /three\.csv, load 3/ }).click();
  // No maximum of another load: 22 + 0.25 K/W · 240 W at the most, and well above what 200 W come to.
  await expect(page.getByRole("row", { name: /^Edge .* (7[5-9]|8[0-2])\.\d / })).toBeVisible();
});
