import { and, asc, eq, isNull } from "drizzle-orm";
import { type PairedComparison, POWER_ON_ITEMS, type Settings, USUAL_LIMITS } from "#contract";
import { leakGate } from "#core/coolers/index.ts";
import { comparePairs, type PairContext, type ServiceFacts } from "#core/service/index.ts";
import type { Reader } from "../db/open.ts";
import { boardModels, cards, coolerPlans, coolers, runs, services, workNotes } from "../db/schema.ts";
import type { StationStore } from "../db/station-store.ts";
import { notFound } from "./context.ts";

type RunRow = typeof runs.$inferSelect;

export interface LoadedFacts extends ServiceFacts {
  service: typeof services.$inferSelect;
  runs: readonly RunRow[];
  pairs: readonly PairedComparison[];
  pairContext: PairContext;
  /** What each station's folder loaded for its rule, by its id. */
  own: Readonly<Record<string, unknown>>;
}

/** All that the stations' rules read of a service. @throws Problem `not-found` */
export async function loadFacts(
  db: Reader,
  stations: readonly StationStore[],
  serviceId: string,
  settings: Pick<Settings, "scatterMountK" | "scatterRunK" | "warmestRoomC">,
): Promise<LoadedFacts> {
  const [held] = await db
    .select({ service: services, complaint: cards.complaint, limits: boardModels.limits })
    .from(services)
    .innerJoin(cards, eq(services.cardId, cards.id))
    .leftJoin(boardModels, eq(cards.boardModelId, boardModels.id))
    .where(eq(services.id, serviceId));
  if (!held) throw notFound("service");
  const { service, complaint } = held;
  const own = Object.fromEntries(
    await Promise.all(stations.map(async (station) => [station.id, await station.load(db, serviceId)] as const)),
  );
  const all = await db
    .select()
    .from(runs)
    .where(and(eq(runs.serviceId, serviceId), isNull(runs.deletedAt)))
    .orderBy(asc(runs.createdAt));
  const notes = await db
    .select({ work: workNotes.work })
    .from(workNotes)
    .where(and(eq(workNotes.serviceId, serviceId), isNull(workNotes.deletedAt)));
  const [other] = await db
    .select({ plan: coolerPlans.plan, cooler: coolers.cooler })
    .from(coolerPlans)
    .innerJoin(coolers, eq(coolers.id, coolerPlans.coolerId))
    .where(eq(coolerPlans.serviceId, serviceId));
  const pairContext = {
    limits: held.limits ?? USUAL_LIMITS,
    warmestRoomC: settings.warmestRoomC,
    scatterMountK: settings.scatterMountK,
    scatterRunK: settings.scatterRunK,
    complaint,
  };
  return {
    service,
    skips: service.skips,
    closed: service.closedAt !== null,
    setAside: service.powerOn?.setAside ?? null,
    failed: POWER_ON_ITEMS.filter((item) =>
      service.powerOn?.answers.some(({ id, answer }) => id === item.id && answer === "no"),
    ).map(({ fails }) => fails),
    choice: service.decision?.choice ?? null,
    work: notes.flatMap((note) => note.work),
    leak: other ? leakGate(other.cooler, other.plan.leak) : "dry",
    runs: all,
    attempt: service.attempts.length + 1,
    pairs: comparePairs(all, pairContext),
    pairContext,
    own,
  };
}
