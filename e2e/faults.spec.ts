import { mkdtempSync, rmSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { EMPTY_CARD } from "#contract";
import { App, Bench, expectAccessible, logFile, textFile } from "./support/app.ts";

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

const file = "input[type=file]";

test("each log that is none gets its message, and what was typed stays", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Brevane", "Tarn 8");
  await bench.station("Baseline");
  const cases: Array<[string, string | Buffer, RegExp]> = [
    ["empty.csv", "", /file is empty/],
    ["header.csv", "Time [s],GPU temp [°C]\n", /no rows of figures/],
    ["row.csv", "Time [s],GPU temp [°C]\n0,40\n", /fewer than two usable rows/],
    ["words.csv", "A letter,\nnot a log,\nat all.\n", /No table of figures/],
    ["picture.png", Buffer.from(Array.from({ length: 4000 }, (_, k) => (k * 31) % 256)), /binary file/],
    ["cold.csv", "Time [s],Fan [rpm]\n0,900\n1,900\n", /No column of this file is a temperature/],
  ];
  for (const [name, text, message] of cases) {
    await page.locator(file).first().setInputFiles(textFile(name, text));
    await expect(page.getByRole("alert").filter({ hasText: message })).toBeVisible();
    await page.getByRole("button", { name: "Discard this file" }).click();
  }
  await page
    .locator(file)
    .first()
    .setInputFiles(textFile("timeless.csv", `GPU temp [°C]\n${"40\n41\n".repeat(300)}`));
  await page.getByLabel("Seconds between rows").fill("1");
  await page.getByRole("button", { name: "Read again" }).click();
  await expect(page.getByText("600 rows over 9:59 minutes")).toBeVisible();
  await page.getByLabel("Room air (°C)").fill("70");
  await page.getByRole("button", { name: "Keep this run" }).click();
  await expect(page.getByText("Is it in Fahrenheit?")).toBeVisible();
  await expect(page.getByLabel("Room air (°C)")).toHaveValue("70");
});

test("a log whose room has 70 'degrees' is questioned, and roles can be changed and are remembered", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Brevane", "Tarn 9");
  await bench.station("Baseline");
  const text = `Time [s],GPU temp [°C],Room [°C],T9\n${Array.from({ length: 900 }, (_, t) => `${t},${(150 - 60 * Math.exp(-t / 90)).toFixed(1)},70.2,44`).join("\n")}\n`;
  await bench.dropRun(textFile("fahrenheit.csv", text), "Fixed");
  await expect(page.getByText(/Is it in Fahrenheit\?/)).toBeVisible();
  await page.getByLabel("“T9” was taken for").selectOption("vrm");
  await expect(page.getByRole("row", { name: /^VRM/ }).first()).toBeVisible();
  await page.getByRole("link", { name: "Brevane Tarn 9" }).click();
  await page
    .locator(file)
    .first()
    .setInputFiles(textFile("again.csv", text.replace("0,90", "0,91")));
  await expect(page.getByLabel("“T9” was taken for")).toHaveValue("vrm");
});

test("two windows on one card: the second is told, and can keep or take over", async ({ page, context }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Reed 5");
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel("What the owner complains of").fill("loud");
  await other.getByRole("button", { name: "Save changes" }).click();
  await expect(other.getByText("Saved", { exact: true })).toBeVisible();
  await expect(other.getByText("Not saved yet")).toHaveCount(0);
  await expect(other.getByLabel("What the owner complains of")).toHaveValue("loud");
  await page.getByLabel("What the owner complains of").fill("slow");
  await page.getByRole("button", { name: "Save changes" }).click();
  await expect(page.getByRole("dialog")).toContainText("changed in another window");
  await page.getByRole("button", { name: "Take over with mine" }).click();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await other.reload();
  await expect(other.getByLabel("What the owner complains of")).toHaveValue("slow");
});

test("two windows on one note and one board model: the second takes over with what it typed", async ({
  page,
  context,
}) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Reed 6");
  await bench.skipBaseline("only the fans are oiled");
  await bench.noteByHand();
  await page.getByLabel("cleaned").check();
  await page.getByLabel("Who").fill("Runa");
  await page.getByRole("button", { name: "Save the note" }).click();
  const other = await context.newPage();
  await other.goto(page.url());
  for (const [view, minutes] of [
    [other, "10"],
    [page, "20"],
  ] as const) {
    await view.getByRole("button", { name: "Change", exact: true }).click();
    await view.getByLabel("Minutes of hands").first().fill(minutes);
  }
  await other.getByRole("button", { name: "Save the change" }).click();
  await expect(other.getByText("10 min")).toBeVisible();
  await page.getByRole("button", { name: "Save the change" }).click();
  await expect(page.getByRole("dialog")).toContainText("This note was changed in another window");
  await page.getByRole("button", { name: "Take over with mine" }).click();
  await expect(page.getByText("20 min")).toBeVisible();
  await page.request.post(app.url("/api/cards"), {
    data: { ...EMPTY_CARD, maker: "A", model: "B", newBoardModel: "TWO-1" },
  });
  await bench.open("/boards");
  await page.getByRole("link", { name: "TWO-1", exact: true }).click();
  await expect(page.getByLabel("Edge limit")).toBeVisible();
  await other.goto(page.url());
  for (const view of [other, page]) await view.getByLabel("Edge limit").fill(view === page ? "77" : "71");
  await other.getByRole("button", { name: "Save limits" }).click();
  await expect(other.getByText("Saved", { exact: true }).first()).toBeVisible();
  await page.getByRole("button", { name: "Save limits" }).click();
  await page.getByRole("button", { name: "Take over with mine" }).click();
  await expect(page.getByText("Saved", { exact: true }).last()).toBeVisible();
  await other.reload();
  await expect(other.getByLabel("Edge limit")).toHaveValue("77");
});

test("a run without room air is kept, can't be compared, and can once the air is added", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Ostrel", "Skar 40");
  await bench.station("Baseline");
  await bench
    .dropRun(logFile("b.csv", { sensors: { room: null }, faults: { dryPaste: 0.6 } }), "Fixed")
    .catch(() => undefined);
  await page.getByRole("link", { name: "Ostrel Skar 40" }).click();
  await bench.station("Prove");
  await bench.dropRun(logFile("a.csv", { seed: 4 }), "Fixed");
  await page.getByRole("link", { name: "Ostrel Skar 40" }).click();
  await bench.expectVerdict(/Can’t be compared: Room air is missing from the first run/);
  await page.getByLabel("Room air of “Fixed” (°C)").fill("70");
  await page.getByRole("button", { name: "Add room air" }).click();
  await expect(page.getByText("Is it in Fahrenheit?")).toBeVisible();
  await page.getByLabel("Room air of “Fixed” (°C)").fill("22");
  await page.getByRole("button", { name: "Add room air" }).click();
  await bench.expectVerdict(/K cooler at the same fan speed and power/);
});

test("a photo that is no picture is refused, a real one shown; removing can be undone", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Ostrel", "Skar 60");
  await page.locator(file).first().setInputFiles(textFile("x.jpg", "no picture"));
  await expect(page.getByRole("alert")).toContainText("x.jpg: This file is not a picture");
  const png = await page.screenshot({ clip: { x: 0, y: 0, width: 80, height: 60 } });
  await page.locator(file).first().setInputFiles({ name: "front.png", mimeType: "image/png", buffer: png });
  await expect(page.getByRole("img", { name: "Photo 1" })).toBeVisible();
  await page.getByRole("button", { name: "Remove photo 1" }).click();
  await expect(page.getByRole("img", { name: "Photo 1" })).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("img", { name: "Photo 1" })).toBeVisible();
});

test("the server stops while something is typed: the page says so, keeps it, and goes on", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Sedge 9");
  await page.getByLabel("What the owner complains of").fill("black screens");
  const address = page.url();
  await app.stop("SIGKILL");
  await page.getByRole("button", { name: "Save changes" }).click();
  await expect(page.getByText("The server does not answer. What you type is kept")).toBeVisible();
  await app.start();
  await expect(page.getByText("The server does not answer. What you type is kept")).toBeHidden();
  await page.goto(address);
  await expect(page.getByLabel("What the owner complains of")).toHaveValue("black screens");
  await page.getByRole("button", { name: "Save changes" }).click();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});

test("a window left open across an update says so, loads itself anew, and keeps what was typed", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.open("/take-in");
  await page.getByLabel("Maker").fill("Ostrel");
  await page.getByLabel("Serial number").fill("OLD-WINDOW");
  // The server has another version by now: this window's files are gone, and its page names others.
  let isOld = true;
  page.on("request", (request) => {
    if (request.isNavigationRequest()) isOld = false;
  });
  await page.route(/\/assets\/.*\.js$/, (route) =>
    isOld ? route.fulfill({ status: 404, body: "" }) : route.continue(),
  );
  await page.route(app.url("/"), async (route) => {
    const answer = await route.fetch();
    const text = (await answer.text()).replace(/src="[^"]*\/index-/, 'src="/assets/index-newer-');
    await route.fulfill({ response: answer, body: text });
  });
  const places = page.getByRole("navigation", { name: "Places" });
  const told = page.getByRole("heading", { level: 1, name: "A newer version is there" });
  await places.getByRole("link", { name: "Workshop" }).click();
  await expect(told).toBeVisible();
  await expect(page.getByRole("heading", { level: 1, name: "Workshop" })).toBeVisible();
  // By itself once for each version: a page that would never come is not loaded for ever.
  isOld = true;
  await places.getByRole("link", { name: "Coolers" }).click();
  await expect(told).toBeVisible();
  await expect(places).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Load the page again" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Coolers" })).toBeVisible();
  await bench.open("/take-in");
  await expect(page.getByLabel("Serial number")).toHaveValue("OLD-WINDOW");
});

test("a log of 500 MB is refused before it is read, and the next one goes through", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Brevane", "Loch 5");
  await bench.station("Baseline");
  const folder = mkdtempSync(join(tmpdir(), "algidus-large-"));
  try {
    const path = join(folder, "endless.csv");
    writeFileSync(path, "Time [s],GPU temp [°C]\n");
    truncateSync(path, 500_000_000);
    await page.locator(file).first().setInputFiles(path);
    await expect(page.getByRole("alert")).toContainText("endless.csv has 500 MB; a log may have 268 MB");
    await page.getByRole("button", { name: "Discard this file" }).click();
    await bench.dropRun(logFile("b.csv"), "Fixed");
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
