import { inflateSync } from "node:zlib";
import { type Browser, expect, type Page, test } from "@playwright/test";
import { addPlug, addScrew, type BoardMap, EMPTY_MAP, type Layer } from "#core/boardmap/index.ts";
import { App, Bench, expectAccessible, expectFits } from "./support/app.ts";
import { answer, dialog, heading, takeInOpen } from "./support/steps.ts";

test.describe.configure({ mode: "serial" });

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

const screw = (map: BoardMap, layer: Layer, xMm: number, yMm: number, more: object = {}): BoardMap => {
  const added = addScrew(map, { xMm, yMm });
  return {
    ...added.map,
    screws: added.map.screws.map((one) => (added.ids.includes(one.id) ? { ...one, layer, lengthMm: 6, ...more } : one)),
  };
};

/** Four around the die, one of them under the seal, one of the backplate, one that is never turned, a fan's plug. */
function known(): BoardMap {
  let map: BoardMap = {
    ...EMPTY_MAP,
    layers: EMPTY_MAP.layers.map(({ id }) => ({ id, there: false })),
    die: { xMm: 100, yMm: 52, widthMm: 22, heightMm: 20 },
  };
  for (const [xMm, yMm] of [
    [74, 26],
    [126, 26],
    [74, 78],
    [126, 78],
  ] as const)
    map = screw(map, "cooler", xMm, yMm, { thread: "M2.5", hiddenBy: xMm + yMm === 100 ? "seal" : "nothing" });
  map = screw(map, "backplate", 20, 12, { forceN: 0 });
  map = screw(map, "cooler", 112, 40, { leaveAlone: true });
  return addPlug(map, { xMm: 220, yMm: 60 }).map;
}

const STRIP_KEYS = [
  [/seal over/, ["2"]],
  [/old compound\?/, ["2"]],
  [/Count the screws on the tray/, ["5", "Enter"]],
] as const satisfies ReadonlyArray<readonly [RegExp, string[]]>;

test("a card is stripped by keyboard alone: outside in, the screws of the die by their turns, what is odd noted", async ({
  page,
}) => {
  const { id } = await takeInOpen(app, page, "KEY-1", "ST-1", known());
  await page.goto(app.url(`/cards/${id}/strip`));
  await page.getByRole("button", { name: "Begin" }).press("Enter");
  await expect(dialog(page)).toBeVisible();
  await expectAccessible(page);
  // Keys of the page behind mean nothing here.
  for (const key of ["]", "n", "m"]) await page.keyboard.press(key);
  await expect(heading(page)).toHaveText(/Switch the supply off/);
  await expect(page).toHaveURL(/strip\?do=steps$/);
  const seen: string[] = [];
  while ((await heading(page).textContent()) !== "Take out S2 and lay it on its circle") {
    // The turns are worked out when the cooler is reached.
    await expect(heading(page)).not.toHaveText(/A moment/);
    const words = (await heading(page).textContent()) ?? "";
    if (/seal over/.test(words)) await expectAccessible(page, ["light", "dark"]);
    seen.push(await answer(page, STRIP_KEYS));
  }
  expect(seen.findIndex((one) => one.includes("S5"))).toBeLessThan(seen.findIndex((one) => one.includes("Loosen")));
  expect(seen.filter((one) => one.startsWith("Loosen")).length).toBeGreaterThanOrEqual(4);
  expect(seen.join()).not.toContain("S6");
  await page.keyboard.press("x");
  await page.getByRole("radio", { name: "stripped" }).press(" ");
  await page.getByLabel("In a few words").fill("worn cross");
  await page.keyboard.press("Enter");
  await expect(dialog(page).getByText("Noted: stripped, worn cross")).toBeVisible();
  await page.keyboard.press("Backspace");
  await expect(heading(page)).not.toHaveText(/S2/);
  await page.keyboard.press(" ");
  for (;;) {
    const words = (await heading(page).textContent()) ?? "";
    if (/Tap where/.test(words)) break;
    seen.push(await answer(page, STRIP_KEYS));
  }
  const [twist, undo, lift] = [/Twist the cooler/, /Undo the fan plug P1/, /Lift the cooler off/].map((words) =>
    seen.findIndex((one) => words.test(one)),
  );
  expect([twist, undo, lift].every((at) => (at ?? -1) > 0)).toBe(true);
  expect(twist).toBeLessThan(undo ?? 0);
  expect(undo).toBeLessThan(lift ?? 0);
  const first = page.getByRole("gridcell").first();
  await first.press("Enter");
  await first.press("Enter");
  await expect(first).toHaveAccessibleName(/bare/);
  await expectAccessible(page);
  await answer(page, STRIP_KEYS);
  // One too few: it is said before it is taken.
  await page.keyboard.press("4");
  await page.keyboard.press("Enter");
  await expect(dialog(page).getByText(/4 of 5 lie there: 1 screw missing/)).toBeVisible();
  await page.keyboard.press("Backspace");
  await answer(page, STRIP_KEYS);
  await expect(heading(page)).toHaveText("All steps are done");
  await page.keyboard.press("Escape");
  await expect(page.getByText("S2: stripped, worn cross")).toBeVisible();
  await expect(page.getByRole("link", { name: /^Strip/ })).toContainText("5 screws out");
});

test("and closed: films, plugs first, turns, what was odd dealt with, every screw back, then power", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open("/cards");
  await page.getByLabel("Find").fill("KEY-1");
  await page.getByRole("link", { name: "Ostrel Strip 7" }).click();
  await bench.station("Close up");
  await expect(page.getByText("Cross, three rounds")).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Begin" }).press("Enter");
  const seen: string[] = [];
  const keys = [
    [/How long has/, ["9", "0", "Enter", "Enter"]],
    [/left on the tray/, ["0", "Enter"]],
  ] as const satisfies ReadonlyArray<readonly [RegExp, string[]]>;
  while ((await heading(page).textContent()) !== "All steps are done") {
    await expect(heading(page)).not.toHaveText(/A moment/);
    if (/Tighten S/.test((await heading(page).textContent()) ?? "") && seen.every((one) => !/Tighten S/.test(one))) {
      await expect(page.getByRole("img", { name: /carries nothing|core of the die/ })).toBeVisible();
      await expectAccessible(page);
    }
    seen.push(await answer(page, keys));
  }
  const at = (pattern: RegExp): number => seen.findIndex((one) => pattern.test(one));
  expect(at(/S2 was stripped \(worn cross\): put it right/)).toBeGreaterThanOrEqual(0);
  expect(at(/Plug in the fan plug P1/)).toBeLessThan(at(/Lower the board/));
  expect(at(/first bite/)).toBeLessThan(at(/Tighten/));
  expect(at(/Put S5 back/)).toBeGreaterThan(at(/until it bottoms/));
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Next: prove" }).click();
  const power = page.getByRole("region", { name: "First power-on after the work" });
  await power
    .getByRole("radiogroup", { name: /All fans start/ })
    .getByRole("radio", { name: "No", exact: true })
    .click();
  await expect(power.getByText(/its plug was forgotten/)).toBeVisible();
  for (const name of [/A light/, /All fans/, /A picture/])
    await power.getByRole("radiogroup", { name }).getByRole("radio", { name: "Yes" }).click();
  await expect(power.getByText(/It works/)).toBeVisible();
  await bench.station("Record");
  await expect(page.getByRole("article")).toContainText("5 screws out, none left over");
  await expect(page.getByRole("article")).toContainText("S2: stripped, worn cross (put right)");
  await expect(page.getByRole("article")).toContainText("Seal when it was opened: damaged");
});

test("on a phone a board nobody knows is learnt while it is stripped, and leads the next card", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 780 });
  const { id } = await takeInOpen(app, page, "LEARN-1", "ST-2", null);
  await page.goto(app.url(`/cards/${id}/strip`));
  await page.getByRole("button", { name: "Begin" }).click();
  const done = dialog(page).getByRole("button", { name: "Done" });
  const isStep = async (words: RegExp): Promise<void> => expect(heading(page)).toHaveText(words);
  await done.click();
  await dialog(page).getByRole("button", { name: "Whole" }).click();
  await isStep(/how warm/);
  await done.click();
  await isStep(/tray/);
  await done.click();
  for (const [words, figure] of [
    [/length along the slot/, "230"],
    [/board’s height/, "2"],
  ] as const) {
    await isStep(words);
    await page.getByLabel("Millimetres").fill(figure);
    await done.click();
  }
  await expect(dialog(page).getByText("Between 10 and 1000 mm.")).toBeVisible();
  await page.getByLabel("Millimetres").fill("100");
  await done.click();
  for (const layer of ["bracket", "fans", "shroud"]) {
    await isStep(new RegExp(layer));
    await dialog(page).getByRole("button", { name: "There is none" }).click();
  }
  await isStep(/backplate/);
  await dialog(page).getByRole("button", { name: "There is one: take it off" }).click();
  await isStep(/Take out a screw of the backplate/);
  await tap(page, 0.1, 0.2);
  await page.getByLabel("Length of S1 (mm)").fill("6,5");
  await page.getByLabel("Length of S1 (mm)").press("Enter");
  await expect(dialog(page).getByText("S1: 6.5 mm")).toBeVisible();
  await expectAccessible(page);
  await expectFits(page);
  await done.click();
  await isStep(/Lift the backplate/);
  await done.click();
  await isStep(/Now the cooler/);
  await done.click();
  await isStep(/crosswise/);
  await done.click();
  await isStep(/Take out a screw of the cooler/);
  for (const [index, [x, y]] of (
    [
      [0.35, 0.25],
      [0.58, 0.25],
      [0.35, 0.75],
      [0.58, 0.75],
    ] as const
  ).entries()) {
    await tap(page, x, y);
    // Typed, and on to the next hole at once: no Enter, no way out of the field.
    await page.getByLabel(`Length of S${index + 2} (mm)`).fill(String(7 + index));
  }
  await done.click();
  await isStep(/Twist the cooler/);
  await done.click();
  await isStep(/a finger’s width/);
  await done.click();
  await isStep(/Undo each plug/);
  await expect(dialog(page).getByRole("radio", { name: "A screw" })).toHaveCount(0);
  for (const [screw, length] of [2, 3, 4, 5].map((id, index) => [id, 7 + index]))
    await expect(dialog(page).getByText(`S${screw}: ${length} mm`)).toBeVisible();
  await tap(page, 0.9, 0.5);
  await expect(dialog(page).getByText("P1: plug")).toBeVisible();
  await done.click();
  await byFinger(page, { screws: "5" });
  await page.getByRole("button", { name: "Back to the card" }).click();
  await expect(page.getByText("5 screws")).toBeVisible();
  await page.goto(app.url(`/cards/${id}/close-up`));
  await page.getByRole("button", { name: "Begin" }).click();
  const closing = await byFinger(page, { screws: "0" });
  // Nobody told spring or thread: quarter turns, and none counted.
  expect(closing.some((words) => /^Tighten S\d, in quarter turns/.test(words))).toBe(true);
  expect(closing.some((words) => /^Tighten S\d by/.test(words))).toBe(false);
  expect(closing).toContain("Put S1 back: 6.5 mm");
  await page.getByRole("button", { name: "Back to the card" }).click();
  await expect(page.getByRole("heading", { name: "Closed" })).toBeVisible();

  const next = await takeInOpen(app, page, "LEARN-2", "ST-2", null);
  await page.goto(app.url(`/cards/${next.id}/strip?do=steps`));
  await dialog(page)
    .getByRole("button", { name: /All steps/ })
    .click();
  for (const words of [/Take out S1/, /Take out S5/, /Undo the fan plug P1/])
    await expect(dialog(page).getByRole("checkbox", { name: words })).toBeEnabled();
  await expect(dialog(page).getByText("Measure the board’s length")).toHaveCount(0);
  await expectAccessible(page);
});

/** Goes on with a finger until all is done. @returns what was asked */
async function byFinger(page: Page, { screws }: { screws: string }): Promise<string[]> {
  const asked: string[] = [];
  const done = dialog(page).getByRole("button", { name: "Done" });
  for (;;) {
    await expect(heading(page)).not.toHaveText(/A moment/);
    const words = (await heading(page).textContent()) ?? "";
    if (words === "All steps are done") return asked;
    asked.push(words);
    if (/Tap the middle of the die/.test(words)) {
      const box = await dialog(page).getByRole("img", { name: /^Plan/ }).boundingBox();
      await page.mouse.click((box?.x ?? 0) + (box?.width ?? 0) * 0.535, (box?.y ?? 0) + (box?.height ?? 0) * 0.5);
      await expect(dialog(page).getByText("Die", { exact: true })).toBeVisible();
    }
    const field = dialog(page).getByRole("textbox");
    if (/old compound\?/.test(words)) await dialog(page).getByRole("button", { name: "Moist" }).click();
    else if (/mid-plate/.test(words)) await dialog(page).getByRole("button", { name: "There is none" }).click();
    else {
      if (/Measure the die/.test(words)) await field.fill("20");
      if (words.startsWith("Count the screws")) await field.fill(screws);
      if (/How long has/.test(words)) await field.fill("5");
      await done.click();
    }
    await expect(heading(page)).not.toHaveText(words);
  }
}

/** Taps the plan at shares of its width and height, from the upper left, and waits for what comes of it. */
async function tap(page: Page, x: number, y: number): Promise<void> {
  const plan = dialog(page).getByRole("img", { name: /^Plan/ });
  const before = await plan.locator("[data-fastener]").count();
  await plan.scrollIntoViewIfNeeded();
  const box = await plan.boundingBox();
  if (!box) throw new Error("The plan is not there.");
  await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  await expect(plan.locator("[data-fastener]")).toHaveCount(before + 1);
}

test("a phone that was away for an hour with forty ticked steps: all arrive once; another device comes to the same step", async ({
  page,
  browser,
}) => {
  let map: BoardMap = known();
  for (let k = 0; k < 40; k++) map = screw(map, "bracket", 10 + 5 * k, 100, { forceN: 0 });
  const { id, serviceId } = await takeInOpen(app, page, "AWAY-1", "ST-3", map);
  await page.goto(app.url(`/cards/${id}/strip?do=steps`));
  await answer(page, STRIP_KEYS);
  const other = await secondDevice(browser, `/cards/${id}/strip?do=steps`);
  await expect(heading(other)).toHaveText(/seal over/);
  await page.context().setOffline(true);
  for (let k = 0; k < 4; k++) await answer(page, STRIP_KEYS);
  const out: string[] = [];
  while (out.length < 40) out.push(await answer(page, STRIP_KEYS));
  await expect(dialog(page).getByText(/\d+ waiting/)).toBeVisible();
  // Meanwhile the other one goes on where it is.
  await answer(other, STRIP_KEYS);
  await page.context().setOffline(false);
  await expect(dialog(page).getByText("saved")).toBeVisible({ timeout: 30_000 });
  const here = (await heading(page).textContent()) ?? "";
  await expect(heading(other)).toHaveText(here);
  const { marks } = (await (await page.request.get(app.url(`/api/services/${serviceId}/steps`))).json()) as {
    marks: Array<{ stepId: string; what: string }>;
  };
  const ticked = marks.flatMap(({ stepId, what }) => (what === "done" && stepId.startsWith("out:") ? [stepId] : []));
  expect(ticked).toEqual(out.flatMap((words) => /Take out (S\d+)/.exec(words)?.[1] ?? []).map((one) => `out:${one}`));
  expect(new Set(ticked).size).toBe(ticked.length);
  await other.context().close();
});

async function secondDevice(browser: Browser, path: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 390, height: 780 } });
  const page = await context.newPage();
  await page.goto(app.url(path));
  return page;
}

test("the tray sheet is printed at true size, a page a layer, on A4 and Letter", async ({ page }) => {
  const { id } = await takeInOpen(app, page, "TRAY-1", "ST-4", known());
  await page.goto(app.url(`/cards/${id}/tray`));
  await expect(page.getByRole("heading", { name: "Tray sheet" })).toBeVisible();
  for (const [paper, long] of [
    ["A4", 842],
    ["Letter", 792],
  ] as const) {
    await page.getByRole("radio", { name: paper }).click();
    const pdf = await page.pdf({ preferCSSPageSize: true });
    const text = pdf.toString("latin1");
    // Backplate and cooler.
    expect(text.match(/\/Type\s*\/Page\b/g)).toHaveLength(2);
    expect(Math.round(Number(/\/MediaBox\s*\[0 0 ([\d.]+)/.exec(text)?.[1]))).toBe(long);
    expect(pointsAPixel(pdf)).toBeCloseTo(0.75, 3);
  }
  const sheet = await page.getByRole("img", { name: /Tray for the cooler/ }).boundingBox();
  expect(((sheet?.width ?? 0) / 96) * 25.4).toBeCloseTo(EMPTY_MAP.board.widthMm, 0);
  await expectAccessible(page);
});

/** How long a CSS pixel, a 96th of an inch, is on paper: 0.75 pt (a 72nd of an inch) at true size. */
function pointsAPixel(pdf: Buffer): number {
  const start = pdf.indexOf("stream\n") + "stream\n".length;
  const content = inflateSync(pdf.subarray(start)).toString("latin1");
  return [...content.matchAll(/^([\d.]+) 0 0 (-?[\d.]+) [-\d.]+ [-\d.]+ cm$/gm)]
    .slice(0, 2)
    .reduce((product, [, scale]) => product * Number(scale), 1);
}
