import { isDeepStrictEqual } from "node:util";
import { eq, type InferInsertModel } from "drizzle-orm";
import type { SQLiteColumn, SQLiteTable } from "drizzle-orm/sqlite-core";
import type { Transaction } from "../db/open.ts";
import { services } from "../db/schema.ts";
import { needOwn, notFound } from "./context.ts";

/** A table of documents: one value each of one thing, with its version and the page's change that made it. */
type DocumentTable = SQLiteTable & Record<"version" | "changeId" | "createdAt" | "updatedAt", SQLiteColumn>;
type Row<T extends DocumentTable> = T["$inferSelect"] & { version: number; changeId: string | null };

/** The version a change was made from, and the ids of what its page sent since its last answer, this one's last. */
export interface MadeFrom {
  version: number;
  changes?: readonly string[] | undefined;
}

/** @throws Problem `not-found` */
export async function needService(tx: Transaction, id: string): Promise<void> {
  const [service] = await tx.select({ id: services.id }).from(services).where(eq(services.id, id));
  if (!service) throw notFound("service");
}

/**
 * Keeps a document, by the one protocol there is: a change names the version it was made from. A page's own
 * change whose answer was lost stands in none of its later ones' way, as it names what it sent; anybody else's does. Who names nothing may
 * send the same again.
 * @param of the column that says of which thing it is, and that thing
 * @param fieldsOf what is to be kept, told what was
 * @returns the row before, undefined for the first; and the version that is there now
 * @throws Problem `changed-elsewhere`
 */
export async function keepDocument<T extends DocumentTable>(
  tx: Transaction,
  table: T,
  [column, id]: readonly [SQLiteColumn, string],
  { version, changes = [] }: MadeFrom,
  now: string,
  fieldsOf: (before: Row<T> | undefined) => Partial<InferInsertModel<T>>,
): Promise<{ before: Row<T> | undefined; version: number; isNew: boolean }> {
  const [before] = (await tx
    .select()
    .from(table as SQLiteTable)
    .where(eq(column, id))) as Array<Row<T>>;
  const isSame = (kept: object): boolean =>
    Object.entries(kept).every(([name, value]) => isDeepStrictEqual(before?.[name as never], value));
  // Who names no changes can be known again by what is sent only.
  const named = changes.length > 0;
  if (named) needOwn(before, version, changes);
  const fields = fieldsOf(before);
  if (before && !named && isSame(fields)) return { before, version: before.version, isNew: false };
  if (!named) needOwn(before, version, changes);
  const row = { ...fields, changeId: changes.at(-1) ?? null, version: (before?.version ?? 0) + 1, updatedAt: now };
  if (before)
    await tx
      .update(table)
      .set(row as never)
      .where(eq(column, id));
  else await tx.insert(table).values({ ...row, [keyOf(table, column)]: id, createdAt: now } as never);
  return { before, version: row.version, isNew: true };
}

const keyOf = (table: SQLiteTable, column: SQLiteColumn): string =>
  Object.entries(table).find(([, one]) => one === column)?.[0] ?? "";
