import { and, asc, desc, eq, isNull } from "drizzle-orm";
import {
  EMPTY_PAD_PLAN,
  type GapInput,
  MOST_PLANNED,
  type OpenPads,
  type PadJob,
  type PadPlanChange,
  type PadPlanInput,
} from "#contract";
import { Problem } from "#core";
import { coolerFace } from "#core/service/index.ts";
import type { Transaction } from "../../db/open.ts";
import { boardMaps, boardModels, cards, runs, serviceSummaries, services } from "../../db/schema.ts";
import { type Context, notFound, record } from "../../services/context.ts";
import { keepDocument, needService } from "../../services/documents.ts";
import { gapReadings, padPlans } from "./tables.ts";

export async function readPads(context: Context, serviceId: string): Promise<PadJob> {
  const { db } = context.store;
  const [found] = await db
    .select({
      boardModelId: cards.boardModelId,
      boardName: boardModels.name,
      map: boardMaps.map,
      mapVersion: boardMaps.version,
      plan: padPlans,
    })
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
    mapVersion: found.mapVersion ?? 0,
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
  return coolerFace(rows);
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
  await context.store.write(async (tx) => {
    const [stored] = await tx.select({ plan: padPlans.plan }).from(padPlans).where(eq(padPlans.serviceId, serviceId));
    await keepPlan(context, tx, serviceId, withBookings(plan, stored?.plan), version, changes);
  });
  return readPads(context, serviceId);
}

/** What was booked is known by what was kept here, whatever a page says of it: no sheet is booked by being called so, and none of another card. */
function withBookings(plan: PadPlanInput, stored: PadPlanInput | undefined): PadPlanInput {
  if (!plan.cutting) return plan;
  const kept = stored?.cutting?.sheets ?? [];
  const known = new Set(kept.flatMap(({ booked, bookingId }) => (booked && bookingId ? [bookingId] : [])));
  const sheets = plan.cutting.sheets.map((sheet, at) => {
    const old = kept[at];
    // Plans from before bookings had ids: theirs is told by the sheet's place.
    const isOld = old?.booked === true && !old.bookingId && !sheet.bookingId;
    const isBooked = isOld || (sheet.bookingId ? known.delete(sheet.bookingId) : false);
    return { ...sheet, booked: isBooked, bookingId: isBooked ? (sheet.bookingId ?? null) : null };
  });
  return { ...plan, cutting: { ...plan.cutting, sheets } };
}

export async function keepPlan(
  { store }: Context,
  tx: Transaction,
  serviceId: string,
  plan: PadPlanInput,
  version: number,
  changes: readonly string[] = [],
): Promise<void> {
  await needService(tx, serviceId);
  const of = [padPlans.serviceId, serviceId] as const;
  const { before } = await keepDocument(tx, padPlans, of, { version, changes }, store.now(), () => ({ plan }));
  if (!before) await record(store, tx, "pads planned", serviceId);
}

/** Open cards whose pads are chosen and not all cut yet: what they need is bought and cut together. */
export async function readOpenPads({ store: { db } }: Context): Promise<OpenPads[]> {
  const rows = await db
    .select({
      serviceId: padPlans.serviceId,
      cardId: cards.id,
      maker: cards.maker,
      model: cards.model,
      serial: cards.serial,
      plan: padPlans.plan,
      map: boardMaps.map,
    })
    .from(padPlans)
    .innerJoin(serviceSummaries, eq(serviceSummaries.serviceId, padPlans.serviceId))
    .innerJoin(cards, eq(cards.id, serviceSummaries.cardId))
    .innerJoin(boardMaps, eq(boardMaps.boardModelId, cards.boardModelId))
    .where(eq(serviceSummaries.closed, false))
    .orderBy(desc(serviceSummaries.updatedAt))
    .limit(MOST_PLANNED);
  return rows.flatMap(({ maker, model, plan: { picks, rules, cutting }, ...row }) =>
    Object.values(picks).some((pick) => pick !== null) && !cutting?.sheets.some(({ booked }) => booked)
      ? [{ ...row, name: `${maker} ${model}`, picks, rules }]
      : [],
  );
}
