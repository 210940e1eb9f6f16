import { and, asc, eq, isNull } from "drizzle-orm";
import {
  type BookInput,
  type CutSheetInput,
  EMPTY_PAD_PLAN,
  type GapInput,
  type PadJob,
  type PadPlanChange,
  type PadPlanInput,
} from "#contract";
import { Problem, temperatureOf } from "#core";
import type { Transaction } from "../db/open.ts";
import { boardMaps, boardModels, cards, gapReadings, lots, lotUses, padPlans, runs, services } from "../db/schema.ts";
import { type Context, needOwn, needVersion, notFound, record } from "./context.ts";
import { takeFromLot } from "./stores.ts";

/** The cooler face lies about so far under the edge reading: die, paste and plate take the rest (common practice). */
const FACE_BELOW_EDGE_K = 10;
const USUAL_FACE_C = 55;

export async function readPads(context: Context, serviceId: string): Promise<PadJob> {
  const { db } = context.store;
  const [found] = await db
    .select({ boardModelId: cards.boardModelId, boardName: boardModels.name, map: boardMaps.map, plan: padPlans })
    .from(services)
    .innerJoin(cards, eq(services.cardId, cards.id))
    .leftJoin(boardModels, eq(cards.boardModelId, boardModels.id))
    .leftJoin(boardMaps, eq(boardMaps.boardModelId, boardModels.id))
    .leftJoin(padPlans, eq(padPlans.serviceId, services.id))
    .where(eq(services.id, serviceId));
  if (!found) throw notFound("service");
  const rows = found.boardModelId
    ? await db
        .select()
        .from(gapReadings)
        .where(and(eq(gapReadings.boardModelId, found.boardModelId), isNull(gapReadings.deletedAt)))
        .orderBy(asc(gapReadings.at))
    : [];
  return {
    serviceId,
    boardModelId: found.boardModelId,
    boardName: found.boardName ?? "",
    map: found.map ?? null,
    readings: rows.map(({ serviceId: card, boardModelId: _b, deletedAt: _d, ...reading }) => ({ ...reading, card })),
    earlierCards: new Set(rows.filter((row) => row.serviceId !== serviceId).map((row) => row.serviceId)).size,
    plan: found.plan?.plan ?? EMPTY_PAD_PLAN,
    version: found.plan?.version ?? 0,
    face: await faceOf(context, serviceId),
  };
}

async function faceOf({ store: { db } }: Context, serviceId: string): Promise<PadJob["face"]> {
  const rows = await db
    .select({ analysis: runs.analysis, name: runs.name })
    .from(runs)
    .where(and(eq(runs.serviceId, serviceId), isNull(runs.deletedAt)))
    .orderBy(asc(runs.createdAt));
  for (const { analysis, name } of rows) {
    const edge = temperatureOf(analysis, "edge");
    const settled = edge?.meanC ?? edge?.finalC ?? null;
    if (settled !== null)
      return {
        valueC: Math.round(settled - FACE_BELOW_EDGE_K),
        source: `edge of the run “${name}” (${settled.toFixed(0)} °C) less ${FACE_BELOW_EDGE_K} K`,
      };
  }
  return { valueC: USUAL_FACE_C, source: "no run with an edge reading: a usual figure" };
}

export async function addGapReadings(context: Context, serviceId: string, { readings }: GapInput): Promise<PadJob> {
  const { store } = context;
  await store.write(async (tx) => {
    const [card] = await tx
      .select({ boardModelId: cards.boardModelId })
      .from(services)
      .innerJoin(cards, eq(services.cardId, cards.id))
      .where(eq(services.id, serviceId));
    if (!card) throw notFound("service");
    if (!card.boardModelId)
      throw new Problem({
        code: "no-board-model",
        what: "This card has no board model, so its readings would belong to nothing.",
        remedy: "Name the board model under Take in.",
      });
    const { boardModelId } = card;
    const at = store.now();
    await tx
      .insert(gapReadings)
      .values(
        readings.map((reading) => ({
          ...reading,
          id: reading.id ?? store.newId(),
          serviceId,
          boardModelId,
          at,
          deletedAt: null,
        })),
      )
      .onConflictDoNothing();
    await record(store, tx, "gaps measured", serviceId, { count: readings.length });
  });
  return readPads(context, serviceId);
}

export async function setGapRemoved(context: Context, id: string, removed: boolean): Promise<PadJob> {
  const { store } = context;
  const serviceId = await store.write(async (tx) => {
    const [changed] = await tx
      .update(gapReadings)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(gapReadings.id, id))
      .returning({ serviceId: gapReadings.serviceId });
    if (!changed) throw notFound("reading");
    return changed.serviceId;
  });
  return readPads(context, serviceId);
}

export async function changePadPlan(
  context: Context,
  serviceId: string,
  { plan, version, changes }: PadPlanChange,
): Promise<PadJob> {
  await context.store.write((tx) => keepPlan(context, tx, serviceId, plan, version, changes));
  return readPads(context, serviceId);
}

async function keepPlan(
  { store }: Context,
  tx: Transaction,
  serviceId: string,
  plan: PadPlanInput,
  version: number,
  changes: readonly string[] = [],
): Promise<void> {
  const [service] = await tx.select({ id: services.id }).from(services).where(eq(services.id, serviceId));
  if (!service) throw notFound("service");
  const [stored] = await tx.select().from(padPlans).where(eq(padPlans.serviceId, serviceId));
  needOwn(stored, version, changes);
  const changeId = changes.at(-1) ?? null;
  const now = store.now();
  if (stored)
    await tx
      .update(padPlans)
      .set({ plan, changeId, version: stored.version + 1, updatedAt: now })
      .where(eq(padPlans.serviceId, serviceId));
  else {
    await tx.insert(padPlans).values({ serviceId, plan, changeId, version: 1, createdAt: now, updatedAt: now });
    await record(store, tx, "pads planned", serviceId);
  }
}

/** Smaller left-overs are waste, mm. */
const USEFUL_MM = 12;
const USE_WORDS = "Pads cut";

/** Books a cut sheet: out of its lot, its useful left-overs into the stock; or takes all that back. */
export async function bookSheet(
  context: Context,
  serviceId: string,
  { sheet: index, booked, version }: BookInput,
): Promise<PadJob> {
  const { store } = context;
  await store.write(async (tx) => {
    const [stored] = await tx.select().from(padPlans).where(eq(padPlans.serviceId, serviceId));
    const sheet = stored?.plan.cutting?.sheets[index];
    if (!stored?.plan.cutting || !sheet) throw notFound("sheet");
    if (sheet.booked === booked) return;
    needVersion(stored.version, version);
    if (booked) await bookOne(context, tx, serviceId, index, sheet);
    else await unbookOne(context, tx, serviceId, index, sheet);
    const sheets = stored.plan.cutting.sheets.map((one, at) => (at === index ? { ...one, booked } : one));
    await keepPlan(
      context,
      tx,
      serviceId,
      { ...stored.plan, cutting: { ...stored.plan.cutting, sheets } },
      stored.version,
    );
  });
  return readPads(context, serviceId);
}

const labelOf = (serviceId: string, index: number): string =>
  `Left over, sheet ${index + 1} of ${serviceId.slice(0, 8)}`;

async function bookOne(
  context: Context,
  tx: Transaction,
  serviceId: string,
  index: number,
  sheet: CutSheetInput,
): Promise<void> {
  const { store } = context;
  if (sheet.from === "lot")
    await takeFromLot(context, tx, serviceId, {
      lotId: sheet.sourceId,
      amount: 1,
      what: `${USE_WORDS}, sheet ${index + 1}`,
      accepted: true,
    });
  const now = store.now();
  for (const { widthMm, heightMm } of sheet.leftOvers.filter((one) => Math.min(one.widthMm, one.heightMm) >= USEFUL_MM))
    await tx.insert(lots).values({
      id: store.newId(),
      materialId: sheet.materialId,
      label: labelOf(serviceId, index),
      thicknessMm: sheet.thicknessMm,
      widthMm,
      heightMm,
      amount: 1,
      price: 0,
      openedOn: now.slice(0, 10),
      useBefore: null,
      leftOverOf: serviceId,
      deletedAt: null,
      createdAt: now,
      updatedAt: now,
      version: 1,
    });
}

async function unbookOne(
  { store }: Context,
  tx: Transaction,
  serviceId: string,
  index: number,
  sheet: CutSheetInput,
): Promise<void> {
  const own = and(eq(lots.leftOverOf, serviceId), eq(lots.label, labelOf(serviceId, index)), isNull(lots.deletedAt));
  const made = await tx.select().from(lots).where(own);
  if (made.some((lot) => lot.amount < 1))
    throw new Problem({
      code: "already-used",
      what: "A left-over of this sheet has been used since.",
      remedy: "Take that use back first.",
    });
  await tx.update(lots).set({ deletedAt: store.now() }).where(own);
  if (sheet.from !== "lot") return;
  const [use] = await tx
    .select()
    .from(lotUses)
    .where(
      and(
        eq(lotUses.serviceId, serviceId),
        eq(lotUses.lotId, sheet.sourceId),
        eq(lotUses.what, `${USE_WORDS}, sheet ${index + 1}`),
        isNull(lotUses.deletedAt),
      ),
    );
  const [lot] = await tx.select().from(lots).where(eq(lots.id, sheet.sourceId));
  if (!use || !lot) return;
  await tx.update(lotUses).set({ deletedAt: store.now() }).where(eq(lotUses.id, use.id));
  await tx
    .update(lots)
    .set({ amount: lot.amount + use.amount, version: lot.version + 1 })
    .where(eq(lots.id, lot.id));
}
