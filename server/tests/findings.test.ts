import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Card, FindingsAsked, FindingsView, ImportView, PaperInput, ServiceView } from "#contract";
import { CARD, dropRun, openTestServer, type TestServer } from "./server.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

const ASKED: FindingsAsked = { by: null, adjust: [], only: {}, measure: "die", paper: true };
const ask = async (more: Partial<FindingsAsked> = {}): Promise<FindingsView> =>
  (await server.ask<FindingsView>("POST", "/api/findings", { ...ASKED, ...more })).body;
const paper = (more: Partial<PaperInput> = {}): PaperInput => ({
  model: "Ostrel Fjell 71",
  serial: "",
  doneOn: null,
  work: "repasted",
  compound: "grey paste",
  pads: "",
  beforeC: 79,
  afterC: 68,
  roomBeforeC: 22,
  roomAfterC: null,
  roomIsRead: false,
  fan: "same",
  ageYears: null,
  use: "unknown",
  note: "",
  ...more,
});
const MAPPING = { fields: { model: "Card", beforeC: "Before" }, fahrenheit: false, rises: false, monthFirst: false };
const take = (rows: PaperInput[], name = "old.csv", headers = ["Card", "Before"]) =>
  server.ask<ImportView[] & { code?: string; errors?: object }>("POST", "/api/paper-imports", {
    name,
    headers,
    mapping: MAPPING,
    rows,
  });

describe("findings", () => {
  it("say in words that there is nothing, or one result only", async () => {
    const none = await ask();
    expect([none.overall, none.problem?.code, none.services, none.paper]).toEqual([null, "few-rows", 0, 0]);
  });

  it("take a proved service for what its comparison says, and results on paper with their wide intervals", async () => {
    const { body: card } = await server.ask<Card>("POST", "/api/cards", CARD);
    await dropRun(server, card, { faults: { dryPaste: 0.6 } });
    await dropRun(server, card, { seed: 8 }, { side: "after" });
    const { body: service } = await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`);
    const equal = service.comparisons[0]?.comparison.atEqualConditions?.roles.edge;
    const one = await ask();
    expect(one).toMatchObject({ overall: null, problem: { what: "There is one result only." }, services: 1 });
    expect(one.lines[0]).toMatchObject({ cardId: card.id, changeK: equal?.changeK, u95K: equal?.u95K });

    const { body: imports } = await take([paper(), paper({ model: "Brevane Loch 9", compound: "sheet", afterC: 70 })]);
    expect(imports).toMatchObject([{ name: "old.csv", rows: 2, removed: false }]);
    const three = await ask();
    expect(three).toMatchObject({ services: 1, paper: 2, overall: { k: 3, clusters: 3 } });
    expect(three.lines.find(({ cardId }) => cardId === null)?.u95K).toBeGreaterThan(3);
    expect(await ask({ paper: false })).toMatchObject({ services: 1, paper: 0 });
    // The same spreadsheet is known again, its columns in another order.
    const { body } = await server.ask<{ mapping: unknown }>("POST", "/api/paper-imports/mapping", {
      headers: ["before", "Card "],
    });
    expect(body.mapping).toEqual(MAPPING);
  });

  it("compare by a column, with the services behind each figure, and open their words", async () => {
    const grey = [-9, -10, -11, -12].map((by) => paper({ afterC: 79 + by }));
    const sheet = [-11, -12, -13, -14].map((by, k) =>
      paper({ compound: "sheet", afterC: 79 + by, ageYears: 5 + k, model: "Brevane Loch 9" }),
    );
    await take([...grey.map((one, k) => ({ ...one, ageYears: 1 + k })), ...sheet], "more.csv");
    const view = await ask({ by: "compound", only: { work: "repasted" } });
    const groups = new Map(view.groups.map((group) => [group.level, group]));
    expect([groups.get("grey paste")?.k, groups.get("sheet")?.k]).toEqual([5, 5]);
    expect(groups.get("sheet")?.lines).toHaveLength(5);
    expect(view.contrasts[0]?.words).toMatch(/^Grey paste against sheet: 1\.2 ± \d\.\d K; not told apart; /);
    expect(view.lopsided.map(({ words }) => words).join(" ")).toMatch(/share no age \(years\)/);
    const adjusted = await ask({ by: "compound", adjust: ["age"], only: { work: "repasted" } });
    expect(adjusted.found?.coefficients.map(({ name }) => name)).toContain("age");
    expect(adjusted.notices.join(" ")).toMatch(/nobody noted compound or age/);
    // All the same: said, and the mean is still there.
    const same = await ask({ by: "compound", only: { compound: "sheet" } });
    expect(same).toMatchObject({ found: null, problem: { code: "constant-column" }, overall: { k: 5 } });
    expect(same.notices.join(" ")).toMatch(/All are of one board model \(Brevane Loch 9\)/);
  });

  it("leave one out with a reason, and take it back", async () => {
    const before = await ask();
    const id = before.lines.at(-1)?.id ?? "";
    expect((await server.ask("PUT", `/api/results/${id}/left-out`, { reason: "" })).status).toBe(422);
    await server.ask("PUT", `/api/results/${id}/left-out`, { reason: "its fan was stuck" });
    const without = await ask();
    expect(without.overall?.k).toBe((before.overall?.k ?? 0) - 1);
    expect(without.leftOut).toMatchObject([{ id, reason: "its fan was stuck" }]);
    await server.ask("PUT", `/api/results/${id}/counted`);
    expect((await ask()).overall).toEqual(before.overall);
    expect((await server.ask("PUT", "/api/results/nothing/counted")).status).toBe(404);
  });

  it("follow every change, in a shop without any board model too", async () => {
    const other = await openTestServer();
    const asked = async (): Promise<number> =>
      (await other.ask<FindingsView>("POST", "/api/findings", ASKED)).body.overall?.k ?? 0;
    const rows = [-9, -10, -11].map((by) => paper({ afterC: 79 + by }));
    await other.ask("POST", "/api/paper-imports", {
      name: "a.csv",
      headers: ["Card", "Before"],
      mapping: MAPPING,
      rows,
    });
    const seen = [await asked()];
    const { body } = await other.ask<FindingsView>("POST", "/api/findings", ASKED);
    await other.ask("PUT", `/api/results/${body.lines[0]?.id}/left-out`, { reason: "its fan was stuck" });
    seen.push(await asked());
    const { body: taken } = await other.ask<ImportView[]>("GET", "/api/paper-imports");
    await other.ask("PUT", `/api/paper-imports/${taken[0]?.id}/removed`, { removed: true });
    seen.push(await asked());
    expect(seen).toEqual([3, 2, 0]);
    await other.close();
  });

  it("take a spreadsheet in whole or not at all, and back whole", async () => {
    const before = (await ask()).paper;
    const wrong = await take([paper(), paper({ beforeC: 20, roomBeforeC: 25 })], "wrong.csv");
    expect([wrong.status, wrong.body.code]).toEqual([422, "bad-input"]);
    expect((await ask()).paper).toBe(before);
    const many = await take(
      Array.from({ length: 2000 }, (_, k) => paper({ serial: `S${k}` })),
      "many.csv",
    );
    expect(many.status).toBe(201);
    expect((await ask()).paper).toBe(before + 2000);
    const { body: undone } = await server.ask<ImportView[]>("PUT", `/api/paper-imports/${many.body[0]?.id}/removed`, {
      removed: true,
    });
    expect(undone[0]).toMatchObject({ name: "many.csv", removed: true });
    expect((await ask()).paper).toBe(before);
  });

  it("travel with an export", async () => {
    const { body: file } = await server.ask<object>("GET", "/api/export.json");
    const other = await openTestServer();
    expect((await other.ask("POST", "/api/import", file)).status).toBe(200);
    const { body } = await other.ask<FindingsView>("POST", "/api/findings", ASKED);
    expect(body.overall).toEqual((await ask()).overall);
    await other.close();
  });
});
