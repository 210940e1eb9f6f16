import { expect, type Page, test } from "@playwright/test";
import { App, Bench, expectAccessible, expectFits, expectStill } from "./support/app.ts";

// Places and stations side by side, each with a demo of its own.
test.describe.configure({ mode: "parallel" });

let app: App;
test.beforeAll(async () => {
  app = await new App().start("demo");
});
test.afterAll(() => app.close());

/** The demo's instructive card and its mapped board, as paths. */
async function demoPaths(page: Page, bench: Bench): Promise<{ card: string; map: string; decided: string }> {
  await bench.open();
  await expect(page.getByRole("link", { name: /Ostrel Fjell 70 OF70-10342/ })).toBeVisible();
  const card =
    (await page.getByRole("link", { name: /Ostrel Fjell 70 OF70-10342/ }).getAttribute("href"))?.replace(
      /\/[\w-]+$/,
      "",
    ) ?? "";
  const boards = (await (await fetch(app.url("/api/boards"))).json()) as Array<{ id: string; name: string }>;
  const mapped = boards.find((board) => board.name === "OF-70 rev B");
  const lines = (await (await fetch(app.url("/api/bench"))).json()) as Array<{ cardId: string; serial: string }>;
  const decided = `/cards/${lines.find(({ serial }) => serial === "BT12/81/1022")?.cardId}`;
  return { card, map: `/boards/${mapped?.id}/map`, decided };
}

/** By the page's own history, as Back goes: nothing is loaded anew. */
const goWithin = (page: Page, path: string): Promise<void> =>
  page.evaluate((to) => {
    history.pushState(null, "", to);
    dispatchEvent(new PopStateEvent("popstate", { state: null }));
  }, path);

async function expectViews(page: Page, views: ReadonlyArray<readonly [path: string, heading: string]>): Promise<void> {
  for (const [path, heading] of views) {
    await goWithin(page, path);
    await expect(page.getByRole("heading", { level: 1, name: heading })).toBeVisible();
    // Stations share their heading: the one that is asked for is the one that is shown.
    const [, , , station] = path.split(/[/?]/);
    if (path.startsWith("/cards/") && station !== "pad-sheets" && station !== "cooler")
      await expect(page.locator(`a[aria-current="step"][href$="/${station}"]`)).toBeVisible();
    await expectStill(page);
    await expectAccessible(page, ["light", "dark"]);
    await page.setViewportSize({ width: 360, height: 740 });
    await expectFits(page);
    await page.setViewportSize({ width: 1280, height: 800 });
  }
}

test("every place passes the accessibility check, light and dark, and fits a phone", async ({ page }) => {
  const bench = new Bench(page, app);
  const { map, decided } = await demoPaths(page, bench);
  await expectViews(page, [
    ["/", "Bench"],
    ["/take-in", "Take in a card"],
    ["/cards", "Cards"],
    ["/boards", "Boards"],
    [map, "Board map: OF-70 rev B"],
    ["/coolers", "Coolers"],
    [`${decided}/cooler?part=brings`, "Ulmen Broadvane"],
    [`${decided}/cooler?part=heatsinks`, "Ulmen Broadvane"],
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
  await expectViews(page, [
    [`${card}/take-in`, "Ostrel Fjell 70"],
    [`${card}/baseline`, "Ostrel Fjell 70"],
    [`${card}/clean`, "Ostrel Fjell 70"],
    [`${card}/compound`, "Ostrel Fjell 70"],
    [`${card}/fans`, "Ostrel Fjell 70"],
    [`${card}/prove`, "Ostrel Fjell 70"],
    [`${card}/record`, "Ostrel Fjell 70"],
    [`${card}/pads`, "Ostrel Fjell 70"],
    [`${card}/pads?do=choose`, "Ostrel Fjell 70"],
    [`${card}/pads?do=cut`, "Ostrel Fjell 70"],
    [`${card}/pad-sheets`, "Cutting sheets"],
  ]);
  await goWithin(page, `${card}/baseline`);
  await page
    .getByRole("link", { name: /Fixed fan/ })
    .first()
    .click();
  await expect(page.getByRole("slider")).toHaveCount(2);
  await expectAccessible(page, ["light", "dark"]);
});
