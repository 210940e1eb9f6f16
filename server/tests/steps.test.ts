import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Card, RunDiagnosis, ServiceView, StepMarkInput, StepsView } from "#contract";
import { CARD, dropRun, openTestServer, type TestServer } from "./server.ts";

let server: TestServer;
let card: Card;
let runId: string;
beforeAll(async () => {
  server = await openTestServer();
  ({ body: card } = await server.ask<Card>("POST", "/api/cards", CARD));
});
afterAll(() => server.close());

let count = 0;
const mark = (stepId: string, more: Partial<StepMarkInput> = {}): StepMarkInput => ({
  id: `mark-${count++}-of-this-test`,
  station: "strip",
  attempt: 1,
  stepId,
  what: "done",
  value: "",
  text: "",
  at: new Date(Date.UTC(2026, 2, 1, 9, 0, count)).toISOString(),
  ...more,
});
const add = (marks: readonly StepMarkInput[]) =>
  server.ask<StepsView>("POST", `/api/services/${card.serviceId}/steps`, { marks });
const stationOf = async (id: string) => {
  const { body } = await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`);
  return body.stations.find((station) => station.id === id);
};

describe("steps of hands", () => {
  it("nothing is opened before it has run, and nothing of it is kept", async () => {
    const { status, body } = await server.ask<{ code: string }>("POST", `/api/services/${card.serviceId}/steps`, {
      marks: [mark("off")],
    });
    expect([status, body.code]).toEqual([422, "baseline-first"]);
    expect((await server.ask<StepsView>("GET", `/api/services/${card.serviceId}/steps`)).body.marks).toEqual([]);
    ({ id: runId } = await dropRun(server, card));
    expect((await add([mark("begin", { what: "begun" })])).status).toBe(200);
  });

  it("forty marks of a device that was away arrive in order and once, among those of another", async () => {
    const away = Array.from({ length: 40 }, (_, k) => mark(`out:S${k}`));
    const other = [mark("plug:P1"), mark("plug:P2")];
    await add(away.slice(0, 3));
    await add(other);
    // The answer was lost: all are sent again.
    const { body } = await add(away);
    await add(away);
    const own = body.marks.filter(({ id }) => away.some((one) => one.id === id));
    expect(own.map(({ stepId }) => stepId)).toEqual(away.map(({ stepId }) => stepId));
    const { body: kept } = await server.ask<StepsView>("GET", `/api/services/${card.serviceId}/steps`);
    expect(kept.marks).toHaveLength(1 + 40 + 2);
    expect(await stationOf("strip")).toMatchObject({ state: "open", figure: "40 screws out" });
  });

  it.each([
    ["an empty list", []],
    ["a station without steps", [{ ...mark("x"), station: "pads" }]],
    ["a time that is none", [{ ...mark("x"), at: "today" }]],
    ["more than a device may send", Array.from({ length: 1001 }, () => mark("x"))],
    ["a step with a name without end", [mark("x".repeat(61))]],
  ])("%s is refused with a message", async (_, marks) => {
    const { status, body } = await server.ask<{ title: string }>("POST", `/api/services/${card.serviceId}/steps`, {
      marks,
    });
    expect(status).toBe(422);
    expect(body.title.length).toBeGreaterThan(5);
  });

  it("once it is counted it is to be closed; another attempt begins both anew", async () => {
    await server.ask("PUT", `/api/services/${card.serviceId}/decision`, {
      choice: "repaste",
      recommended: "repaste",
      reason: "",
    });
    expect((await stationOf("strip"))?.state).toBe("next");
    await add([mark("count", { what: "value", value: "40" }), mark("count")]);
    expect((await stationOf("strip"))?.state).toBe("done");
    await server.ask("POST", `/api/services/${card.serviceId}/notes`, {
      doneOn: "2026-03-01",
      person: "",
      work: ["repasted"],
      compound: "",
      minutes: 20,
      text: "",
    });
    expect(await stationOf("closeUp")).toMatchObject({ state: "next" });
    await add([mark("back:S1", { station: "closeUp" }), mark("tighten:S2:1", { station: "closeUp" })]);
    expect((await stationOf("closeUp"))?.figure).toBe("38 screws to go back");
    await add([mark("back", { station: "closeUp" })]);
    expect(await stationOf("closeUp")).toMatchObject({ state: "done", figure: "closed" });
    expect((await stationOf("prove"))?.state).toBe("next");
    await dropRun(server, card, { seed: 2 }, { side: "after" });
    await server.ask("POST", `/api/services/${card.serviceId}/attempts`, { changed: "thinner pads" });
    expect(await stationOf("strip")).toMatchObject({ state: "next", figure: "" });
  });

  it("a bare corner is told by the diagnosis of the run before it", async () => {
    const before = await server.ask<RunDiagnosis>("GET", `/api/runs/${runId}/diagnosis`);
    await add([mark("imprint", { what: "value", value: `bbtcccbbtccc${"c".repeat(24)}` })]);
    const after = await server.ask<RunDiagnosis>("GET", `/api/runs/${runId}/diagnosis`);
    const share = ({ body }: typeof after) => body.findings.find(({ cause }) => cause === "cooler-held-off");
    expect(share(after)?.probability).toBeGreaterThan(share(before)?.probability ?? 1);
    expect(share(after)?.evidence[0]).toMatch(/bare at the upper left/);
  });

  it("travels with an export", async () => {
    const { body: file } = await server.ask("GET", "/api/export.json");
    const other = await openTestServer();
    try {
      expect((await other.ask("POST", "/api/import", file)).status).toBe(200);
      const { body } = await other.ask<StepsView>("GET", `/api/services/${card.serviceId}/steps`);
      const { body: here } = await server.ask<StepsView>("GET", `/api/services/${card.serviceId}/steps`);
      expect(body).toEqual(here);
    } finally {
      await other.close();
    }
  });
});
