import { eq } from "drizzle-orm";
import { type HandOverInput, NO_HAND_OVER } from "#contract";
import { handOvers, services } from "../db/schema.ts";
import { type Context, mustChange, notFound, record } from "./context.ts";

export type HandOverView = HandOverInput & { version: number };

/** What the record of a service shows by choice, and what leaves with the card. */
export async function readHandOver(
  { store: { db } }: Pick<Context, "store">,
  serviceId: string,
): Promise<HandOverView> {
  const [kept] = await db.select().from(handOvers).where(eq(handOvers.serviceId, serviceId));
  return kept ? { ...kept.chosen, version: kept.version } : { ...NO_HAND_OVER, version: 0 };
}

export async function changeHandOver(
  { store }: Context,
  serviceId: string,
  { version, ...chosen }: HandOverView,
): Promise<HandOverView> {
  return store.write(async (tx) => {
    const [service] = await tx.select({ id: services.id }).from(services).where(eq(services.id, serviceId));
    if (!service) throw notFound("service");
    const [stored] = await tx.select().from(handOvers).where(eq(handOvers.serviceId, serviceId));
    const before = { ...(stored?.chosen ?? NO_HAND_OVER), version: stored?.version ?? 0 };
    if (!mustChange(before, { ...chosen, version })) return before;
    const now = store.now();
    const row = { chosen, updatedAt: now, version: before.version + 1 };
    if (stored) await tx.update(handOvers).set(row).where(eq(handOvers.serviceId, serviceId));
    else await tx.insert(handOvers).values({ ...row, serviceId, createdAt: now });
    await record(store, tx, "hand-over changed", serviceId, chosen);
    return { ...chosen, version: row.version };
  });
}
