import { createRequire } from "node:module";
import { expect, type Page, test } from "@playwright/test";
import type * as wavefile from "wavefile";
import { App, Bench, expectAccessible, expectFits, textFile } from "./support/app.ts";
import { answer, dialog, heading, takeInOpen } from "./support/steps.ts";

test.describe.configure({ mode: "serial" });

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

/** Presses the button that is there, with the keyboard alone. */
async function pressKey(page: Page, name: string | RegExp): Promise<void> {
  const button = page.getByRole("button", { name }).first();
  await button.focus();
  await page.keyboard.press("Enter");
}

const CLEAN_KEYS = [
  [/pads off/, ["1"]],
  [/kind of dirt/, ["3"]],
  [/with water/, ["2"]],
] satisfies ReadonlyArray<readonly [RegExp, string[]]>;

/** Answers until a step comes up whose sentence fits; axe once at every kind on the way. */
async function until(
  page: Page,
  words: RegExp,
  keys: Parameters<typeof answer>[1],
  seen = new Set<string>(),
): Promise<void> {
  await expect(heading(page)).toBeVisible();
  for (let k = 0; k < 40; k++) {
    const text = (await heading(page).textContent()) ?? "";
    if (words.test(text)) return;
    const kind =
      (await dialog(page).getByRole("textbox").count()) > 0
        ? "figure"
        : (await dialog(page).getByText(/^1/).count()) > 0
          ? "choice"
          : "check";
    if (!seen.has(kind)) {
      seen.add(kind);
      await expectAccessible(page);
    }
    await answer(page, keys);
  }
  throw new Error(`No step says ${words}`);
}

test("by keyboard alone: a heatsink is washed, its clock runs over a restart and is accepted; pasted, weighed, a fan oiled; the record tells", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  const card = await takeInOpen(app, page, "BETWEEN-1", "OB-7", null);
  await bench.open(`/cards/${card.id}/clean`);
  await pressKey(page, /^(Begin|Go on)/);
  await until(page, /heatsink rest/, CLEAN_KEYS);
  await expect(heading(page)).toContainText(/\d h \d+ min/);
  await expect(dialog(page).getByText("Water in a hole shorts a board")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page).toHaveTitle(/^\d h \d+ min: The backplate dries/);
  await expect(page.getByText(/The heatsink dries: \d h/).first()).toBeVisible();

  // Only what was answered as saved is there after a kill.
  await expect.poll(async () => (await page.request.get(app.url("/api/bench"))).text()).toContain("The heatsink dries");
  await app.stop("SIGKILL");
  await app.start();
  await bench.open();
  await expect(page.getByRole("timer").filter({ hasText: "The heatsink dries" })).toContainText(/until/);
  await bench.open(`/cards/${card.id}/close-up`);
  await expect(page.getByText("Something still dries or sets")).toBeVisible();
  await expect(page.getByRole("button", { name: "Begin" })).toBeDisabled();

  await bench.open(`/cards/${card.id}/clean?do=steps`);
  await until(page, /All steps are done/, [[/rest/, ["1"]], ...CLEAN_KEYS]);
  await page.keyboard.press("Escape");

  await bench.station("Compound");
  await page.getByLabel("Along the board (mm)").fill("20");
  await page.keyboard.press("Tab");
  await page.getByLabel("Across the board (mm)").fill("22");
  await page.keyboard.press("Enter");
  await pressKey(page, "Take Good paste");
  await expect(page.getByText(/% of the die covered/)).toBeVisible();
  const dot = page.getByRole("button", { name: /^Dot 1/ });
  await dot.focus();
  for (let k = 0; k < 8; k++) await page.keyboard.press("ArrowRight");
  await expect(page.getByLabel("How", { exact: true })).toHaveValue("own beads");
  await expect(page.getByText(/mm² bare/)).toBeVisible();
  await expectAccessible(page);
  await pressKey(page, /^(Begin|Go on)/);
  await until(page, /All steps are done/, [
    [/before/, ["1", "2", ".", "4", "0", "Enter"]],
    [/after/, ["1", "2", ".", "3", "3", "Enter"]],
  ]);
  await page.keyboard.press("Escape");
  await expect(page.getByText(/^70 mg/)).toBeVisible();

  await bench.station("Fans");
  await pressKey(page, /^(Begin|Go on)/);
  await until(page, /All steps are done/, [
    [/How many/, ["1", "Enter"]],
    [/by finger/, ["3"]],
    [/Which bearing/, ["1"]],
    [/What is done/, ["2"]],
  ]);
  await page.keyboard.press("Escape");
  await bench.station("Record");
  const record = page.getByRole("article");
  await expect(record).toContainText("washed and dried");
  await expect(record).toContainText("that was accepted");
  await expect(record).toContainText("Good paste between die and plate, own beads, 70 mg");
  await expect(record).toContainText("fan 1 oiled");
});

test("on a phone: liquid metal is refused on aluminium, beads are dragged, the closing is stepped through, schools compared", async ({
  page,
}) => {
  await page.setViewportSize({ width: 360, height: 740 });
  const bench = new Bench(page, app);
  const card = await takeInOpen(app, page, "BETWEEN-2", "OB-8", null);
  await bench.open(`/cards/${card.id}/compound`);
  await page.getByLabel("Along the board (mm)").fill("24");
  await page.getByLabel("Across the board (mm)").fill("16");
  await page.getByLabel("Across the board (mm)").blur();
  await page.getByRole("radio", { name: "aluminium" }).click();
  await expect(page.getByText("Liquid metal destroys aluminium: never on this plate.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Take Good liquid metal" })).toHaveCount(0);
  await page.getByRole("button", { name: "Take Good paste" }).click();
  const covered = page.getByText(/% of the die covered/);
  await expect(covered).toBeVisible();
  const before = await covered.textContent();
  const box = await page.getByRole("button", { name: /^Dot 1/ }).boundingBox();
  if (!box) throw new Error("The dot is not drawn.");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 70, box.y + 20, { steps: 8 });
  await page.mouse.up();
  await expect(covered).not.toHaveText(before ?? "");
  await page.getByRole("button", { name: "A moment on" }).click();
  await expect(page.getByText(/^Gap \d+ µm/)).toBeVisible();
  await page.getByLabel("Dose (µL)").fill("5000");
  await page.getByLabel("Dose (µL)").blur();
  await expect(page.getByRole("alert").first()).toContainText("1000");
  await page.getByRole("button", { name: "Compare" }).click();
  await expect(page.getByRole("row", { name: /a cross/ })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("How", { exact: true })).toHaveValue("own beads");
  await expectFits(page);
});

const { WaveFile } = createRequire(import.meta.url)("wavefile") as typeof wavefile;
const RATE = 16_000;

/** A fan of nine blades that runs for a second and coasts down; with no friction it runs on. */
function coasting(dry: number | null): Buffer {
  let [speed, phase] = [207, 0];
  const samples = Array.from({ length: 14 * RATE }, (_, k) => {
    if (dry !== null && k > RATE) speed = Math.max(0, speed - (dry + 0.1 * speed) / RATE);
    phase += (9 * speed) / RATE;
    return Math.round(9000 * (speed / 207) * (Math.sin(phase) + 0.3 * Math.sin(2 * phase)));
  });
  const wave = new WaveFile();
  wave.fromScratch(1, RATE, "16", samples);
  return Buffer.from(wave.toBuffer());
}

test("a fan is judged by how it coasts down in a recording, against its twin; a steady tone is refused with what to do", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  const card = await takeInOpen(app, page, "BETWEEN-3", "OB-9", null);
  await bench.open(`/cards/${card.id}/fans?do=steps`);
  await until(page, /Turn fan 1/, [[/How many/, ["2", "Enter"]]]);
  await page.keyboard.press("Escape");
  const drop = async (fan: string, dry: number | null): Promise<void> => {
    await page.getByLabel("Which").selectOption({ label: fan });
    await page.getByLabel("Blades").fill("9");
    await page.getByLabel("Blades").blur();
    await page
      .getByLabel("Recording of a fan that coasts down")
      .setInputFiles({ name: "coast.wav", mimeType: "audio/wav", buffer: coasting(dry) });
  };
  await drop("Fan 1", null);
  await expect(page.getByRole("alert")).toContainText("There is no tone in it that falls");
  await drop("Fan 1", 8);
  await expect(page.getByText(/Fan 1, as it came:/)).toBeVisible();
  await drop("Fan 2", 20);
  const twin = page.getByRole("listitem").filter({ hasText: "Fan 2, as it came" });
  await expect(twin).toContainText(/2\.[2-9] ± \d\.\d times its twin: oil it, or replace it/);
  await page.getByLabel("Which").selectOption({ label: "Fan 2" });
  await page.getByLabel("When").selectOption("after");
  const speeds = Array.from({ length: 80 }, (_, k) => Math.max(0, 1980 - 9.5 * Math.max(0, k - 10) ** 1.2));
  const log = ["Time [s],Fan Speed [RPM]", ...speeds.map((rpm, k) => `${(k * 0.2).toFixed(1)},${rpm.toFixed(0)}`)];
  await page.getByLabel("Recording of a fan that coasts down").setInputFiles(textFile("coast.csv", log.join("\n")));
  await expect(page.getByRole("listitem").filter({ hasText: "Fan 2, after oil" })).toContainText(/itself before/);
  await expectAccessible(page);
  await page.reload();
  await expect(twin).toContainText("times its twin");
});
