import { and, asc, eq, isNull } from "drizzle-orm";
import type { WorkNote } from "#contract";
import { workNotes } from "../db/schema.ts";
import type { Context } from "./context.ts";

/** What was done in a service, in the order of days. */
export async function listNotes({ store: { db } }: Context, serviceId: string): Promise<WorkNote[]> {
  const rows = await db
    .select()
    .from(workNotes)
    .where(and(eq(workNotes.serviceId, serviceId), isNull(workNotes.deletedAt)))
    .orderBy(asc(workNotes.doneOn), asc(workNotes.createdAt));
  return rows.map(({ createdAt: _c, updatedAt: _u, deletedAt: _d, ...note }) => note);
}
