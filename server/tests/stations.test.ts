import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  type Advised,
  type Board,
  type Card,
  EMPTY_POWER_ON,
  type ServiceLine,
  type ServiceView,
  type Settings,
} from "#contract";
import type { ProblemDetail } from "#core";
import { dropRun, openTestServer, RUN, type TestServer, takeIn } from "./server.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

const NOTE = {
  doneOn: "2026-05-04",
  person: "Runa",
  work: ["cleaned", "repasted", "fans oiled"],
  compound: "",
  minutes: null,
  text: "",
};
const worn = { faults: { dryPaste: 0.5, dust: 0.2 } };
const entry = async (card: Card): Promise<ServiceLine | undefined> =>
  (await server.ask<ServiceLine[]>("GET", "/api/bench")).body.find((one) => one.cardId === card.id);
const service = async (card: Card): Promise<ServiceView> =>
  (await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`)).body;
const note = (card: Card) => server.ask("POST", `/api/services/${card.serviceId}/notes`, NOTE);

describe("what the bench says of a card, station by station", () => {
  it("keeps a card closed that has no baseline or is set aside, and says why", async () => {
    const card = await takeIn(server);
    const early = await server.ask<{ code: string }>("POST", `/api/services/${card.serviceId}/notes`, NOTE);
    expect([early.status, early.body.code]).toEqual([422, "baseline-first"]);
    await dropRun(server, card, worn);
    const powerOn = (setAside: string | null) =>
      server.ask("PUT", `/api/services/${card.serviceId}/power-on`, { ...EMPTY_POWER_ON, setAside });
    await powerOn("memory");
    expect(await entry(card)).toMatchObject({
      station: "takeIn",
      figure: "Set aside: memory",
      next: "Send it on, or take it back",
    });
    expect((await server.ask<{ code: string }>("POST", `/api/services/${card.serviceId}/notes`, NOTE)).body.code).toBe(
      "set-aside",
    );
    await powerOn(null);
    expect((await note(card)).status).toBe(201);
  });

  it("leads from taking in to handing over, one figure and one next step at a time", async () => {
    const card = await takeIn(server);
    expect(await entry(card)).toMatchObject({
      station: "baseline",
      figure: "",
      next: "Run the load and drop the log",
      ladder: [],
      verdict: null,
    });
    await dropRun(server, card, worn);
    expect(await entry(card)).toMatchObject({
      station: "decide",
      figure: expect.stringMatching(/^\d+\.\d K over room$/),
      next: "Decide: open it or leave it",
    });
    const { body: advised } = await server.ask<Advised>("GET", `/api/services/${card.serviceId}/advice`);
    const recommended = advised.advice?.recommended;
    expect(recommended).toBe("repaste");
    // Against usual cards alone, dried compound and a cooler held off look alike.
    expect(["dry-paste", "cooler-held-off"]).toContain(advised.findings[0]?.cause);
    const decide = (choice: string, reason: string) =>
      server.ask("PUT", `/api/services/${card.serviceId}/decision`, { choice, recommended, reason });
    expect((await decide("leave", "")).status).toBe(422);
    expect((await decide("clean", "owner wants it cheap")).status).toBe(200);
    expect(await entry(card)).toMatchObject({ station: "clean", figure: "Clean only", next: "Clean it, part by part" });
    await note(card);
    expect(await entry(card)).toMatchObject({
      station: "prove",
      figure: "cleaned, repasted",
      next: "Run the same load again",
    });
    await dropRun(server, card, { seed: 2 }, { side: "after" });
    const proved = await entry(card);
    expect(proved).toMatchObject({
      station: "record",
      verdict: "better",
      figure: expect.stringMatching(/^−\d+\.\d ± \d\.\d K: cooler$/),
      next: "Print the record and hand it over",
    });
    expect(proved?.ladder.map((one) => one.role)).toEqual(["edge", "hotspot", "memory", "vrm"]);
    expect(proved?.ladder.every((one) => (one.afterK ?? 0) < (one.beforeK ?? 0) + 3)).toBe(true);
    await server.ask("PUT", `/api/services/${card.serviceId}/closed`, { closed: true });
    expect(await entry(card)).toMatchObject({ closed: true, next: "Handed over" });
  });

  it("puts first what hinders: room air that is missing, a run that had not settled, a card that came out hotter", async () => {
    const airless = await takeIn(server);
    await dropRun(server, airless, { sensors: { room: null } });
    expect(await entry(airless)).toMatchObject({ figure: "room air missing", next: "Add the room air to its run" });
    const early = await takeIn(server);
    await dropRun(server, early, {
      steps: [
        { durationS: 30, load: 0 },
        { durationS: 200, load: 1 },
      ],
    });
    expect(await entry(early)).toMatchObject({
      figure: expect.stringContaining("not settled"),
      next: expect.stringMatching(/^Run \d+ more minutes to settle$/),
    });
    const harmed = await takeIn(server);
    await dropRun(server, harmed);
    await note(harmed);
    await dropRun(server, harmed, { seed: 2, faults: { heldOffMm: 0.15 } }, { side: "after" });
    expect(await entry(harmed)).toMatchObject({ verdict: "worse", next: "Hotter than before: mount it again" });
  });

  it("names what a verdict on edge and hotspot leaves out: memory that runs cooler", async () => {
    const card = await takeIn(server);
    await dropRun(server, card, { faults: { memoryPads: "missing" } });
    await dropRun(server, card, { seed: 2 }, { side: "after" });
    expect((await entry(card))?.figure).toMatch(/^Memory \d.* cooler\. Die: no real change$/);
  });

  it("speaks for every sensor: a cooler die with memory that lost its contact is not to be handed over without a word", async () => {
    const card = await takeIn(server);
    await dropRun(server, card, { faults: { dryPaste: 0.6 } });
    for (const station of ["decide", "pads"])
      await server.ask("PUT", `/api/services/${card.serviceId}/skip`, { station, reason: "as agreed" });
    await note(card);
    await dropRun(server, card, { seed: 2, faults: { memoryPads: "missing" } }, { side: "after" });
    const line = await entry(card);
    expect(line).toMatchObject({
      verdict: "worse",
      figure: expect.stringMatching(/^Die .* cooler\. Memory .* hotter/),
      next: "Memory hotter than before: mount it again",
    });
    const handOver = (reason?: string) =>
      server.ask<ProblemDetail & ServiceView>("PUT", `/api/services/${card.serviceId}/closed`, {
        closed: true,
        reason,
      });
    const refused = await handOver();
    expect([refused.status, refused.body.code, refused.body.what]).toEqual([
      422,
      "needs-reason",
      expect.stringContaining("Memory"),
    ]);
    expect((await handOver("  ")).status).toBe(422);
    const given = await handOver("The owner takes it for office work");
    expect(given.body).toMatchObject({
      closedAt: expect.any(String),
      closedReason: "The owner takes it for office work",
    });
    expect(await entry(card)).toMatchObject({ closed: true });
  });

  it("holds limits against the warmest room, and follows both when they are changed", async () => {
    const card = await takeIn(server);
    await dropRun(server, card);
    for (const station of ["decide", "pads", "clean", "compound", "fans"])
      await server.ask("PUT", `/api/services/${card.serviceId}/skip`, { station, reason: "as agreed" });
    await dropRun(server, card, { seed: 2 }, { side: "after" });
    expect(await entry(card)).toMatchObject({ verdict: "no-real-change" });
    const { body: boards } = await server.ask<Board[]>("GET", "/api/boards");
    const board = boards.find((one) => one.id === card.boardModelId)!;
    const limits = { ...board.limits, memoryC: 70 };
    const changed = await server.ask<Board>("PUT", `/api/boards/${board.id}`, { ...board, limits });
    expect(await entry(card)).toMatchObject({
      verdict: "no-real-change",
      figure: expect.not.stringContaining("limit"),
    });
    const { body: settings } = await server.ask<Settings>("GET", "/api/settings");
    await server.ask("PUT", "/api/settings", { ...settings, warmestRoomC: 40 });
    expect(await entry(card)).toMatchObject({
      verdict: "worse",
      figure: expect.stringMatching(/^Memory still over its limit of 70 °C in a room of 40 °C/),
      next: "Memory over its limit: look at its contact",
    });
    await server.ask("PUT", "/api/settings", settings);
    await server.ask("PUT", `/api/boards/${board.id}`, { ...changed.body, limits: board.limits });
  });

  it("shows why a station was skipped and goes on to the next", async () => {
    const card = await takeIn(server);
    await server.ask("PUT", `/api/services/${card.serviceId}/skip`, { station: "baseline", reason: "dead on arrival" });
    expect(await entry(card)).toMatchObject({ station: "decide", figure: "dead on arrival" });
  });
});

describe("several runs on each side", () => {
  it("pair fixed with fixed and automatic with automatic, and teach the card's own fan law", async () => {
    const card = await takeIn(server);
    const automatic = { fanMode: "automatic" as const, fanPct: null };
    await dropRun(server, card, worn);
    await dropRun(server, card, { ...worn, seed: 3, bench: { fan: "automatic" } }, automatic);
    await dropRun(server, card, { seed: 4 }, { side: "after" });
    await dropRun(server, card, { seed: 5, bench: { fan: "automatic" } }, { ...automatic, side: "after" });
    const { comparisons, runs } = await service(card);
    expect(comparisons).toHaveLength(2);
    for (const pair of comparisons) {
      const mode = (id: string) => runs.find((run) => run.id === id)?.fanMode;
      expect(mode(pair.beforeId)).toBe(mode(pair.afterId));
      expect(pair.comparison.verdict).toBe("better");
      expect(pair.comparison.cooling.source).toBe("own runs");
    }
    const changes = comparisons.map((pair) => pair.comparison.atEqualConditions?.roles.edge);
    const apart = Math.abs((changes[0]?.changeK ?? 0) - (changes[1]?.changeK ?? 99));
    expect(apart).toBeLessThan(Math.hypot(changes[0]?.u95K ?? 0, changes[1]?.u95K ?? 0));
  });

  it("give an answer also where one fan was fixed and the other automatic, and let it go once there is a better pair", async () => {
    const card = await takeIn(server);
    await dropRun(server, card);
    await dropRun(
      server,
      card,
      { seed: 2, bench: { fan: "automatic" } },
      { fanMode: "automatic", fanPct: null, side: "after" },
    );
    const odd = (await service(card)).comparisons;
    expect(odd.map(({ comparison }) => comparison.comparable)).toEqual([true]);
    expect(odd[0]?.comparison.differences.find(({ what }) => what === "fan")?.handled).toBe("corrected");
    await dropRun(server, card, { seed: 6 }, { ...RUN, side: "after" });
    const { comparisons, runs } = await service(card);
    expect(comparisons).toHaveLength(1);
    expect(runs.find(({ id }) => id === comparisons[0]?.afterId)?.fanMode).toBe("fixed");
  });
});

describe("handing over", () => {
  it("happens once, can be opened again, and keeps its day", async () => {
    const card = await takeIn(server);
    const close = (closed: boolean) =>
      server.ask<ServiceView>("PUT", `/api/services/${card.serviceId}/closed`, { closed });
    expect((await close(true)).body.closedAt).toMatch(/^\d{4}-\d\d-\d\dT/);
    expect((await close(true)).status).toBe(409);
    expect((await close(false)).body.closedAt).toBeNull();
  });
});
