import { expect, test } from "@playwright/test";
import { App, Bench, expectAccessible } from "./support/app.ts";

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

test("keys: the field or heading has the focus after every step, Escape leaves a field, Enter opens the first find", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open();
  await expect(page.getByRole("heading", { name: "Bench" })).toBeVisible();
  await page.keyboard.press("n");
  await expect(page.getByLabel("Maker")).toBeFocused();
  await page.keyboard.type("Quillmar");
  await page.keyboard.press("Tab");
  await page.keyboard.type("Keys 8");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Quillmar Keys 8" })).toBeFocused();
  await page.keyboard.press("]");
  await expect(page).toHaveURL(/\/baseline$/);
  await expect(page.getByRole("heading", { name: "Quillmar Keys 8" })).toBeFocused();
  await page.keyboard.press("g");
  await page.keyboard.press("c");
  await expect(page.getByLabel("Find")).toBeFocused();
  await page.keyboard.type("keys");
  await page.keyboard.press("Escape");
  await expect(page.getByLabel("Find")).toHaveValue("keys");
  await page.keyboard.press("g");
  await page.keyboard.press("b");
  await expect(page.getByRole("heading", { name: "Bench" })).toBeFocused();
  await page.keyboard.press("/");
  await page.keyboard.type("keys 8");
  await expect(page.getByText("One card found")).toBeAttached();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Quillmar Keys 8" })).toBeFocused();
});

test("a reading is taken with m at every station", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.takeInCard("Quillmar", "Reading 9");
  for (const station of [
    "Take in",
    "Baseline",
    "Decide",
    "Strip",
    "Clean",
    "Pads",
    "Compound",
    "Fans",
    "Close up",
    "Prove",
    "Record",
  ]) {
    await bench.station(station);
    await page.keyboard.press("m");
    await expect(page.getByRole("dialog").getByRole("heading")).toBeVisible();
    await page.keyboard.press("Escape");
    await expect(page.getByRole("dialog")).toHaveCount(0);
  }
});

test("no picture at power-on: its steps come up at once, are ticked off, and Bench and Baseline lead there", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Dark 1");
  await page.getByRole("radiogroup", { name: "Picture" }).getByRole("radio", { name: "No", exact: true }).click();
  await expect(page.getByRole("heading", { name: /No picture\. Rule out, in this order: 0 of 6/ })).toBeFocused();
  await page.getByLabel("1. Supply’s own switch on").check();
  await expect(page.getByText("saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { name: /: 1 of 6/ })).toBeVisible();
  await bench.open();
  const line = page.getByRole("link", { name: /Quillmar Dark 1/ });
  await expect(line).toContainText("No picture: rule it out");
  await line.click();
  await expect(page).toHaveURL(/take-in$/);
  await bench.station("Baseline");
  await page.getByRole("link", { name: "Rule it out there" }).click();
  await expect(page).toHaveURL(/take-in$/);
});

test("a card is removed, found under Removed, and put back; cards are narrowed by station, owner and model", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Brevane", "Gone 3", { ownerName: "Ylva" });
  await bench.openNewCard("Brevane", "Stays 3", { ownerName: "Tomas" });
  await bench.open("/cards");
  await page.getByLabel("Owner").fill("ylva");
  await expect(page.getByText("One card found")).toBeAttached();
  await page.getByLabel("Station").selectOption("prove");
  await expect(page.getByText("No card matches. Use fewer words.")).toBeVisible();
  await page.getByLabel("Station").selectOption("baseline");
  await page.getByRole("link", { name: "Brevane Gone 3" }).click();
  await page.getByRole("button", { name: "Remove this card" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Cards" })).toBeVisible();
  await page.getByRole("searchbox", { name: "Model" }).fill("brevane");
  await expect(page.getByText("One card found")).toBeAttached();
  await page.getByRole("link", { name: "Removed" }).click();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Put back: Brevane Gone 3" }).click();
  await expect(page.getByText("Card is back")).toBeVisible();
  await expect(page.getByRole("button", { name: "Put back: Brevane Gone 3" })).toHaveCount(0);
  await bench.open();
  await expect(page.getByRole("link", { name: /Brevane Gone 3/ })).toBeVisible();
});

test("a compound as one calls it is added to the stores and drawn from there; the note needs no name of who did it", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Paste 2");
  await bench.skipBaseline("came without its cooler");
  await bench.noteByHand();
  await page.getByLabel("repasted").check();
  await page.getByLabel("Compound").fill("Grey tube 7");
  await page.getByRole("button", { name: "Save the note" }).click();
  await expect(page.getByText("Grey tube 7 is not in the stores")).toBeVisible();
  await page.getByLabel("There is (g)").fill("3,5");
  await page.getByRole("button", { name: "Add it to the stores" }).click();
  await page.getByLabel(/^Of Grey tube 7/).fill("0.4");
  await page.getByRole("button", { name: "Take it out of the stock" }).click();
  await expect(page.getByText("How much Grey tube 7 went on?")).toHaveCount(0);
  await expect(page.getByText("0.4 g Grey tube 7")).toBeVisible();
  await bench.open("/stores");
  await expect(page.getByRole("cell", { name: "3.1 g" })).toBeVisible();
});
