import { Problem } from "#core";
import { headlineOf, needsReason } from "#core/outcome/index.ts";
import { leadingPair } from "#core/service/index.ts";
import { type Context, changeService, record } from "../../services/context.ts";
import { loadFacts } from "../../services/facts.ts";
import { keepNext } from "../../services/next-service.ts";
import { readSettings } from "../../services/settings.ts";

const FEWEST_CHARS = 3;

/**
 * Hands a card over, or opens its service again.
 * @param reason why, where something got worse or stays over its limit
 * @throws Problem `already-closed`, `needs-reason`
 */
export async function setClosed(
  { store, stations }: Context,
  serviceId: string,
  closed: boolean,
  reason: string,
): Promise<void> {
  await store.write(async (tx) => {
    const lead = closed
      ? leadingPair((await loadFacts(tx, stations, serviceId, await readSettings({ db: tx }))).pairs)
      : undefined;
    const isBad = lead !== undefined && needsReason(lead.outcome);
    if (isBad && reason.length < FEWEST_CHARS)
      throw new Problem({
        code: "needs-reason",
        what: `This can't be handed over without a word: ${headlineOf(lead.outcome)}.`,
        remedy: "Mount it again and run it, or say in a few words why it goes out like this.",
      });
    await changeService(tx, serviceId, ({ closedAt }) => {
      if (closed && closedAt)
        throw new Problem({
          code: "already-closed",
          what: "This service is handed over already.",
          remedy: "Open it again to change it.",
        });
      return { closedAt: closed ? store.now() : null, closedReason: isBad ? reason : "" };
    });
    if (closed) await keepNext(store, tx, serviceId);
    await record(store, tx, closed ? "handed over" : "opened again", serviceId, isBad ? { reason } : null);
  });
}

/** Keeps what the work costs; null where nobody is to pay. */
export async function setPrice({ store }: Context, serviceId: string, price: number | null): Promise<void> {
  await store.write(async (tx) => {
    await changeService(tx, serviceId, () => ({ workPrice: price }));
    await record(store, tx, "price of the work", serviceId, { price });
  });
}
