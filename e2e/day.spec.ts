import { expect, type Page, test } from "@playwright/test";
import {
  type DayView,
  EMPTY_BENCH,
  EMPTY_MATERIAL,
  type PadJob,
  type QuoteView,
  type Stores,
  type TestBench,
} from "#contract";
import { EMPTY_MAP, PACKAGES, stampPart } from "#core/boardmap/index.ts";
import { App, Bench, expectAccessible, expectFits } from "./support/app.ts";
import { type Made, takeInOpen } from "./support/steps.ts";

test.describe.configure({ mode: "serial" });

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

const ALWAYS = Array.from({ length: 7 }, () => ({ fromMin: 0, untilMin: 1440 }));
const now = (page: Page) => page.getByRole("region", { name: "Hands now" });
const byItself = (page: Page) => page.getByRole("region", { name: "Runs by itself" });
const block = (page: Page, name: RegExp) =>
  page.getByRole("region", { name: "Time line" }).getByRole("button", { name });

/** How far anything on the screen was moved up or down by what came after it, px, since the page was loaded. */
const moved = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        let px = 0;
        new PerformanceObserver((list) => {
          for (const entry of list.getEntries() as unknown as Array<{ sources: Shifted[] }>)
            for (const { previousRect, currentRect } of entry.sources)
              if (previousRect.height > 0 && currentRect.height > 0)
                px = Math.max(px, Math.abs(currentRect.y - previousRect.y));
        }).observe({ type: "layout-shift", buffered: true });
        setTimeout(() => resolve(px), 200);
      }),
  );
type Shifted = Record<"previousRect" | "currentRect", DOMRectReadOnly>;

let first: Made;
let second: Made;

test("a day is played: the run goes by itself while hands work, and the page follows when it ends", async ({
  page,
}) => {
  first = await takeInOpen(app, page, "S-1", "Board one", null);
  second = await takeInOpen(app, page, "S-2", "Board two", null);
  const { request } = page;
  await request.put(app.url(`/api/services/${first.serviceId}/skip`), { data: { station: "baseline", reason: null } });
  await request.put(app.url("/api/settings/week"), {
    data: { people: [{ name: "Runa", can: null }], opening: ALWAYS },
  });
  const made = await request.post(app.url("/api/benches"), {
    data: { ...EMPTY_BENCH, name: "Left bench", seed: 5, speed: 120 },
  });
  const bench = (await made.json()) as TestBench;
  await new Bench(page, app).open();
  await expect(now(page)).toContainText(/Decide|Put on: Baseline/);
  await expect(byItself(page)).toContainText("Nothing runs");
  // What a finger is about to reach is still under it once the plan has come: 24 px are the least target (WCAG 2.2, 2.5.8).
  expect(await moved(page)).toBeLessThan(24);

  const live = await request.post(app.url("/api/live"), {
    data: {
      benchId: bench.id,
      serviceId: first.serviceId,
      side: "before",
      protocol: {
        name: "One soak",
        about: "",
        steps: [{ kind: "soak", label: "Soak", fan: 62, powerPct: 100, minutes: 20, early: false }],
      },
      loadName: "loop",
      sidePanel: "open bench",
      roomC: null,
    },
  });
  expect(live.ok()).toBe(true);
  // What is polled now and then is there at once when one comes back to the page.
  await page.reload();
  await expect(byItself(page)).toContainText("Baseline, Strip 7 S-1".replace("Strip 7", "Ostrel Strip 7"));
  await expect(block(page, /^Baseline, Ostrel Strip 7 S-1, .*, begun$/)).toBeVisible();
  // Hands go on with the other card meanwhile.
  await expect(now(page)).toContainText("Ostrel Strip 7 S-2");
  // Twenty minutes at 120 times real speed.
  await expect(byItself(page)).toContainText("Nothing runs", { timeout: 60_000 });
  await expect(block(page, /^Prove, Ostrel Strip 7 S-1/)).toBeVisible();
  await expect(block(page, /^Baseline, Ostrel Strip 7 S-1/)).toHaveCount(0);
});

test("keys and dragging hold a step, and let it go; why it is not earlier; a date is promised", async ({ page }) => {
  await new Bench(page, app).open();
  const prove = block(page, /^Prove, Ostrel Strip 7 S-2/);
  await prove.focus();
  await page.keyboard.press("Enter");
  const detail = page.getByRole("region", { name: "Prove, Ostrel Strip 7 S-2" });
  await expect(detail).toContainText(/as planned; nine times in ten by/);
  await prove.focus();
  await page.keyboard.press("Shift+ArrowRight");
  const held = block(page, /^Prove, Ostrel Strip 7 S-2, .*, held$/);
  await expect(held).toBeVisible();
  await expect(detail).toContainText("Not earlier: held there.");
  await held.focus();
  await page.keyboard.press("Delete");
  await expect(held).toHaveCount(0);

  await block(page, /^Decide, Ostrel Strip 7 S-1/).focus();
  await page.keyboard.press(".");
  await expect(block(page, /^Decide, Ostrel Strip 7 S-1/)).not.toBeFocused();
  await page.keyboard.press(",");
  await expect(block(page, /^Decide, Ostrel Strip 7 S-1/)).toBeFocused();

  // The plan without what was let go may still be on its way, and move the block while the hand goes there.
  await expect(async () => {
    await prove.hover();
    const box = await prove.boundingBox();
    if (!box) throw new Error("the block is not there");
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 90, box.y + box.height / 2, { steps: 4 });
    await page.mouse.up();
    await expect(held).toBeVisible({ timeout: 10_000 });
  }).toPass({ timeout: 60_000 });
  await detail.getByRole("button", { name: "Let it go" }).click();
  await expect(held).toHaveCount(0);

  await detail.getByRole("button", { name: /^Promise / }).click();
  await expect(detail).toContainText(/Its promise is kept with \d+ %/);
  const { cards } = (await (await page.request.get(app.url("/api/day"))).json()) as DayView;
  expect(cards.find(({ serviceId }) => serviceId === second.serviceId)?.terms.promisedAt).not.toBeNull();
  await expectAccessible(page);
  await page.keyboard.press("a");
  await expect(page.getByRole("heading", { name: "All cards in work" })).toBeFocused();
});

test("a quote: options side by side, figures changed, one accepted by the owner, printed on a page", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await bench.open(`/cards/${first.id}/quote`);
  const repaste = page.getByRole("region", { name: "Clean and repaste", exact: true });
  await expect(repaste).toContainText(/K/);
  const before = await repaste.locator("p").first().innerText();
  await repaste.getByText("Change its figures").click();
  await repaste.getByLabel("Hands (min)").fill("90");
  await page.keyboard.press("Enter");
  // A second figure follows before the first has its answer.
  await repaste.getByLabel("Bench (min)").fill("40");
  await page.keyboard.press("Enter");
  await expect(repaste).toContainText("90 min of hands, 40 min of bench");
  // A change that is saved, but whose answer is lost, stands in no later one's way.
  await page.route(
    /\/quote$/,
    async (route) => {
      if (route.request().method() !== "PUT") return route.fallback();
      await route.fetch();
      return route.abort();
    },
    { times: 1 },
  );
  await repaste.getByLabel("Hands (min)").fill("1,000");
  await page.keyboard.press("Enter");
  await expect(repaste).toContainText("1000 min of hands");
  await repaste.getByLabel("Hands (min)").fill("95");
  await page.keyboard.press("Enter");
  await expect
    .poll(async () => {
      const kept = (await (
        await page.request.get(app.url(`/api/services/${first.serviceId}/quote`))
      ).json()) as QuoteView;
      return kept.quote.options.find(({ work }) => work === "repaste")?.minutes;
    })
    .toBe(95);
  await expect(repaste).toContainText("95 min of hands, 40 min of bench");
  await expect(repaste.locator("p").first()).not.toHaveText(before);
  // What it says while the server does not answer goes, and what stands below moves up.
  await expect(page.getByRole("alert")).toHaveCount(0);
  await page.getByLabel("The owner accepts").selectOption({ label: "Clean and repaste" });
  await page.getByLabel("Who accepted").fill("Ines");
  await page.getByRole("button", { name: "Accepted", exact: true }).click();
  await expect(page.getByText(/^Clean and repaste accepted for/)).toBeVisible();
  const pdf = (await page.pdf({ format: "A4" })).toString("latin1");
  expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(1);
  await page.reload();
  await expect(page.getByText(/By Ines on/)).toBeVisible();
  await expectFits(page);
});

test("a card is promised as it is taken in", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.open("/take-in");
  await page.getByRole("checkbox", { name: /^Promise it for/ }).check();
  await page.getByLabel("Maker").fill("Brevane");
  await page.getByLabel("Model", { exact: true }).fill("Loch 3");
  await page.getByRole("button", { name: "Take in" }).click();
  await expect(page.getByRole("heading", { name: "Brevane Loch 3" })).toBeVisible();
  const { cards, atMs } = (await (await page.request.get(app.url("/api/day"))).json()) as DayView;
  const promised = cards.find(({ name }) => name === "Brevane Loch 3")?.terms.promisedAt;
  expect(Date.parse(promised ?? "")).toBeGreaterThan(atMs);
});

test("what is short is planned for all cards, ordered, and put into stock when it arrives", async ({ page }) => {
  const bench = new Bench(page, app);
  const send = async <T>(method: "post" | "put", path: string, data: object): Promise<T> =>
    (await (await page.request[method](app.url(`/api${path}`), { data })).json()) as T;
  const { materials } = await send<Stores>("post", "/materials", {
    ...EMPTY_MATERIAL,
    kind: "pad",
    name: "Soft blue",
    conductivityWPerMK: 6,
  });
  const map = stampPart(EMPTY_MAP, PACKAGES[0]!, { xMm: 80, yMm: 30 }, "front").map;
  await send("put", `/boards/${first.boardModelId}/map`, { map, version: 0 });
  const sheet = { materialId: materials[0]?.id ?? "", thicknessMm: 1, widthMm: 85, heightMm: 45 };
  await send("post", "/offers", { ...sheet, price: 9, label: "shelf 4", leadDays: 5 });
  const job = (await (await page.request.get(app.url(`/api/services/${first.serviceId}/pads`))).json()) as PadJob;
  const pick = { ...sheet, layers: 1, widthMm: 14, heightMm: 12, offXMm: 0, offYMm: 0, filmLeft: false };
  await send("put", `/services/${first.serviceId}/pads`, {
    plan: { ...job.plan, picks: { M1: pick } },
    version: job.version,
  });
  await bench.open("/stores/buying");
  await page.getByRole("button", { name: "Plan what to buy" }).click();
  const line = page.getByRole("row", { name: /Soft blue, 1 mm/ });
  await expect(line).toContainText("1 sheet");
  await line.getByRole("button", { name: "Ordered" }).click();
  await expect(line).toContainText(/ordered \d{4}-\d\d-\d\d/);
  await expectAccessible(page);
  await line.getByRole("button", { name: "Arrived" }).click();
  await expect(line).toContainText("in stock");
  const { lots, offers } = (await (await page.request.get(app.url("/api/stores"))).json()) as Stores;
  expect(lots).toMatchObject([{ ...sheet, amount: 1, price: 9 }]);
  expect(offers).toMatchObject([{ orderedOn: null }]);
  // Planned anew, nothing has to be bought.
  await page.getByRole("button", { name: "Plan what to buy" }).click();
  await expect(page.getByText("Nothing has to be bought")).toBeVisible();
});

test("the wall shows the day large and lets nothing be changed; the week is kept under Workshop", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.open("/wall");
  await expect(now(page)).toBeVisible();
  await expect(page.getByRole("button", { name: /^Prove, Ostrel Strip 7 S-1/ })).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  await bench.open("/");
  await expect(now(page)).toBeVisible();
  await expectFits(page);

  await bench.open("/workshop");
  await page.getByRole("button", { name: "Add a person" }).click();
  await page.getByLabel("Person 2", { exact: true }).fill("Tove");
  await page.getByLabel("Sunday", { exact: true }).uncheck();
  await page.getByRole("button", { name: "Save the week" }).click();
  await expect(page.getByText("Saved").first()).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Person 2", { exact: true })).toHaveValue("Tove");
  await expect(page.getByLabel("Sunday", { exact: true })).not.toBeChecked();
});
