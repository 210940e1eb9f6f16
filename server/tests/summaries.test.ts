import { eq } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { ServiceLine, Settings } from "#contract";
import { serviceSummaries } from "../db/schema.ts";
import { checkDatabase } from "../services/check.ts";
import { openContext } from "../start.ts";
import { dropRun, openTestServer, type TestServer, takeIn } from "./server.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

const check = (repair: boolean) => checkDatabase(server.database, repair, () => openContext(server.database));
const lines = async (query = ""): Promise<ServiceLine[]> =>
  (await server.ask<ServiceLine[]>("GET", `/api/bench${query}`)).body;
const NOTE = { doneOn: "2026-05-04", person: "Runa", work: ["repasted"], compound: "", minutes: 40, text: "" };

/** Takes a random step with a card: each is one of the writes that lists rest on. */
async function step(kind: number, card: Awaited<ReturnType<typeof takeIn>>, seed: number): Promise<void> {
  const at = `/api/services/${card.serviceId}`;
  const steps = [
    () => dropRun(server, card, { seed, faults: { dryPaste: 0.5 } }),
    () => dropRun(server, card, { seed }, { side: "after" }),
    () => server.ask("POST", `${at}/notes`, NOTE),
    () => server.ask("PUT", `${at}/skip`, { station: "decide", reason: "as agreed" }),
    () => server.ask("PUT", `${at}/closed`, { closed: seed % 2 === 0 }),
    async () => {
      const { body } = await server.ask<{ version: number }>("GET", `/api/cards/${card.id}`);
      return server.ask("PUT", `/api/cards/${card.id}`, { ...body, ownerName: `Owner ${seed}` });
    },
  ];
  await steps[kind % steps.length]?.();
}

describe("the lines of the lists", () => {
  it("are what their services come to after any walk through the work", async () => {
    const walk = [0, 5, 2, 1, 3, 4, 1, 5, 0, 4, 2, 5];
    const cards = [await takeIn(server), await takeIn(server)];
    for (const [k, kind] of walk.entries()) await step(kind, cards[k % 2]!, k + 1);
    const report = await check(false);
    expect(report).toMatchObject({ sound: true, integrity: [], references: [], summaries: { wrong: [] } });
    expect(report.stored.read).toBeGreaterThan(4);
  });

  it("follow the workshop's own scatter, which moves every verdict", async () => {
    const card = await takeIn(server);
    await dropRun(server, card, { faults: { dryPaste: 0.2 } });
    await dropRun(server, card, { seed: 2 }, { side: "after" });
    const verdict = async () => (await lines()).find((line) => line.cardId === card.id)?.verdict;
    expect(await verdict()).toBe("better");
    const { body: settings } = await server.ask<Settings>("GET", "/api/settings");
    await server.ask("PUT", "/api/settings", { ...settings, scatterMountK: 9, scatterRunK: 9 });
    expect(await verdict()).toBe("no-real-change");
    await server.ask("PUT", "/api/settings", settings);
    expect(await verdict()).toBe("better");
  });

  it("that are wrong are named and mended", async () => {
    const { context } = server.running;
    const [line] = await lines();
    await context.store.client.execute({
      sql: "UPDATE service_summaries SET figure = 'made up', gain_k = 99 WHERE service_id = ?",
      args: [line!.serviceId],
    });
    const found = await check(false);
    expect(found.sound).toBe(false);
    expect(found.summaries.wrong).toEqual([{ serviceId: line!.serviceId, what: "figure, gainK" }]);
    expect((await check(true)).summaries.repaired).toBe(true);
    expect((await check(false)).summaries.wrong).toEqual([]);
    expect((await lines()).find((one) => one.serviceId === line!.serviceId)).toEqual(line);
  });

  it("come a page at a time, newest first, each once, also while others change", async () => {
    for (let k = 0; k < 7; k++) await takeIn(server);
    const total = (await lines()).length;
    const seen: string[] = [];
    for (let address: string | undefined = "/api/bench?limit=3"; address; ) {
      const { body, headers }: { body: ServiceLine[]; headers: Headers } = await server.ask("GET", address);
      expect(headers.get("X-Total-Count")).toBe(String(total));
      seen.push(...body.map((one) => one.serviceId));
      address = /<([^>]+)>; rel="next"/.exec(headers.get("Link") ?? "")?.[1];
    }
    expect(seen).toHaveLength(total);
    expect(new Set(seen).size).toBe(total);
    const days = (await lines()).map((one) => one.updatedAt);
    expect(days).toEqual([...days].sort().reverse());
  });

  it("are found by all words together, in any letters, also by signs that a pattern would read", async () => {
    const found = await lines(`?find=${encodeURIComponent("FJELL ø-17/“x”")}`);
    expect(found.length).toBe((await lines()).length);
    expect(await lines("?find=%25")).toEqual([]);
    expect(await lines("?find=fjell+nowhere")).toEqual([]);
    const refused = await server.ask<{ errors: Record<string, string> }>("GET", "/api/bench?limit=100000");
    expect([refused.status, refused.body.errors.limit]).toEqual([422, "At most 500."]);
  });

  it("of a log whose stored bytes were changed are not what makes a database sound", async () => {
    const { context } = server.running;
    await context.store.client.execute(
      "UPDATE blobs SET bytes = x'00' WHERE kind = 'log' AND rowid IN (SELECT rowid FROM blobs WHERE kind = 'log' LIMIT 1)",
    );
    const { stored, sound } = await check(true);
    expect([sound, stored.unreadable.map(({ what }) => what)]).toEqual([false, ["this log can’t be unpacked"]]);
    const [kept] = await context.store.db.select().from(serviceSummaries).where(eq(serviceSummaries.stale, true));
    expect(kept).toBeUndefined();
  });
});
