import { isDeepStrictEqual } from "node:util";
import { eq } from "drizzle-orm";
import { Problem } from "#core";
import type { Store, Transaction } from "../db/open.ts";
import { events, services } from "../db/schema.ts";
import type { StationStore } from "../db/station-store.ts";
import type { IngestPool } from "../ingest/pool.ts";
import type { FindingsThread } from "./findings-thread.ts";

/** What every service function works with. */
export interface Context {
  store: Store;
  pool: IngestPool;
  findings: FindingsThread;
  /** In the order of work. */
  stations: readonly StationStore[];
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

/**
 * Lets others be served first. The database answers at once, so that a request's whole work would stand on the thread in one piece: what
 * takes some ten milliseconds is parted by this.
 */
export const nextTurn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

export const notFound = (thing: string): Problem =>
  new Problem({
    code: "not-found",
    what: `This ${thing} is not here.`,
    remedy: "It may have been removed in another window; go back to the Bench.",
  });

/** Refuses a change that was made from an older version than the stored one. */
export function needVersion(stored: number, sent: number): void {
  needOwn({ version: stored, changeId: null }, sent, []);
}

/**
 * Whether there is anything to change: not where the row holds just this already, as when it was sent before and the answer was lost.
 * Refuses any other change that was made from an older version than the stored one.
 */
export function mustChange(
  stored: { version: number } & Record<string, unknown>,
  { version, ...fields }: { version: number } & Record<string, unknown>,
): boolean {
  if (
    stored.version !== version &&
    Object.entries(fields).every(([name, value]) => isDeepStrictEqual(stored[name], value))
  )
    return false;
  needVersion(stored.version, version);
  return true;
}

/** The same, but what the sender itself sent before and had no answer to is no one else's change. */
export function needOwn(
  stored: { version: number; changeId: string | null } | undefined,
  sent: number,
  changes: readonly string[],
): void {
  const isOwnChange = stored?.changeId && changes.includes(stored.changeId);
  if ((stored?.version ?? 0) !== sent && !isOwnChange)
    throw new Problem({
      code: "changed-elsewhere",
      what: "This was changed in another window after you opened it; yours is not saved yet.",
      remedy: "Keep the other change, or take over with yours.",
    });
}

type Service = typeof services.$inferSelect;

/** Changes the row of a service. @throws Problem `not-found` */
export async function changeService(
  tx: Transaction,
  id: string,
  change: (service: Service) => Partial<Omit<Service, "id" | "version">>,
): Promise<void> {
  const [service] = await tx.select().from(services).where(eq(services.id, id));
  if (!service) throw notFound("service");
  await tx
    .update(services)
    .set({ ...change(service), version: service.version + 1 })
    .where(eq(services.id, id));
}
