import { createHash } from "node:crypto";
import { count, desc, eq } from "drizzle-orm";
import type { ImportView, PaperImport, SheetMapping } from "#contract";
import { paperChange } from "#core/findings/index.ts";
import { paperImports, paperResults, sheetMappings } from "../db/schema.ts";
import { type Context, notFound, record } from "./context.ts";

const ROWS_AT_ONCE = 500;
const MOST_LISTED = 50;
/** Columns are known again by their names, in whatever order. */
const keyOf = (headers: readonly string[]): string =>
  createHash("sha256")
    .update(
      headers
        .map((header) => header.trim().toLowerCase())
        .sort()
        .join("\u0000"),
    )
    .digest("hex");

/** Takes results of before in, all or none, and remembers what the columns were. */
export async function importPaper(
  context: Context,
  { name, headers, mapping, rows }: PaperImport,
): Promise<ImportView[]> {
  const { store } = context;
  await store.write(async (tx) => {
    const [id, at] = [store.newId(), store.now()];
    await tx.insert(paperImports).values({ id, name, at, deletedAt: null });
    const values = rows.map((paper) => {
      const { changeK, u95K } = paperChange(paper);
      return { id: store.newId(), importId: id, paper, changeK, u95K };
    });
    for (let from = 0; from < values.length; from += ROWS_AT_ONCE)
      await tx.insert(paperResults).values(values.slice(from, from + ROWS_AT_ONCE));
    if (headers.length > 0) {
      const headerKey = keyOf(headers);
      await tx
        .insert(sheetMappings)
        .values({ headerKey, mapping, updatedAt: at })
        .onConflictDoUpdate({ target: sheetMappings.headerKey, set: { mapping, updatedAt: at } });
    }
    await record(store, tx, "results taken in", id, { name, rows: rows.length });
  });
  return listImports(context);
}

export async function listImports({ store: { db } }: Context): Promise<ImportView[]> {
  const rows = await db
    .select({
      id: paperImports.id,
      name: paperImports.name,
      at: paperImports.at,
      deletedAt: paperImports.deletedAt,
      rows: count(paperResults.id),
    })
    .from(paperImports)
    .leftJoin(paperResults, eq(paperResults.importId, paperImports.id))
    .groupBy(paperImports.id)
    .orderBy(desc(paperImports.at))
    .limit(MOST_LISTED);
  return rows.map(({ deletedAt, ...one }) => ({ ...one, removed: deletedAt !== null }));
}

/** Takes a whole import back, or puts it back. */
export async function setImportRemoved(context: Context, id: string, removed: boolean): Promise<ImportView[]> {
  const { store } = context;
  await store.write(async (tx) => {
    const changed = await tx
      .update(paperImports)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(paperImports.id, id))
      .returning({ id: paperImports.id });
    if (!changed[0]) throw notFound("import");
    await record(store, tx, removed ? "results taken back" : "results put back", id);
  });
  return listImports(context);
}

/** What columns with these names were the last time. */
export async function knownMapping(
  { store: { db } }: Context,
  headers: readonly string[],
): Promise<SheetMapping | null> {
  const [found] = await db
    .select()
    .from(sheetMappings)
    .where(eq(sheetMappings.headerKey, keyOf(headers)));
  return found?.mapping ?? null;
}
