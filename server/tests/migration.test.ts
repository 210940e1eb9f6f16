import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createClient } from "@libsql/client/sqlite3";
import { migrate } from "drizzle-orm/libsql/migrator";
import { drizzle } from "drizzle-orm/libsql/sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { BoardMapView, ServiceView } from "#contract";
import { EMPTY_MAP, NEW_SCREW } from "#core/boardmap/index.ts";
import { root } from "../root.ts";
import { firstVersion } from "./first-version.ts";
import { openTestServer } from "./server.ts";

const IN_ITS_PLACE = ["clean", "compound", "fans"];
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
    // Work has become three stations since.
    const { stations } = service as ServiceView;
    expect(stations.filter(({ skipReason }) => skipReason === "sold as it is").map(({ id }) => id)).toEqual(
      IN_ITS_PLACE,
    );
    const decision = { choice: "leave", recommended: "leave", reason: "" };
    expect((await server.ask("PUT", "/api/services/s1/decision", decision)).status).toBe(200);
    expect((await server.ask("GET", "/api/benches")).body).toEqual([]);
    await server.running.close();
  });

  it("a map from before screws had threads keeps what it says, and can be stripped by", async () => {
    const file = join(folder, "maps.db");
    await firstVersion(file);
    // Up to the version before, as its own program would have left it.
    const early = join(folder, "early");
    cpSync(FOLDER, early, { recursive: true });
    const journal = join(early, "meta", "_journal.json");
    const { entries, ...head } = JSON.parse(readFileSync(journal, "utf8")) as { entries: Array<{ idx: number }> };
    writeFileSync(journal, JSON.stringify({ ...head, entries: entries.filter(({ idx }) => idx < 11) }));
    const client = createClient({ url: `file:${file}` });
    await migrate(drizzle(client), { migrationsFolder: early });
    const { format, board } = EMPTY_MAP;
    const screw = {
      id: "S1",
      xMm: 95,
      yMm: 25,
      holeMm: 3.2,
      forceN: 55,
      springNPerMm: 12,
      washerMm: 0,
      shouldered: true,
    };
    const map = {
      format,
      version: 1,
      board,
      die: null,
      screws: [screw, { ...screw, id: "S2" }],
      parts: [],
      cooler: null,
    };
    await client.execute("INSERT INTO board_models VALUES ('b9', 'OF-99', '', '{}', '2025-01-01', '2025-01-01', 1)");
    await client.execute({
      sql: "INSERT INTO board_maps (board_model_id, map, created_at, updated_at, version) VALUES ('b9', ?, '2025-01-01', '2025-01-01', 1)",
      args: [JSON.stringify(map)],
    });
    client.close();
    const server = await openTestServer({ database: file });
    try {
      const { body } = await server.ask<BoardMapView>("GET", "/api/boards/b9/map");
      const { screws, ...other } = body.map;
      expect(other).toEqual({ ...EMPTY_MAP, screws: undefined });
      expect(screws).toEqual(["S1", "S2"].map((id) => ({ ...NEW_SCREW, ...screw, id })));
      expect((await server.ask("PUT", "/api/boards/b9/map", { map: body.map, version: 1 })).status).toBe(200);
    } finally {
      await server.running.close();
    }
  });

  it("has tables that take no value of a wrong type, as every migration's must", () => {
    for (const name of readdirSync(FOLDER).filter((entry) => entry.endsWith(".sql"))) {
      const sql = readFileSync(join(FOLDER, name), "utf8");
      const made = sql.match(/CREATE TABLE/g)?.length ?? 0;
      expect([name, sql.match(/^\) STRICT;/gm)?.length ?? 0]).toEqual([name, made]);
    }
  });
});
