import { connect, writeCopy } from "../db/copying.ts";
import { type BrokenText, inspect, mendTexts } from "../db/inspect.ts";
import { readStored, type Stored } from "../db/stored.ts";
import type { Context } from "./context.ts";
import { mendLots, wrongLots } from "./stores.ts";
import { checkSummaries } from "./summaries.ts";

export interface CheckReport {
  /** What SQLite itself says of the file's pages; empty when it is sound. */
  integrity: string[];
  /** Cells that are no text, or no JSON; nothing more is read of a database that has some, unless they are mended: what is no JSON can't be. */
  texts: { broken: BrokenText[]; repaired: boolean };
  /** Rows that refer to something that is not there. */
  references: Array<{ table: string; refersTo: string; rows: number }>;
  /** Stored logs, samples and photos: how many were read, and which can't be. */
  stored: Stored;
  /** Lines of the lists that differ from what their service comes to. */
  summaries: { wrong: Array<{ serviceId: string; what: string }>; repaired: boolean };
  /** Lots that do not hold what was put in without what was taken. */
  stock: { wrong: Array<{ id: string; label: string; amount: number; shouldBe: number }>; repaired: boolean };
  /** True when nothing is wrong, or all that was has been mended. */
  sound: boolean;
}

const NOTHING_READ = {
  references: [],
  stored: { read: 0, unreadable: [] },
  summaries: { wrong: [], repaired: false },
  stock: { wrong: [], repaired: false },
};

/**
 * Verifies a workshop's database: pages, texts, references, every stored log, every summary, every lot.
 * @param open opens it, once it can be read
 * @param repair mends, after a backup, what can be: texts that are none, summaries, and stock
 */
export async function checkDatabase<C extends Context>(
  file: string,
  repair: boolean,
  open: () => Promise<C>,
): Promise<CheckReport> {
  const client = connect(file);
  try {
    const { pages, texts } = await inspect(client, "integrity_check");
    const hopeless = texts.some(({ is }) => is === "no JSON");
    const repaired = repair && texts.length > 0 && !hopeless;
    if (repaired) {
      await writeCopy(file, backupName(file), "pages");
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
): Promise<Pick<CheckReport, "references" | "stored" | "summaries" | "stock" | "sound">> {
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
  const stored = await readStored(client);
  const { wrong, beyond } = await checkSummaries(context, repair);
  const lots = await wrongLots(context.store.db);
  if (repair && lots.length > 0) await mendLots(context);
  const told = <T>(found: T[]) => ({ wrong: found, repaired: repair && found.length > 0 });
  const hopeless = references.length + stored.unreadable.length + beyond.length;
  const sound = hopeless === 0 && (repair || wrong.length + lots.length === 0);
  const summaries = { wrong: [...wrong, ...beyond], repaired: repair && wrong.length > 0 && beyond.length === 0 };
  return { references, stored, summaries, stock: told(lots), sound };
}
