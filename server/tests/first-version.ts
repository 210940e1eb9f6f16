import { readFileSync } from "node:fs";
import { join } from "node:path";
import { createClient } from "@libsql/client/sqlite3";
import { fileUrl } from "../db/look.ts";
import { root } from "../root.ts";

const FOLDER = join(root, "server", "db", "migrations");

/** Makes a database as the first version left it, with a card in it. @returns the time of its layout */
export async function firstVersion(file: string): Promise<number> {
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
     VALUES ('s1', 'c1', '2026-01-01T00:00:00Z', '{"baseline":"no picture","work":"sold as it is"}', 3)`,
  );
  client.close();
  return entries[0]?.when ?? 0;
}
