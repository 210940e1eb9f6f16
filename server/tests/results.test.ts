import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  type Advised,
  type Card,
  FACTORS,
  type FactorId,
  type FindingsAsked,
  type FindingsView,
  type ModelView,
  type StepMarkInput,
} from "#contract";
import { CARD, dropRun, openTestServer, type TestServer } from "./server.ts";

/** What Findings and the model's page know comes from what was done at the stations, not from what was typed for them. */
let server: TestServer;
let count = 0;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

const mark = (station: StepMarkInput["station"], stepId: string, more: Partial<StepMarkInput> = {}): StepMarkInput => ({
  id: `mark-${count++}-of-results`,
  station,
  attempt: 1,
  stepId,
  what: "done",
  value: "",
  text: "",
  at: new Date(Date.UTC(2026, 2, 1, 9, 0, 30 * count)).toISOString(),
  ...more,
});
const value = (station: StepMarkInput["station"], stepId: string, said: string, text = ""): StepMarkInput =>
  mark(station, stepId, { what: "value", value: said, text });
const PLAN = {
  materialId: null,
  name: "Slate sheet",
  kind: "phase-change",
  pattern: "sheet",
  beads: [],
  filmUm: 0,
  bondLineUm: 30,
  densityGPerMl: null,
  nozzleMm: 1.2,
};
const ASKED: FindingsAsked = { by: null, adjust: [], only: {}, measure: "die", paper: true };
const ask = async (more: Partial<FindingsAsked> = {}): Promise<FindingsView> =>
  (await server.ask<FindingsView>("POST", "/api/findings", { ...ASKED, ...more })).body;
const values = async (): Promise<Record<string, string[]>> =>
  Object.fromEntries((await ask()).values.map(({ factor, values: all }) => [factor, all.map((one) => one.value)]));

async function proved(more: Partial<Card>, marks: readonly StepMarkInput[], seed: number): Promise<Card> {
  const { body: card } = await server.ask<Card>("POST", "/api/cards", { ...CARD, newBoardModel: "RS-1", ...more });
  await dropRun(server, card, { seed, faults: { dryPaste: 0.6 } });
  if (marks.length > 0) {
    const { status } = await server.ask("POST", `/api/services/${card.serviceId}/steps`, { marks });
    expect(status).toBeLessThan(300);
  }
  await dropRun(server, card, { seed: seed + 1 }, { side: "after" });
  return card;
}

describe("a proved service", () => {
  it("tells how it was cleaned, what went on and how, for which use and age", async () => {
    await proved(
      { serial: "RS-A", ageYears: 4, useKind: "games" },
      [
        value("clean", "pads-off", "off"),
        value("clean", "dirt", "smoke"),
        value("clean", "school", "wash"),
        mark("clean", "dry-end"),
        value("compound", "plan", "kept", JSON.stringify(PLAN)),
        mark("compound", "on"),
        mark("strip", "out:S3", { what: "odd", value: "stripped", text: "worn cross" }),
      ],
      21,
    );
    expect(await values()).toMatchObject({
      work: ["repasted"],
      compound: ["Slate sheet"],
      compoundKind: ["phase-change"],
      pattern: ["sheet"],
      cleaning: ["with water"],
      dirt: ["smoke"],
      use: ["games"],
      model: ["RS-1"],
      cooler: ["original"],
    });
  });

  it("whose steps were begun and not ended tells nothing of them", async () => {
    await proved(
      { serial: "RS-B" },
      [value("compound", "plan", "kept", JSON.stringify({ ...PLAN, name: "Other" }))],
      31,
    );
    expect((await values()).compound).toEqual(["Slate sheet"]);
    const view = await ask({ by: "compound" });
    expect(view).toMatchObject({ found: null, problem: { code: "few-rows" }, services: 2 });
  });

  it("follows what is changed of it: a note, its card, its removal", async () => {
    const card = await proved({ serial: "RS-C" }, [], 41);
    const note = { doneOn: "2026-03-01", person: "", work: ["fans oiled"], compound: "", minutes: null, text: "" };
    await server.ask("POST", `/api/services/${card.serviceId}/notes`, note);
    expect((await values()).work?.toSorted()).toEqual(["fans", "repasted"]);
    const { body: now } = await server.ask<Card>("GET", `/api/cards/${card.id}`);
    await server.ask("PUT", `/api/cards/${card.id}`, { ...now, useKind: "office" });
    expect((await values()).use?.toSorted()).toEqual(["games", "office"]);
    await server.ask("PUT", `/api/cards/${card.id}/removed`, { removed: true });
    expect((await ask()).services).toBe(2);
    await server.ask("PUT", `/api/cards/${card.id}/removed`, { removed: false });
    expect((await ask()).services).toBe(3);
  });

  it.each(FACTORS.map(({ id }): [FactorId] => [id]))(
    "can be looked at by %s: an answer, or words why not",
    async (by) => {
      const view = await ask({ by });
      expect(view.overall?.k).toBe(3);
      expect(view.found !== null || view.problem !== null).toBe(true);
    },
  );

  it("counts by its hotspot gap as well, where both sensors were there", async () => {
    const gap = await ask({ measure: "gap" });
    expect(gap.overall?.k).toBe(3);
    expect(gap.overall?.coefficients[0]?.estimate).toBeLessThan(0);
    expect(gap.lines[0]?.changeK).not.toBe((await ask()).lines[0]?.changeK);
  });

  it("tells the next card with the same leading cause what to expect, weighed by how sure each is", async () => {
    await proved({ serial: "RS-D" }, [], 51);
    const { body: next } = await server.ask<Card>("POST", "/api/cards", {
      ...CARD,
      serial: "RS-E",
      newBoardModel: "RS-1",
    });
    await dropRun(server, next, { seed: 61, faults: { dryPaste: 0.6 } });
    const advice = async () =>
      (await server.ask<Advised>("GET", `/api/services/${next.serviceId}/advice`)).body.advice?.expected;
    const expected = await advice();
    expect(expected?.services).toBe(4);
    const mean = (await ask()).overall?.coefficients[0]?.estimate ?? 0;
    expect(expected?.gainK).toBeCloseTo(-mean, 6);
    // What does not count in Findings does not count here.
    const { lines } = await ask();
    for (const { id } of lines.slice(0, 2))
      await server.ask("PUT", `/api/results/${id}/left-out`, { reason: "another room" });
    expect((await advice())?.words).toMatch(/own figures/);
    for (const { id } of lines.slice(0, 2)) await server.ask("PUT", `/api/results/${id}/counted`);
  });
});

describe("the model's page", () => {
  it("knows what came and went, causes, work, odd screws, and the last ones", async () => {
    const { body: cards } = await server.ask<Array<{ cardId: string; serial: string }>>("GET", "/api/bench");
    const { body: card } = await server.ask<Card>(
      "GET",
      `/api/cards/${cards.find(({ serial }) => serial === "RS-A")?.cardId}`,
    );
    const { body: known } = await server.ask<ModelView>("GET", `/api/boards/${card.boardModelId}/known`);
    expect(known.services).toBe(5);
    const edge = known.rises.find(({ role }) => role === "edge");
    expect([edge?.before?.count, edge?.after?.count]).toEqual([5, 4]);
    expect(edge?.after?.medianK).toBeLessThan(edge?.before?.medianK ?? 0);
    expect(known.gap.after?.medianK).toBeLessThan(known.gap.before?.medianK ?? 0);
    expect(known.causes[0]).toMatchObject({ what: "dry-paste" });
    expect(known.helped.map(({ work }) => work).toSorted()).toEqual(["fans", "repasted"]);
    expect(known.odd).toEqual([{ what: "S3: stripped, worn cross", count: 1 }]);
    expect(known.compounds).toEqual([{ what: "Slate sheet", count: 1 }]);
    expect(known.minutes.map(({ station }) => station)).toContain("clean");
    expect(known.last).toHaveLength(5);
  });

  it("of a model nobody has seen is empty, not wrong", async () => {
    const { body: known, status } = await server.ask<ModelView>("GET", "/api/boards/nothing/known");
    expect([status, known.services, known.rises, known.helped]).toEqual([200, 0, [], []]);
  });
});
