import { expect, test } from "@playwright/test";
import { App, Bench, logFile } from "./support/app.ts";

let app: App;
test.beforeEach(async () => {
  app = await new App().start();
});
test.afterEach(() => app.close());

const worn = logFile("before.csv", { faults: { dryPaste: 0.5, dust: 0.3 } });
const fresh = logFile("after.csv", { seed: 2, bench: { roomC: 25 } });

test("with the mouse: from an empty bench to a printed record, and all still there after a restart", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open();
  await page
    .getByRole("link", { name: /^Take in/ })
    .first()
    .click();
  await expect(page.getByRole("heading", { name: "Take in a card" })).toBeVisible();
  await bench.takeInCard("Ostrel", "Fjell 70", { serial: "A-1/“ß”", owner: "Mira Tolland" });
  await bench.station("Baseline");
  await bench.dropRun(worn, "Fixed fan");
  await expect(page.getByRole("slider", { name: "Steady window starts" })).toBeVisible();

  // Figures follow while the edge of the steady window is dragged, and the window can be kept.
  const figures = page.getByRole("region", { name: "Figures" });
  const settled = await figures.innerText();
  const edge = page.getByRole("slider", { name: "Steady window starts" });
  const box = await edge.boundingBox();
  if (!box) throw new Error("no handle");
  await page.mouse.move(box.x + box.width / 2, box.y + 120);
  await page.mouse.down();
  await page.mouse.move(box.x - 160, box.y + 120, { steps: 12 });
  await expect.poll(() => figures.innerText()).not.toBe(settled);
  await page.mouse.up();
  await page.getByRole("button", { name: "Keep this window" }).click();
  await expect(page.getByText("set by hand").first()).toBeVisible();
  await page.getByRole("button", { name: "Find it automatically" }).click();
  await expect.poll(() => figures.innerText()).toBe(settled);

  await page.getByRole("link", { name: "Ostrel Fjell 70" }).click();
  await bench.noteByHand();
  await page.getByLabel("repasted").check();
  await page.getByLabel("Who").fill("Runa");
  await page.getByLabel("Compound").fill("Grey paste");
  await page.getByRole("button", { name: "Save the note" }).click();
  await expect(page.getByText("Compound: Grey paste")).toBeVisible();

  await bench.station("Prove");
  await bench.dropRun(fresh, "Fixed fan");
  await page.getByRole("link", { name: "Ostrel Fjell 70" }).click();
  await bench.expectVerdict(/\d+\.\d ± \d\.\d K cooler at the same fan speed and power/);
  await expect(page.getByRole("row", { name: /Room air .* corrected/ })).toBeVisible();
  await bench.station("Record");
  await expect(page.getByRole("article")).toContainText("Grey paste");
  await page.getByRole("button", { name: "Hand it over" }).click();
  await expect(page.getByRole("button", { name: "Open it again" })).toBeVisible();

  await app.stop();
  await app.start();
  await bench.open();
  await expect(page.getByRole("heading", { name: "Handed over" })).toBeVisible();
  await page.getByRole("link", { name: /Ostrel Fjell 70/ }).click();
  await expect(page.getByRole("article")).toContainText("cooler");
});

test("with the keyboard alone: take in, baseline from a sample, note, prove, record", async ({ page }) => {
  const bench = new Bench(page, app);
  const tabTo = async (name: RegExp): Promise<void> => {
    // Round and round, until what comes late is there too.
    const end = Date.now() + 30_000;
    while (Date.now() < end) {
      await page.keyboard.press("Tab");
      const here = await page.evaluate(() => {
        const at = document.activeElement as HTMLElement | null;
        // Between the last element and the first the focus is on the body, whose text is the whole page's.
        if (at === document.body) return "";
        const labels =
          at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement || at instanceof HTMLSelectElement
            ? [...(at.labels ?? [])].map((label) => label.textContent).join(" ")
            : "";
        return `${at?.getAttribute("aria-label") ?? ""} ${labels} ${at?.textContent ?? ""}`.trim();
      });
      if (name.test(here)) return;
    }
    throw new Error(`The keyboard does not reach ${name}`);
  };
  await bench.open();
  await expect(page.getByText("No card on the bench")).toBeVisible();
  await page.keyboard.press("n");
  await expect(page.getByRole("heading", { name: "Take in a card" })).toBeVisible();
  await tabTo(/^Maker/);
  await page.keyboard.type("Quillmar");
  await tabTo(/^Model/);
  await page.keyboard.type("Sedge 6");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Quillmar Sedge 6" })).toBeVisible();

  await page.locator("body").click({ position: { x: 2, y: 790 } });
  await page.keyboard.press("]");
  await expect(page.getByText("Drop the log of a baseline run")).toBeVisible();
  await tabTo(/Dusty card/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Keep this run" })).toBeVisible();
  await tabTo(/^Keep this run/);
  await page.keyboard.press("Enter");
  await expect(page.getByText("Edge over room air")).toBeVisible();
  await tabTo(/^Steady window starts/);
  const slider = page.getByRole("slider", { name: "Steady window starts" });
  const before = Number(await slider.getAttribute("aria-valuenow"));
  await page.keyboard.press("Shift+ArrowRight");
  expect(Number(await slider.getAttribute("aria-valuenow"))).toBe(before + 50);

  await page.goBack();
  await page.keyboard.press("]");
  await expect(page.getByText("Your decision")).toBeVisible();
  for (const words of [
    "What is learnt while it is stripped",
    "What may touch what",
    "Its map and its pad figures",
    "The plate is",
    "Speeds in the runs",
  ]) {
    await page.keyboard.press("]");
    await expect(page.getByText(words).first()).toBeVisible();
  }
  await tabTo(/^Note it by hand/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Note what was done" })).toBeVisible();
  await tabTo(/repasted/);
  await page.keyboard.press("Space");
  await tabTo(/^Who/);
  await page.keyboard.type("Runa");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Change" })).toBeVisible();
  await tabTo(/Next: prove/);
  await page.keyboard.press("Enter");
  await tabTo(/after its service/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Keep this run" })).toBeVisible();
  await tabTo(/^Keep this run/);
  await page.keyboard.press("Enter");
  await expect(page.getByText("Edge over room air")).toBeVisible();
  await page.goBack();
  await bench.expectVerdict(/K cooler at the same fan speed and power/);
  await page.keyboard.press("]");
  await expect(page.getByRole("article")).toContainText("cooler");
  await page.keyboard.press("g");
  await page.keyboard.press("b");
  await expect(page.getByRole("heading", { name: "Bench" })).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog")).toContainText("Previous and next station");
});
