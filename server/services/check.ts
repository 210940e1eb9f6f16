import { gunzipSync } from "node:zlib";
import { asc, gt } from "drizzle-orm";
import { hashOf } from "../db/open.ts";
import { blobs } from "../db/schema.ts";
import type { Context } from "./context.ts";
import { checkSummaries } from "./summaries.ts";

export interface CheckReport {
  /** What SQLite itself says of the file's pages; empty when it is sound. */
  integrity: string[];
  /** Rows that refer to something that is not there. */
  references: Array<{ table: string; refersTo: string; rows: number }>;
  /** Stored logs, samples and photos: how many were read, and which can't be. */
  stored: { read: number; unreadable: Array<{ hash: string; what: string }> };
  /** Lines of the lists that differ from what their service comes to. */
  summaries: { wrong: Array<{ serviceId: string; what: string }>; repaired: boolean };
  /** True when nothing is wrong, or all that was has been mended. */
  sound: boolean;
}

/**
 * Verifies a workshop's database: pages, references, every stored log, every summary.
 * @param repair mends what can be worked out anew: the summaries
 */
export async function checkDatabase(context: Context, repair: boolean): Promise<CheckReport> {
  const { client } = context.store;
  const pages = await client.execute("PRAGMA integrity_check");
  const integrity = pages.rows.map((row) => String(row.integrity_check)).filter((text) => text !== "ok");
  const dangling = await client.execute("PRAGMA foreign_key_check");
  const counts = new Map<string, number>();
  for (const row of dangling.rows) {
    const key = `${String(row.table)} ${String(row.parent)}`;
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  const references = [...counts].map(([key, rows]) => {
    const [table = "", refersTo = ""] = key.split(" ");
    return { table, refersTo, rows };
  });
  const stored = await checkStored(context);
  const wrong = await checkSummaries(context, repair);
  const repaired = repair && wrong.length > 0;
  const sound =
    integrity.length + references.length + stored.unreadable.length === 0 && (wrong.length === 0 || repaired);
  return { integrity, references, stored, summaries: { wrong, repaired }, sound };
}

/** Reads every stored log, its samples and every photo, one at a time. */
async function checkStored({ store: { db } }: Context): Promise<CheckReport["stored"]> {
  const unreadable: CheckReport["stored"]["unreadable"] = [];
  let read = 0;
  for (let after = ""; ; ) {
    const [blob] = await db.select().from(blobs).where(gt(blobs.hash, after)).orderBy(asc(blobs.hash)).limit(1);
    if (!blob) return { read, unreadable };
    after = blob.hash;
    read++;
    const what = whatIsWrong(blob);
    if (what) unreadable.push({ hash: blob.hash, what });
  }
}

function whatIsWrong({ kind, bytes, hash }: typeof blobs.$inferSelect): string | undefined {
  try {
    // A log is named by what it was before it was compressed, anything else by what is stored.
    const named = kind === "log" ? gunzipSync(bytes) : bytes;
    if (kind === "samples") gunzipSync(bytes);
    return hashOf(named) === hash ? undefined : `this ${kind} is not what it was`;
  } catch {
    return `this ${kind} can’t be unpacked`;
  }
}
