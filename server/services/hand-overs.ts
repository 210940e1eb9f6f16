import { eq } from "drizzle-orm";
import { type HandOverView, NO_HAND_OVER } from "#contract";
import { handOvers } from "../db/schema.ts";
import { type Context, record } from "./context.ts";
import { keepDocument, type MadeFrom, needService } from "./documents.ts";

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
  { version, changes, ...chosen }: HandOverView & MadeFrom,
): Promise<HandOverView> {
  return store.write(async (tx) => {
    await needService(tx, serviceId);
    const of = [handOvers.serviceId, serviceId] as const;
    const kept = await keepDocument(tx, handOvers, of, { version, changes }, store.now(), () => ({ chosen }));
    if (kept.isNew) await record(store, tx, "hand-over changed", serviceId, chosen);
    return { ...chosen, version: kept.version };
  });
}
