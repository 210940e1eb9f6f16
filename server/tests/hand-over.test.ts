import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type {
  Card,
  DueCard,
  HandOverInput,
  HistoryLine,
  ModelView,
  NextServiceInput,
  NextView,
  RecordFile,
} from "#contract";
import { CARD, dropRun, openTestServer, type TestServer } from "./server.ts";

let server: TestServer;
let card: Card;
const folder = mkdtempSync(join(tmpdir(), "algidus-record-"));
beforeAll(async () => {
  server = await openTestServer();
  ({ body: card } = await server.ask<Card>("POST", "/api/cards", { ...CARD, newBoardModel: "HO-1", useKind: "games" }));
  await dropRun(server, card, { faults: { dryPaste: 0.6 } });
  await dropRun(server, card, { seed: 8 }, { side: "after" });
});
afterAll(async () => {
  await server.close();
  rmSync(folder, { recursive: true });
});

const service = () => `/api/services/${card.serviceId}`;
const verify = (content: string) => {
  const path = join(folder, "record.json");
  writeFileSync(path, content);
  const { status, stdout, stderr } = spawnSync(process.execPath, ["bin/algidus", "verify", path], { encoding: "utf8" });
  return { status, stdout, stderr };
};

describe("hand over", () => {
  it("keeps what the record shows and what leaves with the card, by version", async () => {
    type View = HandOverInput & { version: number };
    const { body: none } = await server.ask<View>("GET", `${service()}/hand-over`);
    expect(none).toEqual({ photos: null, watch: "", leaves: [], version: 0 });
    const wanted = { ...none, watch: "Listen for the left fan", leaves: [{ what: "Original pads", packed: true }] };
    const { body: kept } = await server.ask<View>("PUT", `${service()}/hand-over`, wanted);
    expect(kept).toEqual({ ...wanted, version: 1 });
    const stale = await server.ask<{ code: string }>("PUT", `${service()}/hand-over`, { ...wanted, watch: "other" });
    expect([stale.status, stale.body.code]).toEqual([409, "changed-elsewhere"]);
    expect((await server.ask("PUT", `${service()}/hand-over`, { ...kept, leaves: [{ what: "" }] })).status).toBe(422);
  });

  it("gives a record whose checksum tells what was changed by hand", async () => {
    const { body: record } = await server.ask<RecordFile>("GET", `${service()}/record.json`);
    expect(record).toMatchObject({
      format: "algidus-record",
      card: { maker: CARD.maker },
      watch: "Listen for the left fan",
    });
    expect(record.results[0]?.atEqualConditions?.edge?.changeK).toBeLessThan(0);
    const good = verify(JSON.stringify(record));
    expect([good.status, good.stderr]).toEqual([0, ""]);
    expect(good.stdout).toMatch(/^Unchanged: /);
    // Laid out otherwise it is the same record.
    expect(verify(JSON.stringify(record, null, 2)).status).toBe(0);
    for (const [content, words] of [
      [JSON.stringify({ ...record, watch: "nothing" }), /was changed after it was made/],
      [JSON.stringify({ ...record, version: 9 }), /of version 9/],
      ["{}", /no record of a service/],
      ["not json", /not JSON/],
    ] as const) {
      const bad = verify(content);
      expect([bad.status, bad.stdout]).toEqual([2, ""]);
      expect(bad.stderr).toMatch(words);
    }
  });

  it("says when the card is due, anew as its use is told, and finds it once its month has come", async () => {
    const { body: usual } = await server.ask<NextView>("GET", `${service()}/next`);
    expect(usual).toMatchObject({ version: 0, compound: "paste", useSource: "usual" });
    expect(usual.lowOn < usual.dueOn).toBe(true);
    expect(usual.heatFactor).toBeGreaterThan(1);
    const told: NextServiceInput = {
      use: { hoursPerWeek: 150, sessionsPerDay: 40, cyclesPerHour: null },
      compound: "paste",
    };
    const { body: hard } = await server.ask<NextView>("PUT", `${service()}/next`, { ...told, version: 0 });
    expect(hard.dueOn < usual.dueOn).toBe(true);
    expect(hard).toMatchObject({ version: 1, useSource: "typed" });
    expect((await server.ask("PUT", `${service()}/next`, { ...told, version: 0, compound: "putty" })).status).toBe(409);
    const { body: open } = await server.ask<DueCard[]>("GET", "/api/due");
    expect(open).toEqual([]);
    const log = await server.ask<NextView>("PUT", `${service()}/next`, {
      use: { hoursPerWeek: 168, sessionsPerDay: 1, cyclesPerHour: 400 },
      compound: "paste",
      version: 1,
    });
    expect(log.body.useSource).toBe("log");
    await server.ask("PUT", `${service()}/closed`, { closed: true });
    const { body: due } = await server.ask<DueCard[]>("GET", "/api/due");
    expect(due).toMatchObject([{ cardId: card.id, serial: CARD.serial, dueOn: log.body.dueOn }]);
    const calendar = await (await fetch(`${server.running.address}api/day.ics`)).text();
    expect(calendar).toContain(`Due for service: ${CARD.maker} ${CARD.model}`);
  });

  it("takes a card back: another service, its history in one line, and no longer due", async () => {
    const { body: back, status } = await server.ask<Card>("POST", `/api/cards/${card.id}/services`, {});
    expect([status, back.serviceId === card.serviceId]).toEqual([201, false]);
    const twice = await server.ask<{ code: string }>("POST", `/api/cards/${card.id}/services`, {});
    expect([twice.status, twice.body.code]).toEqual([422, "still-open"]);
    expect((await server.ask<DueCard[]>("GET", "/api/due")).body).toEqual([]);
    await dropRun(server, back, { seed: 9, faults: { dryPaste: 0.3 } });
    const { body: history } = await server.ask<HistoryLine[]>("GET", `/api/cards/${card.id}/history`);
    expect(history.map(({ serviceId }) => serviceId)).toEqual([card.serviceId, back.serviceId]);
    expect(history[0]?.ends.after?.risesK.edge).toBeLessThan(history[0]?.ends.before?.risesK.edge ?? 0);
    expect(history[1]?.ends).toMatchObject({ after: null, before: { gap: { meanK: expect.any(Number) } } });
    // What it shows of its layer counts for the next of its kind.
    const { body: next } = await server.ask<NextView>("GET", `/api/services/${back.serviceId}/next`);
    expect(next.next.wear.cards).toBe(1);
    const { body: known } = await server.ask<ModelView>("GET", `/api/boards/${card.boardModelId}/known`);
    expect(known).toMatchObject({
      services: 2,
      rises: expect.arrayContaining([expect.objectContaining({ role: "edge" })]),
    });
    expect(known.last).toHaveLength(2);
  });

  it("remembers a card mounted twice as it went, not as it was in between", async () => {
    const { body: twice } = await server.ask<Card>("POST", "/api/cards", { ...CARD, serial: "HO-TWICE" });
    await dropRun(server, twice, { faults: { dryPaste: 0.4 } });
    const bad = await dropRun(server, twice, { seed: 12, faults: { heldOffMm: 0.2 } }, { side: "after" });
    await server.ask("POST", `/api/services/${twice.serviceId}/attempts`, { changed: "thinner pads on the memory" });
    const good = await dropRun(server, twice, { seed: 13 }, { side: "after" });
    const [line] = (await server.ask<HistoryLine[]>("GET", `/api/cards/${twice.id}/history`)).body;
    const gapOf = ({ analysis }: typeof good) => analysis.hotspotGapK?.mean ?? Number.NaN;
    expect(gapOf(bad)).toBeGreaterThan(gapOf(good) + 5);
    expect(line?.ends.after?.gap?.meanK).toBeCloseTo(gapOf(good), 9);
  });
});
