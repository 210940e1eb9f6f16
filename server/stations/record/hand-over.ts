import { Problem } from "#core";
import { type Context, changeService, record } from "../../services/context.ts";

/** Hands a card over, or opens its service again. */
export async function setClosed({ store }: Context, serviceId: string, closed: boolean): Promise<void> {
  await store.write(async (tx) => {
    await changeService(tx, serviceId, ({ closedAt }) => {
      if (closed && closedAt)
        throw new Problem({
          code: "already-closed",
          what: "This service is handed over already.",
          remedy: "Open it again to change it.",
        });
      return { closedAt: closed ? store.now() : null };
    });
    await record(store, tx, closed ? "handed over" : "opened again", serviceId);
  });
}
