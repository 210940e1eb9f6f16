import { gzipSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { ServiceView } from "#contract";
import { type Board, type ExportFile, type Run, type ServiceLine, type Settings } from "#contract";
import { type ProblemDetail, readRun } from "#core";
import { fillDemo } from "#demo";
import { packSamples } from "../ingest/ingest.ts";
import { IngestPool } from "../ingest/pool.ts";
import { CARD, dropRun, openTestServer, RUN, runForm, type TestServer, takeIn, testLog } from "./server.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

const NOTE = { doneOn: "2026-05-04", person: "Runa", work: ["cleaned"], compound: "", minutes: null, text: "" };

describe("board models", () => {
  it("are made by taking in a card, shared by the next one, and keep changed limits", async () => {
    const first = await takeIn(server);
    const second = await takeIn(server);
    expect(second.boardModelId).toBe(first.boardModelId);
    const [board] = (await server.ask<Board[]>("GET", "/api/boards")).body;
    expect(board).toMatchObject({ name: "OF-70", cards: 2, limits: { edgeC: 85 } });
    const change = {
      name: "OF-70",
      notes: "1.5 mm at the memory",
      limits: { ...board?.limits, edgeC: 80 },
      version: board?.version,
    };
    expect((await server.ask<Board[]>("PUT", `/api/boards/${board?.id}`, change)).body[0]).toMatchObject({
      limits: { edgeC: 80 },
      notes: "1.5 mm at the memory",
    });
    const late = await server.ask<ProblemDetail>("PUT", `/api/boards/${board?.id}`, { ...change, notes: "1 mm" });
    expect(late.body.code).toBe("changed-elsewhere");
    const wrong = await server.ask<ProblemDetail & { errors: Record<string, string> }>(
      "PUT",
      `/api/boards/${board?.id}`,
      { ...change, limits: { ...change.limits, edgeC: 900 } },
    );
    expect(wrong.body.errors["limits.edgeC"]).toMatch(/between 40 and 130/);
  });

  it("can't take each other's name", async () => {
    await server.ask("POST", "/api/cards", { ...CARD, newBoardModel: "Another" });
    const boards = (await server.ask<Board[]>("GET", "/api/boards")).body;
    const other = boards.find((board) => board.name === "Another");
    const refused = await server.ask<ProblemDetail>("PUT", `/api/boards/${other?.id}`, {
      name: "OF-70",
      notes: "",
      limits: other?.limits,
      version: other?.version,
    });
    expect(refused.status).toBe(409);
    expect(refused.body.code).toBe("already-there");
    expect(refused.body.what).not.toMatch(/SQL|constraint/i);
  });
});

describe("settings", () => {
  it("are kept, checked, and change what a comparison can claim", async () => {
    const card = await takeIn(server);
    await dropRun(server, card, { faults: { dryPaste: 0.25 } });
    await dropRun(server, card, { seed: 2 }, { side: "after" });
    const verdict = async () =>
      (await server.ask<ServiceView>("GET", `/api/services/${card.serviceId}`)).body.comparisons[0]?.comparison.verdict;
    const usual = (await server.ask<Settings>("GET", "/api/settings")).body;
    expect(await verdict()).toBe("better");
    await server.ask("PUT", "/api/settings", { ...usual, scatterMountK: 8 });
    expect(await verdict()).toBe("no-real-change");
    expect((await server.ask("PUT", "/api/settings", { ...usual, scatterMountK: -1 })).status).toBe(422);
    await server.ask("PUT", "/api/settings", usual);
  });

  it("never give the passphrase away", async () => {
    await server.ask("PUT", "/api/passphrase", { passphrase: "a long enough one" });
    expect((await server.ask<{ set: boolean }>("GET", "/api/passphrase")).body).toEqual({ set: true });
    const file = JSON.stringify((await server.ask<ExportFile>("GET", "/api/export.json")).body);
    expect(file).not.toContain('passphrase","value');
    expect((await server.ask("PUT", "/api/passphrase", { passphrase: "short" })).status).toBe(422);
  });
});

describe("notes and runs under two hands", () => {
  it("refuse a change made from an older version and keep the newer", async () => {
    const card = await takeIn(server);
    const run = await dropRun(server, card);
    const [note] = (await server.ask<ServiceView>("POST", `/api/services/${card.serviceId}/notes`, NOTE)).body.notes;
    const change = { ...NOTE, text: "first", version: 1 };
    expect((await server.ask<ServiceView>("PUT", `/api/notes/${note?.id}`, change)).body.notes[0]).toMatchObject({
      text: "first",
      version: 2,
    });
    expect(
      (await server.ask<ProblemDetail>("PUT", `/api/notes/${note?.id}`, { ...change, text: "second" })).status,
    ).toBe(409);
    const same = { ...run, name: "renamed" };
    expect((await server.ask<Run>("PUT", `/api/runs/${run.id}`, same)).body).toMatchObject({
      name: "renamed",
      version: 2,
    });
    const late = await server.ask<ProblemDetail>("PUT", `/api/runs/${run.id}`, { ...same, name: "other" });
    expect(late.body.code).toBe("changed-elsewhere");
  });

  it.each([
    ["no day", { doneOn: "yesterday" }, "doneOn"],
    ["an endless name", { person: "p".repeat(81) }, "person"],
    ["nothing done", { work: [] }, "work"],
    ["time running backwards", { minutes: -5 }, "minutes"],
  ])("a note with %s names its field", async (_, wrong, field) => {
    const card = await takeIn(server);
    const refused = await server.ask<ProblemDetail & { errors: Record<string, string> }>(
      "POST",
      `/api/services/${card.serviceId}/notes`,
      { ...NOTE, ...wrong },
    );
    expect(refused.status).toBe(422);
    expect(refused.body.errors[field]).toBeDefined();
  });
});

describe("uploads", () => {
  it("refuse conditions that are no JSON, a form without a log, and a service that is none", async () => {
    const card = await takeIn(server);
    const form = new FormData();
    form.append("run", "{not json");
    form.append("log", new Blob([testLog()]), "a.csv");
    expect((await server.ask("POST", `/api/services/${card.serviceId}/runs`, form)).status).toBe(422);
    expect((await server.ask("POST", `/api/services/${card.serviceId}/runs`, new FormData())).status).toBe(422);
    expect((await server.ask<ProblemDetail>("POST", "/api/services/nobody/runs", runForm(testLog()))).body.code).toBe(
      "not-found",
    );
  });

  it("keep a file name with odd characters as it is", async () => {
    const card = await takeIn(server);
    const run = (
      await server.ask<Run>(
        "POST",
        `/api/services/${card.serviceId}/runs`,
        runForm(testLog(), RUN, "Lüfter „fest“ 62%.csv"),
      )
    ).body;
    expect(run.fileName).toBe("Lüfter „fest“ 62%.csv");
  });

  it("are read beside each other, and one bad log does not stop the next", async () => {
    const pool = new IngestPool();
    const request = (text: string) =>
      pool.run({ source: { gzip: new Uint8Array() }, mapping: [], intervalS: undefined, options: {} }).then(
        () => text,
        (error: Error) => `${text}: ${error.name}`,
      );
    const card = await takeIn(server);
    const answers = await Promise.all([
      server.ask("POST", `/api/services/${card.serviceId}/runs`, runForm("nothing")),
      server.ask("POST", `/api/services/${card.serviceId}/runs`, runForm(testLog({ seed: 9 }))),
      server.ask("POST", `/api/services/${card.serviceId}/runs`, runForm(testLog({ seed: 10 }))),
    ]);
    expect(answers.map((answer) => answer.status)).toEqual([422, 201, 201]);
    expect(await request("empty")).toMatch(/^empty: /);
    await pool.close();
  });

  it("are stopped after their time, and a long one does not hold up the next", async () => {
    const log = (rows: number): { gzip: Uint8Array } => ({
      gzip: gzipSync(
        `Time [s],GPU temp [°C]\n${Array.from({ length: rows }, (_, k) => `${k},${40 + (k % 7)}`).join("\n")}\n`,
      ),
    });
    const rest = { mapping: [], intervalS: undefined, options: {} };
    const hasty = new IngestPool({ longestMs: 1 });
    await expect(hasty.run({ source: log(100), ...rest })).rejects.toMatchObject({ code: "too-slow" });
    await hasty.close();
    const pool = new IngestPool();
    const done: string[] = [];
    await Promise.all([
      pool.run({ source: log(600_000), ...rest }).then(() => done.push("long")),
      pool.run({ source: log(100), ...rest }).then(() => done.push("short")),
    ]);
    expect(done).toEqual(["short", "long"]);
    await pool.close();
  });

  it("pack samples so that time keeps its digits and columns theirs", () => {
    const table = readRun([
      new TextEncoder().encode("Time,GPU temp [°C],Fan [rpm]\n1760000000.25,40.5,-\n1760000001.5,41.25,900\n"),
    ]);
    const bytes = packSamples(table);
    const length = new DataView(bytes.buffer).getUint32(0, true);
    const from = Math.ceil((4 + length) / 8) * 8;
    expect([...new Float64Array(bytes.buffer, from, 2)]).toEqual([0, 1.25]);
    expect([...new Float32Array(bytes.buffer, from + 16, 2)]).toEqual([40.5, 41.25]);
    expect([...new Float32Array(bytes.buffer, from + 24, 2)]).toEqual([Number.NaN, 900]);
  });
});

describe("the demo", () => {
  // What it fills an empty one with is looked at in the browser (`e2e/demo.spec.ts`).
  it("leaves a workshop that has cards alone", async () => {
    const before = (await server.ask<ServiceLine[]>("GET", "/api/bench")).body;
    expect(before.length).toBeGreaterThan(0);
    await fillDemo(server.running.context);
    expect((await server.ask<ServiceLine[]>("GET", "/api/bench")).body).toEqual(before);
  });
});
