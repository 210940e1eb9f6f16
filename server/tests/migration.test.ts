import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createClient } from "@libsql/client";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { fileUrl } from "../db/look.ts";
import { root } from "../root.ts";
import { openTestServer } from "./server.ts";

const FOLDER = join(root, "server", "db", "migrations");
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "algidus-migration-"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A database as the first version left it, with a card in it. */
async function firstVersion(file: string): Promise<void> {
  const client = createClient({ url: fileUrl(file) });
  const sql = readFileSync(join(FOLDER, "0000_first.sql"), "utf8");
  for (const statement of sql.split("--> statement-breakpoint")) await client.execute(statement);
  const { entries } = JSON.parse(readFileSync(join(FOLDER, "meta", "_journal.json"), "utf8")) as {
    entries: Array<{ when: number }>;
  };
  await client.execute(
    "CREATE TABLE __drizzle_migrations (id INTEGER PRIMARY KEY AUTOINCREMENT, hash text NOT NULL, created_at numeric)",
  );
  await client.execute({
    sql: "INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('first', ?)",
    args: [entries[0]?.when ?? 0],
  });
  await client.execute(
    `INSERT INTO cards (id, maker, model, serial, holder, owner_name, use_kind, complaint, seal, warranty, look_over, created_at, updated_at, version)
     VALUES ('c1', 'Ostrel', 'Fjell 70', 'OF70-1', 'stock', '', 'unknown', '', 'unknown', 'not asked', '[]', '2026-01-01T00:00:00Z', '2026-01-01T00:00:00Z', 1)`,
  );
  await client.execute(
    `INSERT INTO services (id, card_id, opened_at, skips, version)
     VALUES ('s1', 'c1', '2026-01-01T00:00:00Z', '{"baseline":"no picture"}', 3)`,
  );
  client.close();
}

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
