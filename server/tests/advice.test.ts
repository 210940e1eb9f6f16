import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Advised, Card, OwnProtocol, Run, RunDiagnosis, ServiceView } from "#contract";
import { runs } from "../db/schema.ts";
import { CARD, dropRun, openTestServer, type TestServer, takeIn } from "./server.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

const STEPS = [
  { durationS: 60, load: 0 },
  { durationS: 1000, load: 1 },
  { durationS: 60, load: 0 },
];
const advise = async (card: Card): Promise<Advised> =>
  (await server.ask<Advised>("GET", `/api/services/${card.serviceId}/advice`)).body;
const worn = { steps: STEPS, faults: { dryPaste: 0.7 } };
const NOTE = { doneOn: "2026-05-04", person: "Runa", work: ["repasted"], compound: "", minutes: 40, text: "" };

/** A card of the model that was worn, repasted and proved. */
async function serviced(seed: number): Promise<Card> {
  const card = await takeIn(server);
  await dropRun(server, card, { ...worn, seed });
  await server.ask("POST", `/api/services/${card.serviceId}/notes`, NOTE);
  await dropRun(server, card, { steps: STEPS, seed: seed + 50 }, { side: "after" });
  return card;
}

describe("advice", () => {
  it("has nothing to say before there is a baseline", async () => {
    const found = await advise(await takeIn(server));
    expect(found).toMatchObject({ runId: null, advice: null, findings: [], decision: null });
  });

  it("rests on the shop's own cards of the board model, more firmly with each", async () => {
    const first = await takeIn(server);
    const before = await dropRun(server, first, worn);
    const alone = await advise(first);
    expect(alone.model).toBeNull();
    expect(alone.limits.join(" ")).toMatch(/No healthy run to compare with/);

    for (const seed of [11, 12, 13]) await serviced(seed);
    const known = await advise(first);
    expect(known.model?.cards).toBe(3);
    expect(known.findings[0]).toMatchObject({ cause: "dry-paste" });
    expect(known.findings[0]?.probability).toBeGreaterThan(0.6);
    expect(known.advice?.recommended).toBe("repaste");
    expect(known.advice?.reasons.map((reason) => reason.rule)).toContain("model");

    // A gain like those of the three services, whose truth is the difference of their runs.
    const { body: service } = await server.ask<ServiceView>("GET", `/api/services/${first.serviceId}`);
    expect(service.stations.find((station) => station.id === "decide")?.state).toBe("next");
    expect(known.advice?.expected.gainK).toBeGreaterThan(5);

    const { body: diagnosis } = await server.ask<RunDiagnosis>("GET", `/api/runs/${before.id}/diagnosis`);
    expect(diagnosis).toMatchObject({ source: "board model", cards: 3 });
    expect(diagnosis.findings.reduce((sum, one) => sum + one.probability, 0)).toBeCloseTo(1, 9);
  });

  it("works symptoms out anew from the kept log where an older version kept none", async () => {
    const card = await takeIn(server);
    const run = await dropRun(server, card, worn);
    const { store } = server.running.context;
    const ask = () => server.ask<RunDiagnosis>("GET", `/api/runs/${run.id}/diagnosis`);
    const kept = (await ask()).body;
    await store.write((tx) => tx.update(runs).set({ symptoms: null }));
    expect((await ask()).body.findings[0]?.cause).toBe(kept.findings[0]?.cause);
  });

  it("leaves a card under warranty closed, and says to ask", async () => {
    const { body: card } = await server.ask<Card>("POST", "/api/cards", { ...CARD, warranty: "under warranty" });
    await dropRun(server, card, worn);
    const { advice } = await advise(card);
    expect(advice?.recommended).toBe("leave");
    expect(advice?.reasons[0]?.text).toMatch(/Rules differ by country/);
  });

  it("answers 404 for a run or a service that is none", async () => {
    expect((await server.ask("GET", "/api/services/none/advice")).status).toBe(404);
    expect((await server.ask("GET", "/api/runs/none/diagnosis")).status).toBe(404);
    const decision = { choice: "leave", recommended: "leave", reason: "" };
    expect((await server.ask("PUT", "/api/services/none/decision", decision)).status).toBe(404);
  });
});

describe("protocols of one's own", () => {
  const own = {
    name: "Twice",
    about: "Two short ones",
    steps: [
      { kind: "soak", label: "a", fan: 40, powerPct: 100, minutes: 5, early: false },
      { kind: "soak", label: "b", fan: "automatic", powerPct: 90, minutes: 5, early: true, matchDb: 38 },
    ],
  };

  it("are kept, listed first, removed and put back; they travel with the export", async () => {
    const { body: list } = await server.ask<OwnProtocol[]>("POST", "/api/protocols", own);
    expect(list[0]).toMatchObject(own);
    const id = list[0]?.id;
    const removed = await server.ask<OwnProtocol[]>("PUT", `/api/protocols/${id}/removed`, { removed: true });
    expect(removed.body.some((one) => one.name === "Twice")).toBe(false);
    await server.ask("PUT", `/api/protocols/${id}/removed`, { removed: false });

    const reading = { kind: "room", place: "", shown: 21.5, emissivity: null, surroundC: null, note: "", liveId: null };
    const card = await takeIn(server);
    await server.ask("POST", `/api/services/${card.serviceId}/readings`, reading);
    const { body: file } = await server.ask("GET", "/api/export.json");
    const other = await openTestServer();
    const { body: report } = await other.ask<{ added: Record<string, number> }>("POST", "/api/import", file);
    expect(report.added).toMatchObject({ protocols: 1, readings: 1 });
    expect((await other.ask<OwnProtocol[]>("GET", "/api/protocols")).body[0]).toMatchObject(own);
    const { body: moved } = await other.ask<unknown[]>("GET", `/api/services/${card.serviceId}/readings`);
    expect(moved).toHaveLength(1);
    await other.close();
  });

  it("leave an export from before there were any readable", async () => {
    const { body: file } = await server.ask<{ tables: Record<string, unknown> }>("GET", "/api/export.json");
    const { protocols: _protocols, readings: _readings, ...older } = file.tables;
    const other = await openTestServer();
    const answer = await other.ask<{ added: Record<string, number> }>("POST", "/api/import", {
      ...file,
      tables: older,
    });
    expect([answer.status, answer.body.added.protocols]).toEqual([200, 0]);
    expect((await other.ask<Run>("GET", "/api/bench")).status).toBe(200);
    await other.close();
  });
});
