import { eq } from "drizzle-orm";
import { leftOutResults, paperResults, services } from "../db/schema.ts";
import { type Context, notFound, record } from "./context.ts";

/** A result no longer counts, with the reason, or counts again. */
export async function leaveOut({ store }: Context, id: string, reason: string | null): Promise<void> {
  await store.write(async (tx) => {
    const [service] = await tx.select({ id: services.id }).from(services).where(eq(services.id, id));
    const [paper] = await tx.select({ id: paperResults.id }).from(paperResults).where(eq(paperResults.id, id));
    if (!service && !paper) throw notFound("result");
    if (reason === null) await tx.delete(leftOutResults).where(eq(leftOutResults.id, id));
    else {
      const at = store.now();
      await tx
        .insert(leftOutResults)
        .values({ id, reason, at })
        .onConflictDoUpdate({ target: leftOutResults.id, set: { reason, at } });
    }
    await record(store, tx, reason === null ? "result counts again" : "result left out", id, { reason });
  });
}
