import { eq } from "drizzle-orm";
import type { NoteInput } from "#contract";
import { services, workNotes } from "../db/schema.ts";
import { type Context, mustChange, notFound, record } from "./context.ts";
import { needOpenable } from "./openable.ts";

export async function addNote(context: Context, serviceId: string, input: NoteInput): Promise<void> {
  const { store } = context;
  await store.write(async (tx) => {
    const [service] = await tx.select().from(services).where(eq(services.id, serviceId));
    if (!service) throw notFound("service");
    await needOpenable(tx, service);
    const now = store.now();
    await tx
      .insert(workNotes)
      .values({ ...input, id: store.newId(), serviceId, deletedAt: null, createdAt: now, updatedAt: now, version: 1 });
    await record(store, tx, "work noted", serviceId, input);
  });
}

/** @returns the service it stands in */
export async function changeNote(
  context: Context,
  id: string,
  input: NoteInput & { version: number },
): Promise<string> {
  const { store } = context;
  return store.write(async (tx) => {
    const [stored] = await tx.select().from(workNotes).where(eq(workNotes.id, id));
    if (!stored) throw notFound("note");
    if (!mustChange(stored, input)) return stored.serviceId;
    const { version, ...fields } = input;
    await tx
      .update(workNotes)
      .set({ ...fields, updatedAt: store.now(), version: version + 1 })
      .where(eq(workNotes.id, id));
    await record(store, tx, "note changed", stored.serviceId, { id, from: stored.text, to: fields.text });
    return stored.serviceId;
  });
}

/** @returns the service it stands in */
export async function setNoteRemoved(context: Context, id: string, removed: boolean): Promise<string> {
  const { store } = context;
  return store.write(async (tx) => {
    const [changed] = await tx
      .update(workNotes)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(workNotes.id, id))
      .returning({ serviceId: workNotes.serviceId });
    if (!changed) throw notFound("note");
    await record(store, tx, removed ? "note removed" : "note put back", changed.serviceId, { id });
    return changed.serviceId;
  });
}
