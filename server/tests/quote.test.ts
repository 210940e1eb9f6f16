import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Card, Quote, QuoteView, ServiceView, Settings } from "#contract";
import { CARD, dropRun, openTestServer, type TestServer } from "./server.ts";

let server: TestServer;
let card: Card;
beforeAll(async () => {
  server = await openTestServer();
  const { body: settings } = await server.ask<Settings>("GET", "/api/settings");
  const rates = { currency: "EUR", hourlyRate: 48, benchRate: 3, taxPct: 19, worthTimes: 3 };
  await server.ask("PUT", "/api/settings", { ...settings, ...rates });
  ({ body: card } = await server.ask<Card>("POST", "/api/cards", { ...CARD, holder: "stock", price: 300 }));
});
afterAll(() => server.close());

const at = (): string => `/api/services/${card.serviceId}/quote`;
const read = async (): Promise<QuoteView> => (await server.ask<QuoteView>("GET", at())).body;
const keep = (quote: Quote, version: number) =>
  server.ask<QuoteView & { code: string }>("PUT", at(), { quote, version });
const accept = (work: string, by: string, version: number) =>
  server.ask<QuoteView & { code: string }>("PUT", `${at()}/accepted`, { work, by, version });

describe("a quote", () => {
  it("begins with the workshop's own rates, and says what options bring once a baseline is there", async () => {
    const empty = await read();
    expect(empty).toMatchObject({ version: 0, accepted: null, brings: null, worthUnits: 30_000 });
    expect(empty.quote).toMatchObject({ digits: 2, terms: { ratePerHour: 4800, benchPerHour: 300, taxPct: 19 } });
    await dropRun(server, card);
    const { brings, now } = await read();
    expect(brings?.leave).toEqual({ gainK: 0, u95K: 0, mends: 0 });
    expect(brings?.pads?.mends).toBeGreaterThanOrEqual(brings?.repaste?.mends ?? Number.NaN);
    expect(now?.riseK).toBeGreaterThan(10);
  });

  it("is kept by version; one option is accepted by name, sets the price of the work and holds the figures", async () => {
    const { quote } = await read();
    const options = quote.options.map((one) =>
      one.work === "repaste" ? { ...one, materialUnits: 2200, minutes: 70, benchMinutes: 70 } : one,
    );
    expect((await keep({ ...quote, options }, 0)).body.version).toBe(1);
    expect((await keep(quote, 0)).status).toBe(409);
    expect((await accept("cooler", "Ines", 1)).body.code).toBe("not-offered");
    const { body: said } = await accept("repaste", "Ines", 1);
    // 22.00 + 56.00 + 3.50, and 19 % of 81.50 is 15.485.
    expect(said.accepted).toMatchObject({ work: "repaste", by: "Ines", grossUnits: 8150 + 1549 });
    const { body: service } = await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`);
    expect(service.workPrice).toBe(96.99);
    expect((await keep({ ...quote, options: [] }, said.version)).body.code).toBe("quote-accepted");
    expect((await accept("clean", "Ines", said.version)).body.code).toBe("quote-accepted");
    // What the card was bought and sold for comes in later.
    const later = await keep({ ...said.quote, boughtUnits: 15_000, soldUnits: 24_000 }, said.version);
    expect(later.body).toMatchObject({ quote: { soldUnits: 24_000 }, accepted: { by: "Ines" } });
    const open = await server.ask<QuoteView>("PUT", `${at()}/open`, { version: later.body.version });
    expect(open.body.accepted).toBeNull();
  });

  it("is changed on by whoever had no answer to the last change, by nobody else", async () => {
    const { quote, version } = await read();
    const change = (minutes: number, changes: string[]) => {
      const options = quote.options.map((one) => ({ ...one, minutes }));
      return server.ask<QuoteView>("PUT", at(), { quote: { ...quote, options }, version, changes });
    };
    expect((await change(61, ["one"])).body.version).toBe(version + 1);
    expect((await change(62, ["another"])).status).toBe(409);
    const { body: again } = await change(63, ["one", "two"]);
    expect([again.version, again.quote.options[0]?.minutes]).toEqual([version + 2, 63]);
    // The owner's word came after it: what was changed before that is made anew, or not at all.
    await accept("repaste", "Ines", again.version);
    expect((await change(64, ["one", "two", "three"])).status).toBe(409);
    await server.ask<QuoteView>("PUT", `${at()}/open`, { version: again.version + 1 });
  });

  it("counts what it came to: noted minutes", async () => {
    await server.ask("POST", `/api/services/${card.serviceId}/notes`, {
      doneOn: "2026-03-01",
      person: "",
      work: ["repasted"],
      compound: "",
      minutes: 55,
      text: "",
    });
    expect((await read()).actual).toEqual({ minutes: 55, benchMinutes: 0, materialUnits: 0 });
  });

  it.each([
    ["half a cent", { boughtUnits: 1.5 }],
    ["a tax of more than all", { terms: { ratePerHour: 1, benchPerHour: 1, taxPct: 101, worthTimes: 3 } }],
    [
      "a kind of work that is none",
      { options: [{ work: "wash", materialUnits: 0, minutes: 0, benchMinutes: 0, offered: true }] },
    ],
  ])("refuses %s", async (_, more) => {
    const { quote, version } = await read();
    const refused = await server.ask<{ code: string }>("PUT", at(), { quote: { ...quote, ...more }, version });
    expect([refused.status, refused.body.code]).toEqual([422, "bad-input"]);
    expect((await read()).version).toBe(version);
  });
});
