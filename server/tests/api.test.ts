import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type {
  Card,
  ExportFile,
  ImportReport,
  Mapping,
  RemovedThing,
  Run,
  RunDiagnosis,
  ServiceLine,
  ServiceView,
} from "#contract";
import { type ProblemDetail, temperatureOf } from "#core";
import { CARD, dropRun, openTestServer, RUN, runForm, type TestServer, takeIn, testLog } from "./server.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

const NOTE = {
  doneOn: "2026-05-04",
  person: "Runa",
  work: ["repasted"],
  compound: "paste",
  minutes: 30,
  text: "=HYPERLINK(1)",
};

describe("a service from taking in to the record", () => {
  it("keeps what was typed, judges the runs and closes", async () => {
    const card = await takeIn(server);
    expect(card).toMatchObject({ maker: "Ostrel", serial: CARD.serial, boardModelName: "OF-70", version: 1 });
    const before = await dropRun(server, card, { faults: { dryPaste: 0.5 } });
    expect(temperatureOf(before.analysis, "edge")?.riseK).toBeGreaterThan(40);
    await server.ask("POST", `/api/services/${card.serviceId}/notes`, NOTE);
    await dropRun(server, card, { seed: 2 }, { side: "after" });
    const { body: service } = await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`);
    expect(service.comparisons).toHaveLength(1);
    expect(service.comparisons[0]?.comparison.verdict).toBe("better");
    expect(service.stations.map((station) => station.state)).toEqual([
      "done",
      "done",
      "done",
      // Opened and closed, as what was noted and run tells.
      "done",
      "open",
      "open",
      "done",
      "open",
      "done",
      "done",
      "next",
    ]);
    await server.ask("PUT", `/api/services/${card.serviceId}/closed`, { closed: true });
    const { body: bench } = await server.ask<ServiceLine[]>("GET", "/api/bench");
    expect(bench.find((entry) => entry.cardId === card.id)).toMatchObject({ closed: true, verdict: "better" });
  });

  it("computes a run anew from its kept log when room air, roles or window change, and remembers the roles", async () => {
    const card = await takeIn(server);
    const run = await dropRun(server, card, { sensors: { room: null } });
    expect(run.analysis.ambient).toBeNull();
    const { version, ...fields } = run;
    const typed = { ...fields, ambientC: 22, ambientU95K: 0.8, window: { fromS: 600, toS: 900 }, version };
    const changed = (await server.ask<Run>("PUT", `/api/runs/${run.id}`, typed)).body;
    expect(changed.analysis.ambient).toEqual({ valueC: 22, u95K: 0.8, source: "option" });
    expect(changed.analysis.steady).toMatchObject({ fromS: 600, toS: 900, byHand: true });
    const mapping = run.mapping.map((one) => (one.header.startsWith("VRM") ? { ...one, role: "probe" } : one));
    await server.ask("PUT", `/api/runs/${run.id}`, { ...typed, mapping, version: changed.version });
    const remembered = await server.ask<{ mapping: Mapping }>("POST", "/api/header-choice", {
      headers: run.mapping.map((one) => one.header),
    });
    expect(remembered.body.mapping.find((one) => one.header.startsWith("VRM"))?.role).toBe("probe");
  });

  it("gives samples for display and the log as it was dropped", async () => {
    const card = await takeIn(server);
    const log = testLog({ seed: 77 });
    const run = (await server.ask<Run>("POST", `/api/services/${card.serviceId}/runs`, runForm(log))).body;
    const samples = await (await fetch(new URL(`/api/runs/${run.id}/samples`, server.running.address))).arrayBuffer();
    const length = new DataView(samples).getUint32(0, true);
    const head = JSON.parse(new TextDecoder().decode(new Uint8Array(samples, 4, length))) as { rows: number };
    expect(head.rows).toBe(run.analysis.samples);
    const original = await (await fetch(new URL(`/api/runs/${run.id}/original`, server.running.address))).text();
    expect(original).toBe(log);
  });

  it("keeps a run that was typed from paper, computes it anew, and refuses to type over a log", async () => {
    const card = await takeIn(server);
    const path = `/api/services/${card.serviceId}/runs`;
    const nothing = { edgeC: null, hotspotC: null, memoryC: null, vrmC: null, fanRpm: null, fanPct: null };
    const typed = { ...nothing, powerW: null, coreClockMHz: null, minutes: 15, edgeC: 71 };
    const send = (run: object) => {
      const form = new FormData();
      form.append("run", JSON.stringify({ ...RUN, ...run }));
      return server.ask<Run & { errors: object }>("POST", path, form);
    };
    const { status, body: run } = await send({ typed, ambientC: 21 });
    expect([status, run.analysis.roles.edge?.riseK, run.analysis.typed]).toEqual([201, 50, true]);
    const warmer = await server.ask<Run>("PUT", `/api/runs/${run.id}`, { ...run, typed: null, ambientC: 23 });
    expect(warmer.body).toMatchObject({ typed, analysis: { roles: { edge: { riseK: 48 } } } });
    const original = await server.ask<{ typed: object }>("GET", `/api/runs/${run.id}/original`);
    expect(original.body.typed).toEqual(typed);
    const samples = await fetch(new URL(`/api/runs/${run.id}/samples`, server.running.address));
    expect(samples.status).toBe(200);
    const diagnosis = await server.ask<RunDiagnosis>("GET", `/api/runs/${run.id}/diagnosis`);
    expect(diagnosis.body.notJudged).toContain("memory-pads");
    expect((await send({ typed: { ...typed, edgeC: null } })).body.errors).toHaveProperty(["typed.edgeC"]);
    expect((await send({})).status).toBe(422);
    const logged = await dropRun(server, card);
    const over = await server.ask<ProblemDetail>("PUT", `/api/runs/${logged.id}`, { ...logged, typed });
    expect([over.status, over.body.code]).toEqual([422, "has-a-log"]);
  });

  it("removes a card from every list and puts it back whole; what was removed is listed with its way back", async () => {
    const card = await takeIn(server);
    const run = await dropRun(server, card);
    const removed = (path: string, is: boolean) => server.ask("PUT", `/api/${path}/removed`, { removed: is });
    const onBench = async () =>
      (await server.ask<ServiceLine[]>("GET", "/api/bench?limit=500")).body.some((line) => line.cardId === card.id);
    const listed = async () =>
      (await server.ask<RemovedThing[]>("GET", "/api/removed")).body
        .filter((one) => one.cardId === card.id)
        .map(({ kind, id }) => `${kind} ${id}`);
    await removed(`runs/${run.id}`, true);
    await removed(`cards/${card.id}`, true);
    expect([await onBench(), await listed()]).toEqual([false, [`card ${card.id}`, `run ${run.id}`]]);
    expect((await server.ask<string>("GET", "/api/runs.csv")).body).not.toContain(run.id);
    await removed(`cards/${card.id}`, false);
    expect([await onBench(), await listed()]).toEqual([true, [`run ${run.id}`]]);
    await removed(`runs/${run.id}`, false);
    const { body: service } = await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`);
    expect([service.runs.length, await listed()]).toEqual([1, []]);
    expect((await removed("cards/none", true)).status).toBe(404);
  });

  it("lists cards by station, verdict, owner and model, together with words", async () => {
    const add = (model: string, ownerName: string) =>
      server.ask<Card>("POST", "/api/cards", { ...CARD, model, ownerName, holder: "owner" });
    const { body: ran } = await add("Tarn 61", "Øyvin Sund");
    await add("Tarn 62", "Marit Sund");
    await dropRun(server, ran);
    const found = async (query: string) =>
      (await server.ask<ServiceLine[]>("GET", `/api/bench?${query}`)).body.map((line) => line.model).sort();
    expect(await found("owner=sund")).toEqual(["Tarn 61", "Tarn 62"]);
    expect(await found(`owner=${encodeURIComponent("Øyvin")}`)).toEqual(["Tarn 61"]);
    expect(await found("model=tarn&station=decide")).toEqual(["Tarn 61"]);
    expect(await found("model=tarn&station=baseline")).toEqual(["Tarn 62"]);
    expect(await found("owner=sund&find=62")).toEqual(["Tarn 62"]);
    expect(await found("owner=sund&verdict=better")).toEqual([]);
    expect((await server.ask("GET", "/api/bench?station=nowhere")).status).toBe(422);
  });

  it("removes and puts back runs and notes, skips with a reason only", async () => {
    const card = await takeIn(server);
    const skip = (reason: string | null) =>
      server.ask<ServiceView & ProblemDetail>("PUT", `/api/services/${card.serviceId}/skip`, {
        station: "baseline",
        reason,
      });
    expect((await skip("")).status).toBe(422);
    expect((await skip("dead on arrival")).body.stations[1]).toMatchObject({
      state: "skipped",
      skipReason: "dead on arrival",
    });
    expect((await skip(null)).body.stations[1]?.state).toBe("next");
    const run = await dropRun(server, card);
    await server.ask("PUT", `/api/runs/${run.id}/removed`, { removed: true });
    expect((await server.ask("GET", `/api/runs/${run.id}`)).status).toBe(404);
    await server.ask("PUT", `/api/runs/${run.id}/removed`, { removed: false });
    expect((await server.ask("GET", `/api/runs/${run.id}`)).status).toBe(200);
    const { notes } = (await server.ask<ServiceView>("POST", `/api/services/${card.serviceId}/notes`, NOTE)).body;
    await server.ask("PUT", `/api/notes/${notes[0]?.id}/removed`, { removed: true });
    expect((await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`)).body.notes).toEqual([]);
  });
});

describe("photos", () => {
  it("keeps a picture without its place and refuses what is none", async () => {
    const card = await takeIn(server);
    const picture = await sharp({ create: { width: 3000, height: 100, channels: 3, background: "#888" } })
      .withExif({ IFD0: { Copyright: "secret place" }, IFD3: { GPSLatitudeRef: "N" } })
      .jpeg()
      .toBuffer();
    const form = new FormData();
    form.append("photo", new Blob([new Uint8Array(picture)]), "front.jpg");
    const kept = (await server.ask<Card>("POST", `/api/cards/${card.id}/photos`, form)).body.photos[0];
    expect(kept).toMatchObject({ width: 2000 });
    const stored = Buffer.from(
      await (await fetch(new URL(`/api/photos/${kept?.id}`, server.running.address))).arrayBuffer(),
    );
    expect((await sharp(stored).metadata()).exif).toBeUndefined();
    const drawing = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9"/></svg>';
    for (const content of ["not a picture", "", drawing]) {
      const wrong = new FormData();
      wrong.append("photo", new Blob([content]), "x.jpg");
      const refused = await server.ask<ProblemDetail>("POST", `/api/cards/${card.id}/photos`, wrong);
      expect([refused.status, refused.body.code]).toEqual([422, "not-a-picture"]);
    }
    expect((await server.ask<Card>("GET", `/api/cards/${card.id}`)).body.photos).toHaveLength(1);
  });
});

describe("bad input", () => {
  it("names the field that is wrong and changes nothing", async () => {
    const refused = await server.ask<ProblemDetail & { errors: Record<string, string> }>("POST", "/api/cards", {
      ...CARD,
      maker: " ",
      price: -4,
    });
    expect(refused.status).toBe(422);
    expect(refused.headers.get("content-type")).toContain("application/problem+json");
    expect(refused.body.errors).toMatchObject({ maker: "Type the maker.", price: expect.stringContaining("price") });
  });

  it.each([
    ["a log that is none", "Dear reader,\nno figures.\n", {}, 422, "not-a-log"],
    ["a room of 70 degrees", "Time [s],GPU temp [°C]\n0,40\n1,41\n", { ambientC: 70 }, 422, "bad-input"],
    [
      "text where a run belongs",
      "Time [s],GPU temp [°C]\n0,40\n1,41\n",
      { side: "sideways" as "before" },
      422,
      "bad-input",
    ],
  ])("refuses %s", async (_, log, run, status, code) => {
    const card = await takeIn(server);
    const refused = await server.ask<ProblemDetail>(
      "POST",
      `/api/services/${card.serviceId}/runs`,
      runForm(log, { ...RUN, ...run }),
    );
    expect(refused.status).toBe(status);
    expect(refused.body.code).toBe(code);
    expect((await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`)).body.runs).toEqual([]);
  });

  it("refuses the same log twice on one side, and answers unknown things plainly", async () => {
    const card = await takeIn(server);
    await dropRun(server, card);
    const again = await server.ask<ProblemDetail>("POST", `/api/services/${card.serviceId}/runs`, runForm(testLog()));
    expect(again.body.code).toBe("same-log");
    expect((await server.ask<ProblemDetail>("GET", "/api/cards/nobody")).body.code).toBe("not-found");
    expect((await server.ask<ProblemDetail>("GET", "/api/nothing")).status).toBe(404);
    // And notes nothing of them.
    const { client } = server.running.context.store;
    const events = async () => (await client.execute("SELECT count(*) AS n FROM events")).rows[0]?.n;
    const before = await events();
    for (const path of [`cards/${card.id}/photos/nobody`, "runs/nobody", "cards/nobody", "uses/nobody", "notes/nobody"])
      expect((await server.ask("PUT", `/api/${path}/removed`, { removed: true })).status, path).toBe(404);
    expect(await events()).toBe(before);
  });

  it("tells the second of two windows, which can take over", async () => {
    const card = await takeIn(server);
    const first = await server.ask<Card>("PUT", `/api/cards/${card.id}`, { ...CARD, complaint: "first", version: 1 });
    expect(first.status).toBe(200);
    const second = await server.ask<ProblemDetail>("PUT", `/api/cards/${card.id}`, {
      ...CARD,
      complaint: "second",
      version: 1,
    });
    expect(second.status).toBe(409);
    expect(second.body.code).toBe("changed-elsewhere");
    expect((await server.ask<Card>("GET", `/api/cards/${card.id}`)).body.complaint).toBe("first");
    const over = await server.ask<Card>("PUT", `/api/cards/${card.id}`, { ...CARD, complaint: "second", version: 2 });
    expect(over.body).toMatchObject({ complaint: "second", version: 3 });
  });
});

describe("data out and in", () => {
  it("carries everything to another machine as JSON, logs and photos included, and twice changes nothing", async () => {
    const { body: file } = await server.ask<ExportFile>("GET", "/api/export.json");
    const other = await openTestServer();
    try {
      const first = (await other.ask<ImportReport>("POST", "/api/import", file)).body;
      expect(first.added.runs).toBe(file.tables.runs.length);
      const again = (await other.ask<ImportReport>("POST", "/api/import", file)).body;
      expect(again.added.runs).toBe(0);
      const back = (await other.ask<ExportFile>("GET", "/api/export.json")).body;
      for (const name of [
        "cards",
        "services",
        "workNotes",
        "runs",
        "blobs",
        "photos",
        "boardModels",
        "headerChoices",
      ] as const)
        expect(sorted(back.tables[name])).toEqual(sorted(file.tables[name]));
    } finally {
      await other.close();
    }
  });

  it("imports nothing at all from a damaged export", async () => {
    const { body: all } = await server.ask<ExportFile>("GET", "/api/export.json");
    const other = await openTestServer();
    try {
      // One run with what belongs to it: nothing but what is broken stands in the way.
      const words = JSON.stringify(all.tables.runs[0]);
      const blobs = all.tables.blobs.filter((row) => words.includes(String((row as { hash?: unknown }).hash)));
      const file = { ...all, tables: { ...all.tables, runs: all.tables.runs.slice(0, 1), blobs, photos: [] } };
      const broken = structuredClone(file);
      broken.tables.runs[0] = { ...broken.tables.runs[0], serviceId: "nobody" };
      expect((await other.ask<ProblemDetail>("POST", "/api/import", broken)).body.code).toBe("bad-export");
      expect((await other.ask<ServiceLine[]>("GET", "/api/bench")).body).toEqual([]);
      expect((await other.ask<ImportReport>("POST", "/api/import", file)).body.added.runs).toBe(1);
      expect((await other.ask<ProblemDetail>("POST", "/api/import", { format: "other" })).status).toBe(422);
      expect((await other.ask<ProblemDetail>("POST", "/api/import", { ...file, version: 99 })).body.what).toMatch(
        /newer/,
      );
    } finally {
      await other.close();
    }
  });

  it("writes CSV in which no cell can become a formula", async () => {
    for (const [name, words] of [
      ["cards", "maker"],
      ["runs", "edgeRiseK"],
      ["notes", "compound"],
    ]) {
      const { body } = await server.ask<string>("GET", `/api/export/${name}.csv`);
      expect(body).toContain(words);
      expect(body).not.toMatch(/(^|,|\n)"?=/);
    }
  });

  it("writes every line once under one header, however many pages they fill", async () => {
    const other = await openTestServer();
    try {
      const card = await takeIn(other);
      const { store } = other.running.context;
      await store.client.batch(
        Array.from({ length: 120 }, (_, k) => ({
          sql: `INSERT INTO work_notes (id, service_id, done_on, person, work, compound, text, created_at, updated_at, deleted_at, version)
            VALUES (?, ?, '2026-05-04', '', '["cleaned"]', '', ?, '', '', ?, 1)`,
          args: [`n${k}`, card.serviceId, `note ${k}`, k % 3 === 0 ? "2026-05-05" : null],
        })),
        "write",
      );
      const { body } = await other.ask<string>("GET", "/api/export/notes.csv");
      const [header, ...lines] = body.split("\r\n");
      expect(header).toMatch(/^\ufeff?id,.*,text,/);
      expect(lines.map((line) => Number(/note (\d+)/.exec(line)?.[1]))).toEqual(
        Array.from({ length: 120 }, (_, k) => k).filter((k) => k % 3 !== 0),
      );
    } finally {
      await other.close();
    }
  });
});

const sorted = (rows: Array<Record<string, unknown>>): string[] => rows.map((row) => JSON.stringify(row)).sort();
