import { Problem } from "#core";
import type { Store, Transaction } from "../db/open.ts";
import { events } from "../db/schema.ts";
import type { IngestPool } from "../ingest/pool.ts";

/** What every service function works with. */
export interface Context {
  store: Store;
  pool: IngestPool;
}

export async function record(
  store: Store,
  tx: Transaction,
  what: string,
  subject: string,
  detail: unknown = null,
): Promise<void> {
  await tx.insert(events).values({ id: store.newId(), at: store.now(), what, subject, detail });
}

export const notFound = (thing: string): Problem =>
  new Problem({
    code: "not-found",
    what: `This ${thing} is not here.`,
    remedy: "It may have been removed in another window; go back to the Bench.",
  });

/** Refuses a change that was made from an older version than the stored one. */
export function needVersion(stored: number, sent: number): void {
  if (stored !== sent)
    throw new Problem({
      code: "changed-elsewhere",
      what: "This was changed in another window after you opened it; yours is not saved yet.",
      remedy: "Keep the other change, or take over with yours.",
    });
}
