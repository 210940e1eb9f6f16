import { and, asc, desc, eq, isNull, lt, sql } from "drizzle-orm";
import * as v from "valibot";
import {
  type CoolerChange,
  CoolerFile,
  type CoolerJob,
  type CoolerLine,
  type CoolerPlanChange,
  CoolerPlanFile,
  type CoolerView,
  EMPTY_COOLER_PLAN,
} from "#contract";
import { Problem } from "#core";
import type { Cooler } from "#core/coolers/index.ts";
import { type CoolerPoint, coolerSeen, coolerToday } from "#core/service/index.ts";
import { boardMaps, boardModels, cards, coolerPlans, coolers, readings, runs, services } from "../db/schema.ts";
import { type Context, notFound, record } from "./context.ts";
import { keepDocument, needService } from "./documents.ts";

export async function readCoolers({ store: { db } }: Context): Promise<CoolerLine[]> {
  const rows = await db
    .select({
      id: coolers.id,
      name: coolers.name,
      kind: coolers.kind,
      cards: sql<number>`(select count(*) from ${coolerPlans} where ${coolerPlans.coolerId} = ${coolers.id})`,
      fins: sql<string | null>`json_extract(${coolers.cooler}, '$.fins')`,
    })
    .from(coolers)
    .where(isNull(coolers.deletedAt))
    .orderBy(asc(coolers.name));
  return rows.map((row) => ({ ...row, fins: row.fins === null ? null : (JSON.parse(row.fins) as Cooler["fins"]) }));
}

export async function readCooler({ store: { db } }: Context, id: string): Promise<CoolerView> {
  const [found] = await db.select().from(coolers).where(eq(coolers.id, id));
  if (!found || found.deletedAt) throw notFound("cooler");
  return { id, cooler: filled(CoolerFile, found.cooler), version: found.version };
}

/** What was kept before a field was there has it as usual. */
const filled = <S extends v.GenericSchema>(schema: S, kept: unknown): v.InferOutput<S> => v.parse(schema, kept);

export async function addCooler(context: Context, { cooler }: { cooler: Cooler }): Promise<CoolerView> {
  const { store } = context;
  const id = store.newId();
  await store.write(async (tx) => {
    const now = store.now();
    const { name, kind } = cooler;
    await tx
      .insert(coolers)
      .values({ id, name, kind, cooler, changeId: null, deletedAt: null, version: 1, createdAt: now, updatedAt: now });
    await record(store, tx, "cooler added", id);
  });
  return readCooler(context, id);
}

/** Keeps a cooler; each change names the version it was made from. */
export async function changeCooler(
  context: Context,
  id: string,
  { cooler, version, changes }: CoolerChange,
): Promise<CoolerView> {
  const { store } = context;
  await store.write(async (tx) => {
    const { name, kind } = cooler;
    const [stored] = await tx.select({ deletedAt: coolers.deletedAt }).from(coolers).where(eq(coolers.id, id));
    if (!stored || stored.deletedAt) throw notFound("cooler");
    const made = { version, changes };
    await keepDocument(tx, coolers, [coolers.id, id], made, store.now(), () => ({ name, kind, cooler }));
  });
  return readCooler(context, id);
}

export async function setCoolerRemoved(context: Context, id: string, removed: boolean): Promise<CoolerLine[]> {
  const { store } = context;
  await store.write(async (tx) => {
    const [changed] = await tx
      .update(coolers)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(coolers.id, id))
      .returning({ id: coolers.id });
    if (!changed) throw notFound("cooler");
    await record(store, tx, removed ? "cooler removed" : "cooler put back", id);
  });
  return readCoolers(context);
}

const MOST_SEEN = 60;

/** What this workshop's own last runs after the work say of a cooler. */
export async function seenWith({ store: { db } }: Context, id: string): Promise<CoolerPoint[]> {
  const rows = await db
    .select({
      side: runs.side,
      fanMode: runs.fanMode,
      attempt: runs.attempt,
      leftOut: runs.leftOut,
      name: runs.name,
      analysis: runs.analysis,
    })
    .from(coolerPlans)
    .innerJoin(runs, eq(runs.serviceId, coolerPlans.serviceId))
    .where(and(eq(coolerPlans.coolerId, id), eq(runs.side, "after"), isNull(runs.deletedAt)))
    .orderBy(desc(runs.createdAt))
    .limit(MOST_SEEN);
  return coolerSeen(rows);
}

export async function readCoolerJob({ store: { db } }: Context, serviceId: string): Promise<CoolerJob> {
  const [found] = await db
    .select({
      boardModelId: cards.boardModelId,
      boardName: boardModels.name,
      map: boardMaps.map,
      plan: coolerPlans,
      cooler: coolers.cooler,
    })
    .from(services)
    .innerJoin(cards, eq(services.cardId, cards.id))
    .leftJoin(boardModels, eq(cards.boardModelId, boardModels.id))
    .leftJoin(boardMaps, eq(boardMaps.boardModelId, boardModels.id))
    .leftJoin(coolerPlans, eq(coolerPlans.serviceId, services.id))
    .leftJoin(coolers, eq(coolers.id, coolerPlans.coolerId))
    .where(eq(services.id, serviceId));
  if (!found) throw notFound("service");
  const before = await db
    .select({
      side: runs.side,
      fanMode: runs.fanMode,
      attempt: runs.attempt,
      leftOut: runs.leftOut,
      name: runs.name,
      analysis: runs.analysis,
      createdAt: runs.createdAt,
    })
    .from(runs)
    .where(and(eq(runs.serviceId, serviceId), isNull(runs.deletedAt)))
    .orderBy(asc(runs.createdAt));
  const [firstAfter] = before.filter(({ side }) => side === "after");
  const [heard] = await db
    .select({ dba: readings.value })
    .from(readings)
    .where(
      and(
        eq(readings.serviceId, serviceId),
        eq(readings.kind, "sound"),
        isNull(readings.deletedAt),
        firstAfter ? lt(readings.at, firstAfter.createdAt) : undefined,
      ),
    )
    .orderBy(desc(readings.at))
    .limit(1);
  return {
    serviceId,
    plan: found.plan ? filled(CoolerPlanFile, found.plan.plan) : EMPTY_COOLER_PLAN,
    version: found.plan?.version ?? 0,
    cooler: found.cooler && filled(CoolerFile, found.cooler),
    boardModelId: found.boardModelId,
    boardName: found.boardName ?? "",
    map: found.map,
    now: coolerToday(before, heard?.dba ?? null),
  };
}

export async function changeCoolerPlan(
  context: Context,
  serviceId: string,
  { plan, version, changes }: CoolerPlanChange,
): Promise<CoolerJob> {
  const { store } = context;
  await store.write(async (tx) => {
    await needService(tx, serviceId);
    const { coolerId } = plan;
    if (coolerId !== null) {
      const [cooler] = await tx.select({ kind: coolers.kind }).from(coolers).where(eq(coolers.id, coolerId));
      if (!cooler) throw notFound("cooler");
      if (cooler.kind === "heatsink")
        throw new Problem({
          code: "only-a-heatsink",
          what: "An add-on heatsink does not go on in place of a cooler.",
          remedy: "Put it on a chip under “Add-on heatsinks”.",
        });
    }
    const of = [coolerPlans.serviceId, serviceId] as const;
    const made = { version, changes };
    const { before } = await keepDocument(tx, coolerPlans, of, made, store.now(), () => ({ plan, coolerId }));
    if (before?.coolerId !== coolerId) await record(store, tx, "another cooler chosen", serviceId, { coolerId });
  });
  return readCoolerJob(context, serviceId);
}
