import { gunzipSync } from "node:zlib";
import { asc, gt } from "drizzle-orm";
import { connect, writeCopy } from "../db/copying.ts";
import { type BrokenText, inspect, mendTexts } from "../db/inspect.ts";
import { hashOf } from "../db/open.ts";
import { blobs } from "../db/schema.ts";
import type { Context } from "./context.ts";
import { checkSummaries } from "./summaries.ts";

export interface CheckReport {
  /** What SQLite itself says of the file's pages; empty when it is sound. */
  integrity: string[];
  /** Cells whose bytes are no text; nothing more is read of a database that has some, unless they are mended. */
  texts: { broken: BrokenText[]; repaired: boolean };
  /** Rows that refer to something that is not there. */
  references: Array<{ table: string; refersTo: string; rows: number }>;
  /** Stored logs, samples and photos: how many were read, and which can't be. */
  stored: { read: number; unreadable: Array<{ hash: string; what: string }> };
  /** Lines of the lists that differ from what their service comes to. */
  summaries: { wrong: Array<{ serviceId: string; what: string }>; repaired: boolean };
  /** True when nothing is wrong, or all that was has been mended. */
  sound: boolean;
}

const NOTHING_READ = { references: [], stored: { read: 0, unreadable: [] }, summaries: { wrong: [], repaired: false } };

/**
 * Verifies a workshop's database: pages, texts, references, every stored log, every summary.
 * @param open opens it, once it can be read
 * @param repair mends, after a backup, what can be: texts that are none, and summaries
 */
export async function checkDatabase<C extends Context>(
  file: string,
  repair: boolean,
  open: () => Promise<C>,
): Promise<CheckReport> {
  const client = connect(file);
  try {
    const { pages, texts } = await inspect(client, "integrity_check");
    const repaired = repair && texts.length > 0;
    if (repaired) {
      await writeCopy(file, backupName(file));
      await mendTexts(client, texts);
    }
    const broken = { integrity: pages, texts: { broken: texts, repaired } };
    if (pages.length > 0 || (texts.length > 0 && !repaired)) return { ...broken, ...NOTHING_READ, sound: false };
    const context = await open();
    try {
      const rest = await checkContent(context, repair);
      return { ...broken, ...rest };
    } finally {
      await context.pool.close();
      await context.store.close();
    }
  } finally {
    client.close();
  }
}

const backupName = (file: string): string =>
  `${file}.before-repair-${new Date().toISOString().replace(/[:.]/g, "-")}.bak`;

async function checkContent(
  context: Context,
  repair: boolean,
): Promise<Pick<CheckReport, "references" | "stored" | "summaries" | "sound">> {
  const { client } = context.store;
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
  const sound = references.length + stored.unreadable.length === 0 && (wrong.length === 0 || repaired);
  return { references, stored, summaries: { wrong, repaired }, sound };
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

/** More than any log or its samples come to: what unpacks to more was not made here. */
const MOST_UNPACKED = 512 * 1024 * 1024;

/** What is wrong with stored bytes; undefined where they are what they were. */
export function whatIsWrong({ kind, bytes, hash }: typeof blobs.$inferSelect): string | undefined {
  const unpacked = (): Buffer => gunzipSync(bytes, { maxOutputLength: MOST_UNPACKED });
  try {
    // A log is named by what it was before it was compressed, anything else by what is stored.
    const named = kind === "log" ? unpacked() : bytes;
    if (kind === "samples") unpacked();
    return hashOf(named) === hash ? undefined : `this ${kind} is not what it was`;
  } catch {
    return `this ${kind} can’t be unpacked`;
  }
}
