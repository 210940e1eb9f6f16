import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import type { Card } from "#contract";
import { verifyRecord } from "#server/services/record-checksum.ts";
import { App, Bench, expectAccessible, expectFits, logFile, textFile } from "./support/app.ts";

test.describe.configure({ mode: "serial" });

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

const MM = 96 / 25.4;
let cardId = "";

test("a card is handed over: two pages, what goes into the box, a file that opens anywhere, one that can be checked", async ({
  page,
  browser,
}) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Brevane", "Loch 9", { serial: "HAND-1", ownerName: "Mira Tolland" });
  cardId = /cards\/([\w-]+)/.exec(page.url())?.[1] ?? "";
  await bench.station("Baseline");
  await bench.dropRun(logFile("before.csv", { faults: { dryPaste: 0.6 } }), "fixed");
  await page.getByRole("link", { name: "Brevane Loch 9" }).click();
  await bench.noteByHand();
  await page.getByRole("checkbox", { name: "pads replaced" }).check();
  await page.getByRole("checkbox", { name: "repasted" }).check();
  await page.getByRole("button", { name: "Save the note" }).click();
  await expect(page.getByText(/pads replaced, repasted|repasted, pads replaced/).first()).toBeVisible();
  await bench.station("Prove");
  await bench.dropRun(logFile("after.csv", { seed: 8 }), "fixed");
  await page.getByRole("link", { name: "Brevane Loch 9" }).click();
  await bench.station("Record");

  await page.getByRole("button", { name: "+ Original pads" }).click();
  await page.getByRole("checkbox", { name: "Original pads" }).check();
  await page.getByLabel("What to watch").fill("Listen for the left fan.");
  await page.getByLabel("Something else").fill("Support bracket");
  await page.keyboard.press("Enter");
  const record = page.getByRole("article").first();
  await expect(record).toContainText("☑ Original pads");
  await expect(record).toContainText("☐ Support bracket");
  await expect(record).toContainText("Listen for the left fan.");
  await expect(record).toContainText(/At the same fan speed it runs \d+ degrees cooler/);
  await page.getByLabel("Hours a week").fill("60");
  await page.keyboard.press("Tab");
  await expect(page.getByText("Cycles of 40 K a month (typed)")).toBeVisible();
  await expect(record).toContainText(/Next service: \w+ 20\d\d/);
  // Cycles are counted from a log of its use, if that is long enough to tell.
  const next = page.getByRole("region", { name: "Next service" });
  const log = next.locator("input[type=file]");
  await log.setInputFiles(logFile("short.csv"));
  await expect(next.getByText("This log is too short to tell how the card is used.")).toBeVisible();
  const evening = Array.from({ length: 5 }, () => [
    { durationS: 300, load: 0 },
    { durationS: 900, load: 1 },
  ]).flat();
  await log.setInputFiles(logFile("evening.csv", { steps: evening }));
  await expect(next.getByText(/^Counted from a log: \d\.\d\d cycles of 40 K an hour\./)).toBeVisible();
  await expect(next.getByText("Cycles of 40 K a month (log)")).toBeVisible();
  await expectAccessible(page);
  await page.reload();
  await expect(record).toContainText("☐ Support bracket");
  // A number that is none is said, and typed again; one out of its range as well.
  for (const [typed, said] of [
    ["", "Type a number."],
    ["900", "Between 0 and 168 hours a week."],
  ] as const) {
    await next.getByLabel("Hours a week").fill(typed);
    await page.keyboard.press("Tab");
    await expect(next.getByText(said)).toBeVisible();
  }
  await next.getByLabel("Hours a week").fill("40");
  await page.keyboard.press("Tab");
  await expect(next.getByText("Between 0 and 168 hours a week.")).toHaveCount(0);
  // Another window was faster: both changes are kept.
  const other = await page.context().newPage();
  await other.goto(page.url());
  await other.getByLabel("Something else").fill("Invoice");
  await other.keyboard.press("Enter");
  await expect(other.getByRole("article").first()).toContainText("☐ Invoice");
  await page.getByRole("checkbox", { name: "Support bracket" }).click();
  await expect(page.getByRole("checkbox", { name: "Invoice" })).toBeVisible();
  await expect(page.getByRole("checkbox", { name: "Support bracket" })).toBeChecked();
  await expect(record).toContainText("☑ Support bracket");
  await other.close();
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString("latin1");
  expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(2);

  const [json] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Save as JSON" }).click(),
  ]);
  expect(verifyRecord(JSON.parse(readFileSync(await json.path(), "utf8")))).toMatchObject({
    card: { serial: "HAND-1" },
    leavesWithCard: [
      { what: "Original pads", packed: true },
      { what: "Support bracket", packed: true },
      { what: "Invoice", packed: false },
    ],
  });
  const [html] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Save as HTML" }).click(),
  ]);
  const path = test.info().outputPath("record.html");
  await html.saveAs(path);
  const elsewhere = await browser.newContext({ offline: true });
  const opened = await elsewhere.newPage();
  const asked: string[] = [];
  opened.on("request", (request) => asked.push(new URL(request.url()).protocol));
  await opened.goto(`file://${path}`);
  await expect(opened.getByRole("heading", { name: "Service record" })).toBeVisible();
  await expect(opened.getByText("Listen for the left fan.")).toBeVisible();
  expect(asked.filter((protocol) => protocol !== "file:" && protocol !== "data:")).toEqual([]);
  await elsewhere.close();

  await page.getByRole("button", { name: "Hand it over" }).click();
  await page.getByRole("button", { name: "The card is back: begin a new service" }).click();
  await expect(page.getByRole("list", { name: "History of this card" })).toContainText("paste and pads");
});

test("a label has its true size, and what is scanned opens the card; one of elsewhere is said to be", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open(`/labels?cards=${cardId}`);
  const label = page.getByRole("region", { name: "Label of Brevane Loch 9 HAND-1" });
  await expect(label.getByRole("img", { name: `Code of ${app.url(`/c/${cardId}`)}` })).toBeVisible();
  const box = await label.boundingBox();
  expect([box?.width, box?.height].map((px) => Math.round((10 * (px ?? 0)) / MM) / 10)).toEqual([62, 29]);
  await page.getByLabel("Label", { exact: true }).selectOption("Sheet of 70 × 37 mm");
  await page.getByLabel("Labels already used on the sheet").fill("4");
  await page.emulateMedia({ media: "print" });
  const placed = await label.boundingBox();
  // Three in a row, eight rows on A4: the fifth lies in the middle of the second row, half a millimetre from the upper edge.
  expect([placed?.x, placed?.y].map((px) => Math.round((10 * (px ?? 0)) / MM) / 10)).toEqual([70, 37.5]);
  await page.emulateMedia({ media: "screen" });
  await expectAccessible(page);

  await bench.open("/cards");
  await page.getByLabel("Find").fill(app.url(`/c/${cardId}`));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Brevane Loch 9" })).toBeVisible();
  await bench.open("/c/00000000-elsewhere");
  await expect(page.getByText("No card here has this label")).toBeVisible();
});

test("a spreadsheet of earlier cards comes in: every row’s fate first, one undo for the whole, known again", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open("/findings/paper");
  const choose = (name: string, text: string) =>
    page.locator("input[type=file]").first().setInputFiles(textFile(name, text));
  await choose("empty.csv", "only a header\n");
  await expect(page.getByText("There are no rows below a header.")).toBeVisible();
  await choose("million.csv", `Card,Before,After\n${"A,79,68\n".repeat(5200)}`);
  await expect(page.getByText("There are more than 5000 rows.")).toBeVisible();

  const rows = Array.from(
    { length: 8 },
    (_, k) =>
      `Card ${k % 3};${3 + k}.2.2023;${k % 2 ? "Slate sheet" : "Grey paste"};repasted;${174 + k};${150 + k - (k % 2) * 3};72;same`,
  );
  await choose(
    "old.csv",
    [
      "The old book",
      "Model;Date;Paste;Work;Before F;After F;Room F;Fan",
      ...rows,
      "Card 9;40.1.2023;;paste;170;150;72;same",
      "Card 9;1.1.2023;;paste;warm;150;72;same",
      "",
    ].join("\n"),
  );
  await expect(page.getByText("8 of 10 rows can be taken in; 2 can’t.")).toBeVisible();
  await expect(page.getByRole("checkbox", { name: "temperatures are in Fahrenheit" })).toBeChecked();
  await expect(page.getByText("“40.1.2023” is no day")).toBeVisible();
  await expect(page.getByText("“warm” under “Before F” is no number")).toBeVisible();
  // What is looked at first can be told otherwise: without the room it is wider.
  await page.getByLabel("Room before", { exact: true }).selectOption("not there");
  await expect(page.getByRole("cell", { name: /± 6\.\d K/ }).first()).toBeVisible();
  await page.getByLabel("Room before", { exact: true }).selectOption("Room F");
  await page.getByRole("button", { name: "Take in 8 results" }).click();
  const taken = page.getByRole("listitem").filter({ hasText: "old.csv" });
  await expect(taken).toContainText("8 results");
  await page.getByText("8 results taken in").locator("../..").getByRole("button", { name: "Undo" }).click();
  await expect(taken.getByRole("button", { name: "Put back" })).toBeVisible();
  await taken.getByRole("button", { name: "Put back" }).click();
  await expect(taken.getByRole("button", { name: "Take back" })).toBeVisible();
  await choose("again.csv", "Fan;Room F;Model;Date;Paste;Work;Before F;After F\nsame;72;X;3.2.2023;G;clean;174;160\n");
  await expect(page.getByText("columns as the last time")).toBeVisible();
  await page.getByRole("button", { name: "Discard" }).click();

  const one = page.getByRole("region", { name: "One result from paper" });
  await one.getByRole("button", { name: "Take it in" }).click();
  await expect(one.getByText("Type which card or board model it was.")).toBeVisible();
  await one.getByLabel("Card or board model").fill("Card 0");
  await one.getByLabel("Before (°C)", { exact: true }).fill("79");
  await one.getByLabel("After (°C)", { exact: true }).fill("68");
  await one.getByLabel("Room before (°C)").fill("22");
  await expect(one.getByText("−11.0 ± 5.3 K")).toBeVisible();
  await one.getByLabel("Compound").fill("Grey paste");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("listitem").filter({ hasText: "Card 0, from paper" })).toContainText("1 result");
});

test("findings by keyboard: compared, opened, one left out with a reason and back", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.open();
  await expect(page.getByRole("heading", { name: "Bench" })).toBeVisible();
  await page.keyboard.press("g");
  await page.keyboard.press("f");
  await expect(page.getByRole("heading", { name: "Findings" })).toBeVisible();
  await expect(page.getByText(/^The die: \d+\.\d ± \d+\.\d K cooler/)).toBeVisible();
  const by = page.getByLabel("Compare by");
  await by.focus();
  await by.selectOption("Compound");
  const grey = page.getByRole("button", { name: /^Grey paste · 5 services/ });
  await grey.focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Grey paste against slate sheet|Slate sheet against grey paste/i).first()).toBeVisible();
  const count = page.getByText(/^over \d+ results/);
  const before = Number(/\d+/.exec((await count.textContent()) ?? "")?.[0]);
  await page.getByRole("button", { name: "Leave out Card 0" }).first().focus();
  await page.keyboard.press("Enter");
  await page.getByLabel("Why it does not count").fill("its fan was stuck");
  await page.keyboard.press("Enter");
  await expect(count).toContainText(`over ${before - 1} results`);
  await expect(page.getByText(/its fan was stuck/)).toBeVisible();
  await page.getByRole("button", { name: "Let it count" }).click();
  await expect(count).toContainText(`over ${before} results`);
  await page.getByText("At equal…").click();
  await page.getByRole("checkbox", { name: "board model" }).check();
  await expect(page.getByText(/K; not told apart|K cooler\.|K warmer\./).first()).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize({ width: 390, height: 780 });
  await expectFits(page);
  // What is proved here stands behind a figure with its card.
  await page.setViewportSize({ width: 1280, height: 800 });
  await by.selectOption("Kind of work");
  await page.getByRole("button", { name: /^paste and pads/ }).click();
  await page.getByRole("link", { name: "Brevane Loch 9 HAND-1" }).click();
  await expect(page.getByRole("heading", { name: "Brevane Loch 9" })).toBeVisible();
  const card = (await (await page.request.get(app.url(`/api/cards/${cardId}`))).json()) as Card;
  expect(page.url()).toContain(card.id);
});
