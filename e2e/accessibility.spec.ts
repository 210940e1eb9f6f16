import { expect, type Page, test } from "@playwright/test";
import { App, Bench, expectAccessible } from "./support/app.ts";

let app: App;
test.beforeAll(async () => {
  app = await new App().start("demo");
});
test.afterAll(() => app.close());

/** The demo's instructive card and its mapped board, as paths. */
async function demoPaths(page: Page, bench: Bench): Promise<{ card: string; map: string }> {
  await bench.open();
  await expect(page.getByRole("link", { name: /Ostrel Fjell 70 OF70-10342/ })).toBeVisible();
  const card =
    (await page.getByRole("link", { name: /Ostrel Fjell 70 OF70-10342/ }).getAttribute("href"))?.replace(
      /\/[\w-]+$/,
      "",
    ) ?? "";
  const boards = (await (await fetch(app.url("/api/boards"))).json()) as Array<{ id: string; name: string }>;
  const mapped = boards.find((board) => board.name === "OF-70 rev B");
  return { card, map: `/boards/${mapped?.id}/map` };
}

async function expectViews(
  page: Page,
  bench: Bench,
  views: ReadonlyArray<readonly [path: string, heading: string]>,
): Promise<void> {
  for (const [path, heading] of views) {
    await bench.open(path);
    await expect(page.getByRole("heading", { level: 1, name: heading })).toBeVisible();
    await page.waitForLoadState("networkidle");
    await expectAccessible(page);
    await page.setViewportSize({ width: 360, height: 740 });
    expect(
      await page.evaluate(() => document.documentElement.scrollWidth - innerWidth),
      `${path} at 360 px`,
    ).toBeLessThanOrEqual(0);
    await page.setViewportSize({ width: 1280, height: 800 });
  }
}

test("every place passes the accessibility check, light and dark, and fits a phone", async ({ page }) => {
  const bench = new Bench(page, app);
  const { map } = await demoPaths(page, bench);
  await expectViews(page, bench, [
    ["/", "Bench"],
    ["/take-in", "Take in a card"],
    ["/cards", "Cards"],
    ["/boards", "Boards"],
    [map, "Board map: OF-70 rev B"],
    ["/stores", "Stores"],
    ["/workshop", "Workshop"],
    ["/removed", "Removed"],
    ["/compare", "Compare two logs"],
    ["/nowhere", "There is nothing here"],
  ]);
});

test("every station passes the accessibility check, light and dark, and fits a phone", async ({ page }) => {
  const bench = new Bench(page, app);
  const { card } = await demoPaths(page, bench);
  await expectViews(page, bench, [
    [`${card}/take-in`, "Ostrel Fjell 70"],
    [`${card}/baseline`, "Ostrel Fjell 70"],
    [`${card}/work`, "Ostrel Fjell 70"],
    [`${card}/prove`, "Ostrel Fjell 70"],
    [`${card}/record`, "Ostrel Fjell 70"],
    [`${card}/pads`, "Ostrel Fjell 70"],
    [`${card}/pads?do=choose`, "Ostrel Fjell 70"],
    [`${card}/pads?do=cut`, "Ostrel Fjell 70"],
    [`${card}/pad-sheets`, "Cutting sheets"],
  ]);
  await bench.open(`${card}/baseline`);
  await page
    .getByRole("link", { name: /Fixed fan/ })
    .first()
    .click();
  await expect(page.getByRole("slider")).toHaveCount(2);
  await expectAccessible(page);
});
