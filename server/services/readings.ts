import { and, asc, eq, isNull } from "drizzle-orm";
import type { Reading, ReadingInput } from "#contract";
import { correctInfrared } from "#core";
import { readings, services } from "../db/schema.ts";
import { type Context, notFound, record } from "./context.ts";

/** Emissivity of a black package and a usual room, where the form leaves them open. */
const USUAL = { emissivity: 0.93, surroundC: 22 };

/** Keeps a reading by hand, corrected, with its place in the live run it was taken in. */
export async function addReading(
  context: Context,
  serviceId: string,
  input: ReadingInput,
  atS: number | null,
): Promise<Reading[]> {
  const { store } = context;
  const corrected =
    input.kind === "infrared"
      ? correctInfrared({
          shownC: input.shown,
          emissivity: input.emissivity ?? USUAL.emissivity,
          surroundC: input.surroundC ?? USUAL.surroundC,
        })
      : { valueC: input.shown, warning: null };
  await store.write(async (tx) => {
    const [service] = await tx.select({ id: services.id }).from(services).where(eq(services.id, serviceId));
    if (!service) throw notFound("service");
    const id = store.newId();
    await tx.insert(readings).values({
      ...input,
      id,
      serviceId,
      value: corrected.valueC,
      warning: corrected.warning,
      atS,
      at: store.now(),
      deletedAt: null,
    });
    await record(store, tx, "reading taken", serviceId, { id, kind: input.kind, value: corrected.valueC });
  });
  return listReadings(context, serviceId);
}

export async function listReadings({ store: { db } }: Context, serviceId: string): Promise<Reading[]> {
  const rows = await db
    .select()
    .from(readings)
    .where(and(eq(readings.serviceId, serviceId), isNull(readings.deletedAt)))
    .orderBy(asc(readings.at));
  return rows.map(({ deletedAt: _deleted, ...row }) => row);
}

/** @returns the service it stands in */
export async function setReadingRemoved(context: Context, id: string, removed: boolean): Promise<string> {
  const { store } = context;
  return store.write(async (tx) => {
    const changed = await tx
      .update(readings)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(readings.id, id))
      .returning({ serviceId: readings.serviceId });
    if (!changed[0]) throw notFound("reading");
    await record(store, tx, removed ? "reading removed" : "reading put back", changed[0].serviceId, { id });
    return changed[0].serviceId;
  });
}
