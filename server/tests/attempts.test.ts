import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Run, ServiceView } from "#contract";
import { headlineOf } from "#core/outcome/index.ts";
import { dropRun, openTestServer, RUN, type TestServer, takeIn } from "./server.ts";

const BAD = { faults: { heldOffMm: 0.25 } };

describe("attempts", () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await openTestServer();
  });
  afterAll(() => server.close());
  const serviceOf = async (id: string): Promise<ServiceView> =>
    (await server.ask<ServiceView>("GET", `/api/services/${id}`)).body;
  const prove = (service: ServiceView) => service.stations.find((one) => one.id === "prove");

  it("a good run after a bad one is judged, not the bad one, and both stay readable", async () => {
    const card = await takeIn(server);
    await dropRun(server, card, { seed: 1, faults: { dryPaste: 0.5 } });
    await dropRun(server, card, { seed: 2, ...BAD }, { side: "after" });
    const worse = await serviceOf(card.serviceId);
    expect(prove(worse)?.figure).toMatch(/hotter/);
    const begun = await server.ask<ServiceView>("POST", `/api/services/${card.serviceId}/attempts`, {
      changed: "thinner pads on the memory",
    });
    expect(begun.status).toBe(201);
    expect(prove(begun.body)?.state).not.toBe("done");
    await dropRun(server, card, { seed: 3 }, { side: "after" });
    const better = await serviceOf(card.serviceId);
    expect(prove(better)).toMatchObject({ state: "done", figure: expect.stringMatching(/cooler/) });
    expect(better.attempts.map(({ number, changed }) => [number, changed])).toEqual([
      [1, ""],
      [2, "thinner pads on the memory"],
    ]);
    expect(headlineOf(better.attempts[0]!.comparisons[0]!.outcome)).toMatch(/hotter/);
    const closed = await server.ask("PUT", `/api/services/${card.serviceId}/closed`, { closed: true });
    expect(closed.status).toBe(200);
  });

  it("nobody runs the same again for nothing: a run after a bad one begins an attempt by itself", async () => {
    const card = await takeIn(server);
    await dropRun(server, card, { seed: 1, faults: { dryPaste: 0.5 } });
    await dropRun(server, card, { seed: 2, ...BAD }, { side: "after" });
    await dropRun(server, card, { seed: 3 }, { side: "after" });
    const service = await serviceOf(card.serviceId);
    expect(service.runs.map((run) => run.attempt)).toEqual([1, 1, 2]);
    expect(prove(service)?.figure).toMatch(/cooler/);
  });

  it("the same again after a good one is pooled, and one may be left out with its reason", async () => {
    const card = await takeIn(server);
    await dropRun(server, card, { seed: 1, faults: { dryPaste: 0.5 } });
    await dropRun(server, card, { seed: 2 }, { side: "after" });
    const second = await dropRun(server, card, { seed: 3 }, { side: "after" });
    const pooled = await serviceOf(card.serviceId);
    expect(pooled.comparisons[0]?.afterIds).toHaveLength(2);
    const { body: run } = await server.ask<Run>("GET", `/api/runs/${second.id}`);
    const left = await server.ask<Run>("PUT", `/api/runs/${second.id}`, {
      ...RUN,
      side: "after",
      mapping: run.mapping,
      attempt: run.attempt,
      leftOut: "window was open",
      version: run.version,
    });
    expect(left.body.leftOut).toBe("window was open");
    const alone = await serviceOf(card.serviceId);
    expect(alone.comparisons[0]?.afterIds).toHaveLength(1);
    expect(alone.runs).toHaveLength(3);
  });

  it("what was changed is asked for, in words of its own", async () => {
    const card = await takeIn(server);
    const empty = await server.ask<{ errors: object }>("POST", `/api/services/${card.serviceId}/attempts`, {
      changed: " ",
    });
    expect(empty.status).toBe(422);
    expect(empty.body.errors).toEqual({ changed: "Say in a few words what was changed." });
  });
});
