import { and, asc, eq, isNull } from "drizzle-orm";
import type { WorkNote } from "#contract";
import { dayOf } from "../db/days.ts";
import type { Transaction } from "../db/open.ts";
import { workNotes } from "../db/schema.ts";
import { type Context, record } from "./context.ts";
import { readSettings } from "./settings.ts";

/** What was done in a service, in the order of days. */
export async function listNotes({ store: { db } }: Context, serviceId: string): Promise<WorkNote[]> {
  const rows = await db
    .select()
    .from(workNotes)
    .where(and(eq(workNotes.serviceId, serviceId), isNull(workNotes.deletedAt)))
    .orderBy(asc(workNotes.doneOn), asc(workNotes.createdAt));
  return rows.map(({ createdAt: _c, updatedAt: _u, deletedAt: _d, ...note }) => note);
}

/** What a note says that made itself. */
const NOTED_BY_CUTTING = "Noted when the pads were cut.";

/** Pads that were cut go on the card: noted once for a service, unless somebody noted pads already. */
export async function notePads({ store }: Context, tx: Transaction, serviceId: string): Promise<void> {
  const notes = await tx
    .select({ work: workNotes.work })
    .from(workNotes)
    .where(and(eq(workNotes.serviceId, serviceId), isNull(workNotes.deletedAt)));
  if (notes.some(({ work }) => work.includes("pads replaced"))) return;
  const now = store.now();
  const { person } = await readSettings({ db: tx });
  const input = { doneOn: dayOf(now), person, work: ["pads replaced" as const], compound: "", minutes: null };
  const id = store.newId();
  await tx.insert(workNotes).values({
    ...input,
    id,
    serviceId,
    text: NOTED_BY_CUTTING,
    deletedAt: null,
    createdAt: now,
    updatedAt: now,
    version: 1,
  });
  await record(store, tx, "work noted", serviceId, input);
}

/** Takes that note back; one that somebody changed since is theirs. */
export async function unnotePads({ store }: Context, tx: Transaction, serviceId: string): Promise<void> {
  await tx
    .update(workNotes)
    .set({ deletedAt: store.now() })
    .where(
      and(
        eq(workNotes.serviceId, serviceId),
        eq(workNotes.text, NOTED_BY_CUTTING),
        eq(workNotes.version, 1),
        isNull(workNotes.deletedAt),
      ),
    );
}
