import { expect, test } from "@playwright/test";
import { App, Bench } from "./support/app.ts";

let app: App;
test.beforeAll(async () => {
  app = await new App().start("demo");
});
test.afterAll(() => app.close());

test("the demo shows the instructive cases", async ({ page }) => {
  const bench = new Bench(page, app);
  // Rows are drawn where they can be seen.
  await page.setViewportSize({ width: 1280, height: 3000 });
  await bench.open();
  await expect(page.getByRole("list", { name: /^(Cards in work|Handed over)/ }).getByRole("listitem")).toHaveCount(20);
  for (const [serial, words] of [
    ["OF70-10342", /cooler/],
    ["QS6-2231-A", /no real change/],
    ["BT12/77/0415", /cooler/],
    ["BT8-5520", /hotter/],
    ["QR5-118", /can't be compared/],
    ["OF70-11907", /not settled/],
    ["BL10-3344", /Memory .* cooler\. Die: no real change/],
  ] as const)
    await expect(
      page.getByRole("list", { name: /^(Cards in work|Handed over)/ }).getByRole("link", { name: new RegExp(serial) }),
    ).toContainText(words);
});

test("the record prints on one page for the owner and one for the technician, A4 and Letter", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.open("/cards");
  await page.getByLabel("Find").fill("BL7-1180");
  await expect(page.getByRole("link", { name: /^(Ostrel|Quillmar)/ })).toHaveCount(0);
  await page.getByRole("link", { name: "Brevane Loch 7" }).click();
  await bench.station("Record");
  await expect(page.getByRole("article").first()).toContainText("Sweep, fast");
  await expect(page.getByRole("button", { name: "Print" })).toBeEnabled();
  for (const paper of ["A4", "Letter"]) {
    await page.getByRole("radio", { name: paper }).click();
    const pdf = (await page.pdf({ preferCSSPageSize: true })).toString("latin1");
    expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(2);
    const [, width] = /\/MediaBox\s*\[0 0 ([\d.]+)/.exec(pdf) ?? [];
    expect(Math.round(Number(width))).toBe(paper === "A4" ? 595 : 612);
  }
});

test("the demo shows what its stations hold beyond runs: a card whose pads are chosen and can be cut", async ({
  page,
}) => {
  const lines = (await (await page.request.get(app.url("/api/bench"))).json()) as Array<{
    serial: string;
    cardId: string;
  }>;
  const measured = lines.find(({ serial }) => serial === "OF70-11907");
  await page.goto(app.url(`/cards/${measured?.cardId}/pads?do=cut`));
  await expect(page.getByRole("button", { name: "Plan the cutting" })).toBeVisible();
});

test("an export comes in again on another machine", async ({ page }) => {
  const other = await new App().start();
  try {
    const file = await (await fetch(app.url("/api/export.json"))).text();
    await page.goto(other.url("/workshop"));
    await page
      .locator("input[type=file]")
      .setInputFiles({ name: "broken.json", mimeType: "application/json", buffer: Buffer.from("{") });
    await expect(page.getByRole("alert")).toContainText("broken.json is not JSON");
    await page
      .locator("input[type=file]")
      .setInputFiles({ name: "export.json", mimeType: "application/json", buffer: Buffer.from(file) });
    await expect(page.getByText("20 cards")).toBeVisible();
    await page.setViewportSize({ width: 1280, height: 3000 });
    await page.goto(other.url("/"));
    await expect(page.getByRole("list", { name: /^(Cards in work|Handed over)/ }).getByRole("listitem")).toHaveCount(
      20,
    );
  } finally {
    await other.close();
  }
});

test("a million samples are read, drawn, zoomed and moved by keys, wheel and hand", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Brevane", "Million");
  await bench.station("Baseline");
  const rows = Array.from(
    { length: 1_000_000 },
    (_, k) => `${k / 100},${(70 - 40 * Math.exp(-k / 9000) + (k % 7) / 10).toFixed(1)},22.0,200`,
  );
  const buffer = Buffer.from(`Time [s],GPU temp [°C],Room [°C],Board power [W]\n${rows.join("\n")}\n`);
  await bench.dropRun({ name: "million.csv", mimeType: "text/csv", buffer }, "Long", "60");
  await expect(page.getByRole("slider")).toHaveCount(2);
  const chart = page.getByRole("region", { name: /^Chart of/ });
  await chart.focus();
  await page.keyboard.press("+");
  await expect(page.getByText(/^\d+:\d\d to \d+:\d\d min$/)).not.toHaveText(/^0:00/);
  await page.keyboard.press("0");
  await expect(page.getByText(/^\d+:\d\d to \d+:\d\d min$/)).toHaveText(/^0:00/);

  // The wheel zooms where the mouse points, dragging pans.
  const shown = page.getByText(/^\d+:\d\d to \d+:\d\d min$/);
  const box = await chart.boundingBox();
  if (!box) throw new Error("no chart");
  await page.mouse.move(box.x + 200, box.y + 330);
  await expect(async () => {
    await page.mouse.wheel(0, -400);
    await expect(shown).not.toHaveText("0:00 to 166:40 min", { timeout: 5000 });
  }).toPass({ timeout: 60_000 });
  const zoomed = await shown.innerText();
  await page.mouse.down();
  await page.mouse.move(box.x + 320, box.y + 330, { steps: 6 });
  await page.mouse.up();
  await expect(shown).not.toHaveText(zoomed);
});

test("a card that came out hotter leads back to its mounting, and goes out only with a reason that its record shows", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open("/cards");
  await page.getByLabel("Find").fill("BT8-5520");
  // A row moves while the others leave.
  await expect(page.getByRole("link", { name: /^(Ostrel|Quillmar)/ })).toHaveCount(0);
  await page.getByRole("link", { name: "Brevane Tarn 8" }).click();
  await bench.station("Prove");
  await expect(page.getByText(/Die \d+\.\d ± \d\.\d K hotter/).first()).toBeVisible();
  await page.getByRole("link", { name: "Will the die seat?" }).click();
  await expect(page).toHaveURL(/\/pads/);
  await bench.station("Record");
  const handOver = page.getByRole("button", { name: "Hand it over" });
  await expect(handOver).toBeDisabled();
  await page.getByLabel("Why it goes out like this").fill("The owner mounts a waterblock next week");
  await handOver.click();
  await expect(page.getByRole("article")).toContainText("Handed over all the same: The owner mounts a waterblock");
  await page.getByRole("button", { name: "Open it again" }).click();
  await expect(handOver).toBeVisible();
  await expect(page.getByText("Handed over all the same")).toBeHidden();
});
