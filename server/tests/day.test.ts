import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Card, type DayNow, type DayTerms, type DayView, NO_TERMS, type Settings } from "#contract";
import { CARD, dropRun, openTestServer, type TestServer, takeIn, until } from "./server.ts";

const ALWAYS = Array.from({ length: 7 }, () => ({ fromMin: 0, untilMin: 1440 }));
let server: TestServer;
let card: Card;
beforeAll(async () => {
  server = await openTestServer();
  ({ body: card } = await server.ask<Card>("POST", "/api/cards", CARD));
  await dropRun(server, card);
  await server.ask("PUT", "/api/settings/week", { people: [], opening: ALWAYS });
});
afterAll(() => server.close());

/** The day once its plan is of what it shows. */
const planned = (isIt: (day: DayView) => boolean = () => true): Promise<DayView> =>
  until(
    async () => (await server.ask<DayView>("GET", "/api/day")).body,
    (day) => !day.planning && (day.plan ?? day.problem) !== null && isIt(day),
  );
const terms = (more: Partial<DayTerms>, version: number) =>
  server.ask<DayTerms & { version: number; code?: string }>("PUT", `/api/services/${card.serviceId}/terms`, {
    ...NO_TERMS,
    ...more,
    version,
  });
const HOUR_MS = 3_600_000;
const blockOf = (day: DayView, id: string) => day.plan?.blocks.find((one) => one.id === id);

describe("the day", () => {
  it("answers at once, and has a plan of what still comes for each open card soon after", async () => {
    const { body: first } = await server.ask<DayView>("GET", "/api/day");
    expect(first.cards).toMatchObject([{ serviceId: card.serviceId, version: 0, terms: NO_TERMS }]);
    const day = await planned();
    // The closing too, though it is a station of its own only once the card is open.
    expect(day.plan?.blocks.map(({ id }) => id).filter((id) => id !== "closeUp")).toEqual(day.cards[0]?.ahead);
    expect(blockOf(day, "closeUp")?.startMs).toBeLessThan(blockOf(day, "prove")?.startMs ?? 0);
    expect(blockOf(day, "prove")).toMatchObject({ kind: "bench", lane: 0 });
    expect(day.plan?.newcomerMs).toBeGreaterThan(day.atMs);
  });

  it("tells whoever knows it only how far the plan is, until something changes, and nothing of a card that was removed", async () => {
    const whole = await planned();
    const since = () => server.ask<DayView | DayNow>("GET", `/api/day?known=${encodeURIComponent(whole.stamp)}`);
    expect(Object.keys((await since()).body).toSorted()).toEqual([
      "atMs",
      "planning",
      "progress",
      "stamp",
      "unchanged",
    ]);
    const other = await takeIn(server);
    const { body: changed } = await since();
    expect((changed as DayView).cards.map(({ serviceId }) => serviceId)).toContain(other.serviceId);
    expect(changed.stamp).not.toBe(whole.stamp);
    await server.ask("PUT", `/api/cards/${other.id}/removed`, { removed: true });
    const { body: left } = await server.ask<DayView>("GET", "/api/day");
    expect(left.cards.map(({ serviceId }) => serviceId)).toEqual([card.serviceId]);
  });

  it("keeps a promise and a held step by version, plans anew, and says how likely the promise is", async () => {
    const promisedAt = new Date(Date.now() + 400 * HOUR_MS).toISOString();
    const before = await planned();
    const start = blockOf(before, "record")?.startMs ?? 0;
    const held = { record: new Date(start + 24 * HOUR_MS).toISOString() };
    const { status, body } = await terms({ promisedAt, held, weight: 3 }, 0);
    expect([status, body.version]).toEqual([200, 1]);
    const again = await planned((one) => blockOf(one, "record")?.held === true);
    expect(again.cards[0]).toMatchObject({ version: 1, terms: { promisedAt, weight: 3 } });
    expect(blockOf(again, "record")).toMatchObject({ held: true, startMs: start + 24 * HOUR_MS });
    expect(again.plan?.kept[0]?.chance).toBeGreaterThan(0.9);

    const stale = await terms({ weight: 2 }, 0);
    expect([stale.status, stale.body.code]).toEqual([409, "changed-elsewhere"]);
    // Sent again as its answer was lost: taken as what it is.
    expect((await terms({ promisedAt, held, weight: 3 }, 0)).body.version).toBe(1);
    const calendar = await fetch(`${server.running.address}api/day.ics`);
    expect(calendar.headers.get("content-type")).toMatch(/text\/calendar/);
    const text = await calendar.text();
    expect(text).toContain(`SUMMARY:Promised: ${card.maker} ${card.model}`);
    const stamp = `${promisedAt.slice(0, 19).replace(/[-:]/g, "")}Z`;
    expect(text).toContain(`DTSTART:${stamp}`);
    expect((await terms({}, 1)).body.version).toBe(2);
  });

  it.each([
    ["a promise in the past", { promisedAt: "2020-01-01T10:00:00.000Z" }, "promise-past"],
    ["a day without a zone", { promisedAt: "tomorrow" }, "bad-input"],
    ["a step that is none", { held: { lunch: "2030-01-01T10:00:00.000Z" } }, "bad-held"],
    ["a weight of nothing", { weight: 0 }, "bad-input"],
  ])("refuses %s, and keeps what was there", async (_, more, code) => {
    const { body: before } = await server.ask<DayView>("GET", "/api/day");
    const { status, body } = await terms(more, before.cards[0]?.version ?? 0);
    expect([status >= 400, body.code]).toEqual([true, code]);
    const { body: after } = await server.ask<DayView>("GET", "/api/day");
    expect(after.cards[0]?.terms).toEqual(before.cards[0]?.terms);
  });

  it("says which step is longer than the opening hours, and keeps its last plan", async () => {
    await planned();
    const opening = Array.from({ length: 7 }, (_, day) => (day < 5 ? { fromMin: 600, untilMin: 620 } : null));
    const { body: settings } = await server.ask<Settings>("PUT", "/api/settings/week", { people: [], opening });
    expect(settings.opening).toEqual(opening);
    const day = await planned((one) => one.problem !== null);
    expect(day.problem?.what).toMatch(/longer than .* is ever open/);
    expect(day.plan).not.toBeNull();
    // The other settings leave the week as it is.
    await server.ask("PUT", "/api/settings", { ...settings, opening: ALWAYS, workshop: "B" });
    const { body: now } = await server.ask<Settings>("GET", "/api/settings");
    expect(now.opening).toEqual(opening);
    const nobody = await server.ask<{ code: string }>("PUT", "/api/settings/week", {
      people: [],
      opening: Array.from({ length: 7 }, () => null),
    });
    expect(nobody.status).toBe(422);
    await server.ask("PUT", "/api/settings/week", {
      people: [{ name: "Runa", can: null }],
      opening: ALWAYS,
    });
    const open = await planned((one) => one.problem === null && one.people[0] === "Runa");
    expect(open.closed).toEqual([]);
    expect(blockOf(open, open.cards[0]?.ahead[0] ?? "")?.startMs).toBeLessThan(open.atMs + HOUR_MS);
  });

  it("takes the plan found so far when that is enough, and says how far it is until then", async () => {
    await planned();
    // Many cards, so that there is something to look for.
    for (let count = 0; count < 12; count++) await server.ask("POST", "/api/cards", CARD);
    const { body: begun } = await server.ask<DayView>("GET", "/api/day");
    expect(begun).toMatchObject({ planning: true });
    expect(begun.progress).toBeGreaterThanOrEqual(0);
    expect((await server.ask("POST", "/api/day/enough")).body).toEqual({ ok: true });
    const day = await planned((one) => one.plan?.kept.length === 13);
    expect(day.progress).toBeNull();
    expect(new Set(day.plan?.blocks.map(({ serviceId }) => serviceId)).size).toBe(13);
  });
});
