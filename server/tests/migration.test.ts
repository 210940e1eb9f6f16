import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { root } from "../root.ts";
import { firstVersion } from "./first-version.ts";
import { openTestServer } from "./server.ts";

const FOLDER = join(root, "server", "db", "migrations");
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "algidus-migration-"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe("a database of the first version", () => {
  it("is copied, brought up to date, and keeps what is in it", async () => {
    const file = join(folder, "first.db");
    await firstVersion(file);
    const server = await openTestServer({ database: file });
    expect(readdirSync(folder).some((name) => /^first\.db\.before-\d+\.bak$/.test(name))).toBe(true);
    const { body: bench } = await server.ask<Array<{ serial: string; figure: string }>>("GET", "/api/bench");
    expect(bench).toEqual([expect.objectContaining({ serial: "OF70-1", figure: "no picture" })]);
    const { body: service } = await server.ask<object>("GET", "/api/services/s1");
    expect(service).toMatchObject({ powerOn: null, decision: null, runs: [] });
    const decision = { choice: "leave", recommended: "leave", reason: "" };
    expect((await server.ask("PUT", "/api/services/s1/decision", decision)).status).toBe(200);
    expect((await server.ask("GET", "/api/benches")).body).toEqual([]);
    await server.running.close();
  });

  it("has tables that take no value of a wrong type, as every migration's must", () => {
    for (const name of readdirSync(FOLDER).filter((entry) => entry.endsWith(".sql"))) {
      const sql = readFileSync(join(FOLDER, name), "utf8");
      const made = sql.match(/CREATE TABLE/g)?.length ?? 0;
      expect([name, sql.match(/^\) STRICT;/gm)?.length ?? 0]).toEqual([name, made]);
    }
  });
});
