import { expect, test } from "@playwright/test";
import { EMPTY_CARD, type ExportFile } from "#contract";
import { App, Bench, textFile } from "./support/app.ts";

/** The workshop's data: kept, carried out and in, and who may see it. */

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

test("backups show age and size, one is taken by hand, and a folder that can't be is refused in words", async ({
  page,
}) => {
  await page.request.post(app.url("/api/cards"), { data: { ...EMPTY_CARD, maker: "Quillmar", model: "Reed 4" } });
  const bench = new Bench(page, app);
  await bench.open("/workshop");
  const backups = page.getByRole("region", { name: "Backups" });
  await backups.getByRole("button", { name: "Back up now" }).click();
  await expect(backups.getByText("by hand")).toBeVisible();
  await expect(backups.getByText(/Last one .* ago/)).toBeVisible();
  await expect(backups.getByText(/\d\.\d MB/).first()).toBeVisible();
  await expect(backups.getByText("The database is sound.")).toBeVisible({ timeout: 20_000 });
  await backups.getByLabel("Folder of the backups").fill("somewhere");
  await backups.getByRole("button", { name: "Save folder" }).click();
  await expect(backups.getByRole("alert")).toContainText("Give the whole path");
  await backups.getByLabel("Folder of the backups").fill("");
  await expect(backups.getByRole("button", { name: "Save folder" })).toBeHidden();
});

test("an export goes round; one that something is wrong with names the row and changes nothing", async ({ page }) => {
  const bench = new Bench(page, app);
  const file = (await (await page.request.get(app.url("/api/export.json"))).json()) as ExportFile;
  await bench.open("/workshop");
  const drop = (content: unknown) =>
    page
      .getByRole("region", { name: "Import an export" })
      .locator("input[type=file]")
      .setInputFiles(textFile("export.json", typeof content === "string" ? content : JSON.stringify(content)));
  await drop(file);
  await expect(page.getByText("0 cards, 0 runs and 0 notes came in; 1 cards were here already.")).toBeVisible();
  const [card = {}] = file.tables.cards;
  await drop({ ...file, tables: { ...file.tables, cards: [card, { ...card, id: "other", lookOver: 5 }] } });
  await expect(page.getByRole("alert")).toContainText("Row 2 of cards");
  await drop("cards;runs");
  await expect(page.getByRole("alert")).toContainText("not JSON");
  const cards = (await (await page.request.get(app.url("/api/bench"))).json()) as unknown[];
  expect(cards).toHaveLength(1);
});

test("from another device: sign in with the passphrase, and out again", async ({ page }) => {
  const open = await new App().start("serve", { ALGIDUS_HOST: "0.0.0.0", ALGIDUS_PASSPHRASE: "correct horse" });
  try {
    const bench = new Bench(page, open);
    await bench.open("/workshop");
    await page.getByLabel("Passphrase of the workshop").fill("wrong horse");
    await page.getByRole("button", { name: "Sign in" }).click();
    await expect(page.getByRole("alert")).toContainText("This is not the passphrase.");
    await page.getByLabel("Passphrase of the workshop").fill("correct horse");
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.getByRole("button", { name: "Sign out" }).click();
    await expect(page.getByRole("heading", { name: "Sign in" })).toBeVisible();
    await page.reload();
    await expect(page.getByRole("heading", { name: "Sign in" })).toBeVisible();
  } finally {
    await open.close();
  }
});
