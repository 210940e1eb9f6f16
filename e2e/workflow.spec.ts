import { expect, test } from "@playwright/test";
import { EMPTY_CARD } from "#contract";
import { App, Bench, logFile, textFile } from "./support/app.ts";

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

const FILES = "input[type=file]";

test("a card is taken in whole: owner or stock, look-over, seal and warranty with what they mean", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.open("/take-in");
  await page.getByRole("button", { name: "Take in" }).click();
  await expect(page.getByText("Type the maker.")).toBeVisible();
  await expect(page.getByText("Type the model.")).toBeVisible();
  await page.getByLabel("Maker").fill("Quillmar");
  await page.getByLabel("Model", { exact: true }).fill("Reed 3");
  await page.getByLabel("Board model").fill("QR-3");
  await page.getByLabel("What the card is worth").fill("much");
  await page.getByRole("button", { name: "Take in" }).click();
  await expect(page.getByText("A price lies between 0 and 100 000.")).toBeVisible();
  await page.getByLabel("What the card is worth").fill("42,50");
  await page
    .getByRole("radiogroup", { name: "Dirt: dust, hair, smoke film" })
    .getByRole("radio", { name: "Found something" })
    .click();
  await page.getByLabel("What you noted: Dirt").fill("pet hair");
  await page.getByLabel("Seal over a cooler screw").selectOption("damaged");
  await expect(page.getByText("Someone has been inside")).toBeVisible();
  await page.getByLabel("Warranty").selectOption("under warranty");
  await expect(page.getByText("leave it closed")).toBeVisible();
  await page.getByRole("radio", { name: "Stock" }).click();
  await expect(page.getByLabel("Owner", { exact: true })).toBeHidden();
  await page.getByRole("button", { name: "Take in" }).click();
  await expect(page.getByText("no serial · QR-3 · stock")).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Price paid")).toHaveValue("42.5");
  await expect(page.getByLabel("What you noted: Dirt")).toHaveValue("pet hair");
});

test("a draft outlives a reload before anything was saved", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.open("/take-in");
  await page.getByLabel("Maker").fill("Brevane");
  await page.getByLabel("Serial number").fill("half typed");
  await page.reload();
  await expect(page.getByLabel("Serial number")).toHaveValue("half typed");
  await expect(page.getByText("Not saved yet")).toBeVisible();
});

test("opening without a baseline is warned of, and a station is skipped with its reason only", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Brevane", "Loch 3");
  await bench.station("Clean");
  await expect(page.getByText("There is no baseline yet")).toBeVisible();
  await bench.station("Baseline");
  await page.getByRole("button", { name: "Skip this station" }).click();
  await expect(page.getByText("a later fault can’t be told from an old one")).toBeVisible();
  await expect(page.getByRole("button", { name: "Skip with this reason" })).toBeDisabled();
  await page.getByLabel("Reason for skipping").fill("no picture in two slots");
  await page.getByRole("button", { name: "Skip with this reason" }).click();
  await expect(page.getByText("Skipped: no picture in two slots")).toBeVisible();
  await bench.station("Record");
  await expect(page.getByRole("article")).toContainText("Baseline skipped: no picture in two slots");
  await bench.station("Baseline");
  await page.getByRole("button", { name: "Take the skip back" }).click();
  await expect(page.getByRole("button", { name: "Skip this station" })).toBeVisible();
});

test("notes are changed, removed and put back", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Ostrel", "Skar 50");
  await bench.skipBaseline("only the fans are oiled");
  await bench.noteByHand();
  await page.getByRole("button", { name: "Save the note" }).click();
  await expect(page.getByText("Tick what was done.")).toBeVisible();
  await page.getByLabel("cleaned").check();
  await page.getByLabel("Who").fill("Runa");
  await page.getByLabel("What you saw and did").fill("<b>dust</b> & hair");
  await page.getByRole("button", { name: "Save the note" }).click();
  await expect(page.getByText("<b>dust</b> & hair")).toBeVisible();
  await page.getByRole("button", { name: "Change", exact: true }).click();
  await page.getByLabel("Minutes of hands").first().fill("25");
  await page.getByRole("button", { name: "Save the change" }).click();
  await expect(page.getByText("25 min")).toBeVisible();
  await page.route(/\/removed$/, (route) => route.abort());
  await page.getByRole("button", { name: "Remove", exact: true }).click();
  await expect(page.getByText("Not done: The server does not answer.")).toBeVisible();
  await expect(page.getByText("Note removed")).toHaveCount(0);
  await page.unroute(/\/removed$/);
  await page.getByRole("button", { name: "Remove", exact: true }).click();
  await expect(page.getByText("25 min")).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("25 min")).toBeVisible();
});

/** An automatic fan still follows the card when a fixed one has long settled. */
const LONG_STEPS = [
  { durationS: 40, load: 0 },
  { durationS: 1800, load: 1 },
];

test("several logs wait in line, each under its own conditions; automatic pairs with automatic", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Ostrel", "Fjell 80");
  await bench.station("Baseline");
  const worn = { faults: { dryPaste: 0.5 } };
  await page
    .locator(FILES)
    .first()
    .setInputFiles([logFile("fixed.csv", worn), logFile("auto.csv", { ...worn, bench: { fan: "automatic" } })]);
  await expect(page.getByText("1 more waiting")).toBeVisible();
  // The fan's drive is read off the log.
  await expect(page.getByLabel("Fan setting (%)")).toHaveValue("62");
  await page.getByLabel("Name of this run").fill("fixed");
  await page.getByRole("button", { name: "Keep this run" }).click();
  await expect(page.getByRole("region", { name: "auto.csv" })).toBeVisible();
  await page.getByRole("radio", { name: "Automatic" }).click();
  await page.getByLabel("Name of this run").fill("automatic");
  await page.getByRole("button", { name: "Keep this run" }).click();
  await expect(page.getByText("Edge over room air")).toBeVisible();
  await page.getByRole("link", { name: "Ostrel Fjell 80" }).click();
  await bench.station("Prove");
  await page
    .locator(FILES)
    .first()
    .setInputFiles(logFile("after-auto.csv", { seed: 6, bench: { fan: "automatic" }, steps: LONG_STEPS }));
  await expect(page.getByLabel("Name of this run")).toBeVisible();
  await page.getByRole("radio", { name: "Automatic" }).click();
  await page.getByLabel("Name of this run").fill("automatic after");
  await page.getByRole("button", { name: "Keep this run" }).click();
  await page.getByRole("link", { name: "Ostrel Fjell 80" }).click();
  await expect(page.getByRole("region", { name: "automatic against automatic after" })).toContainText("cooler");
  await expect(page.getByText(/the temperature of before at \d+ rpm, −\d+ rpm and about −\d/)).toBeVisible();
});

test("a run stopped early says where it would settle and how long to go on; removing it can be undone", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Sedge 7");
  await bench.station("Baseline");
  const steps = [
    { durationS: 40, load: 0 },
    { durationS: 240, load: 1 },
  ];
  await bench.dropRun(logFile("early.csv", { steps }), "Early");
  await expect(page.getByText("It had not settled")).toBeVisible();
  await expect(page.getByText(/It would have settled at: Edge \d+\.\d ± \d/)).toBeVisible();
  await expect(page.getByText(/Run about \d+ more minutes/)).toBeVisible();
  await page.getByLabel("Name of this run").fill("Early on");
  await page.reload();
  await expect(page.getByLabel("Name of this run")).toHaveValue("Early on");
  await page.getByRole("button", { name: "Save and compute anew" }).click();
  await expect(page.getByRole("heading", { name: "Early on, before the work" })).toBeVisible();
  await expect(page.getByText("Not saved yet")).toHaveCount(0);
  await page.getByRole("button", { name: "Remove run" }).click();
  await expect(page.getByText("Drop the log of a baseline run")).toBeVisible();
  await expect(page.getByRole("link", { name: /Early/ })).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(
    page
      .getByRole("main")
      .getByRole("listitem")
      .getByRole("link", { name: /^Early.*not settled/ }),
  ).toBeVisible();
});

test("the working of a figure can be opened, lines hidden, values read under the cursor", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Sedge 8");
  await bench.station("Baseline");
  await page.getByRole("button", { name: "Throttled baseline" }).click();
  await page.getByRole("button", { name: "Keep this run" }).click();
  await expect(page.getByText("It throttled")).toBeVisible();
  await page.getByText("How was this computed").click();
  await expect(page.getByText(/Rise = mean − room air = /)).toBeVisible();
  await expect(page.getByText(/worth \d+ independent ones/)).toBeVisible();
  const legend = page.getByRole("list", { name: "Lines" });
  const memory = legend.getByRole("button", { name: "Memory" });
  await memory.click();
  await expect(memory).toHaveAttribute("aria-pressed", "false");
  const chart = await page.getByRole("region", { name: /^Chart of/ }).boundingBox();
  if (!chart) throw new Error("no chart");
  await page.mouse.move(chart.x + chart.width * 0.4, chart.y + 60);
  await expect(page.getByText(/Edge \d+\.\d °C/)).toBeVisible();
});

test("one JSON object per line and a German log are read like any other", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Brevane", "Tarn 14");
  await bench.station("Baseline");
  const rows = Array.from({ length: 900 }, (_, t) =>
    JSON.stringify({
      ts: `2026-05-04T10:${String(Math.floor(t / 60)).padStart(2, "0")}:${String(t % 60).padStart(2, "0")}Z`,
      edge_c: 70 - 40 * Math.exp(-t / 80),
      room_c: 22,
      power_w: 180,
      fan_rpm: 1500,
    }),
  );
  await bench.dropRun(textFile("log.ndjson", `${rows.join("\n")}\n`), "JSON");
  await expect(page.getByText("Fan speed").first()).toBeVisible();
  await page.getByRole("link", { name: "Brevane Tarn 14" }).click();
  const german = `Uhrzeit;Grafikkarte Temperatur [°C];Raumtemperatur [°C];Lüfter 1 [U/min]\n${Array.from(
    { length: 900 },
    (_, t) =>
      `23:${String(50 + Math.floor(t / 60)).padStart(2, "0")}:00;60,5;21,5;1400`.replace(
        /:(\d\d):00/,
        (_whole, minute: string) => `:${Number(minute) > 59 ? "59" : minute}:${String(t % 60).padStart(2, "0")}`,
      ),
  )
    .slice(0, 590)
    .join("\n")}\n`;
  await page
    .locator(FILES)
    .first()
    .setInputFiles(textFile("deutsch.csv", Buffer.from(german, "latin1")));
  await expect(page.getByLabel("“Grafikkarte Temperatur [°C]” was taken for")).toHaveValue("edge");
  await expect(page.getByLabel("“Lüfter 1 [U/min]” was taken for")).toHaveValue("fanRpm");
});

test("a log of two cards under load asks which one, and keeps the other's figures out", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Twin");
  await bench.station("Baseline");
  const rows = Array.from({ length: 900 }, (_, s) => {
    const [one, two] = [30, 45].map((rise) => (22 + rise * (1 - Math.exp(-s / 90))).toFixed(1));
    return `${s},${one},150,${two},220,22.0`;
  });
  const header = "Time [s],GPU 1 Temperature [°C],GPU 1 Power [W],GPU 2 Temperature [°C],GPU 2 Power [W],Room air [°C]";
  await page
    .locator("input[type=file]")
    .first()
    .setInputFiles(textFile("two.csv", [header, ...rows].join("\n")));
  await expect(page.getByText("Which card is it?")).toBeVisible();
  await page.getByRole("button", { name: "“GPU 2” at 220 W" }).click();
  await expect(page.getByLabel("“GPU 2 Temperature [°C]” was taken for")).toHaveValue("edge");
  await expect(page.getByText("This log holds 2 cards")).toBeVisible();
  await page.getByRole("button", { name: "Keep this run" }).click();
  await expect(page.getByRole("row", { name: /^Edge 6\d\.\d/ })).toBeVisible();
});

test("limits of a board show on the ladder; settings and passphrase are checked and kept", async ({ page }) => {
  const bench = new Bench(page, app);
  const card = { ...EMPTY_CARD, maker: "Quillmar", model: "Reed 4", newBoardModel: "QR-4" };
  await page.request.post(app.url("/api/cards"), { data: card });
  await bench.open("/boards");
  await page.getByRole("link", { name: "QR-4", exact: true }).click();
  await expect(page.getByText("1 card, 1 service")).toBeVisible();
  const board = page.getByRole("region", { name: "Limits and notes" });
  await board.getByLabel("Edge limit").fill("200");
  await board.getByRole("button", { name: "Save limits" }).click();
  await expect(board.getByText("A limit lies between 40 and 130 °C.")).toBeVisible();
  await board.getByLabel("Edge limit").fill("78");
  await board.getByRole("button", { name: "Save limits" }).click();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(board.getByLabel("Edge limit")).toHaveValue("78");
  await bench.open("/workshop");
  await page.getByLabel("From run to run (K)").fill("eleven");
  await page.getByRole("button", { name: "Save settings" }).click();
  await expect(page.getByText("A number of kelvins.")).toBeVisible();
  await page.getByLabel("From run to run (K)").fill("0,3");
  await page.getByLabel("Name of the workshop").fill("Northlight");
  await page.getByRole("button", { name: "Save settings" }).click();
  await expect(page.getByText("Saved", { exact: true }).first()).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("From run to run (K)")).toHaveValue("0.3");
  await expect(page.getByText("None is set yet")).toBeVisible();
  await page.getByLabel("New passphrase").fill("a long enough one");
  await page.getByRole("button", { name: "Set passphrase" }).click();
  await expect(page.getByText("One is set.")).toBeVisible();
  await page.getByLabel("Passphrase until now").fill("not the right one");
  await page.getByLabel("New passphrase").fill("another long one");
  await page.getByRole("button", { name: "Change passphrase" }).click();
  await expect(page.getByText("This is not the passphrase until now.")).toBeVisible();
  await page.getByLabel("Passphrase until now").fill("a long enough one");
  await page.getByRole("button", { name: "Change passphrase" }).click();
  await expect(page.getByLabel("New passphrase")).toHaveValue("");
});

test("cards are found by any of their words, and '/' leads there", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Needle 1", { serial: "XX-77", ownerName: "Ilka Brandsund" });
  await bench.open();
  await expect(page.getByRole("heading", { name: "Bench" })).toBeVisible();
  await page.keyboard.press("/");
  await expect(page.getByLabel("Find")).toBeFocused();
  await page.keyboard.type("ilka xx-7");
  await expect(page.getByRole("row")).toHaveCount(2);
  await page.keyboard.type(" nobody");
  await expect(page.getByText("No card matches. Use fewer words.")).toBeVisible();
});
