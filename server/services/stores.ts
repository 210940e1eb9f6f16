import { and, asc, desc, eq, inArray, isNotNull, isNull, or, sql } from "drizzle-orm";
import {
  type LotInput,
  type MaterialInput,
  type OfferInput,
  STOCK_UNIT,
  type Stores,
  type Use,
  type UseInput,
} from "#contract";
import { Problem } from "#core";
import { dayOf } from "../db/days.ts";
import type { Reader, Transaction } from "../db/open.ts";
import { lots, lotUses, materials, offers, services } from "../db/schema.ts";
import { type Context, mustChange, notFound, record } from "./context.ts";

export async function readStores({ store }: Context): Promise<Stores> {
  const { db } = store;
  const [allMaterials, allLots, allOffers] = await Promise.all([
    db.select().from(materials).where(isNull(materials.deletedAt)).orderBy(asc(materials.kind), asc(materials.name)),
    db.select().from(lots).where(isNull(lots.deletedAt)).orderBy(asc(lots.thicknessMm), desc(lots.createdAt)),
    db.select().from(offers).where(isNull(offers.deletedAt)).orderBy(asc(offers.thicknessMm), asc(offers.price)),
  ]);
  const today = dayOf(store.now());
  const nameOf = (id: string): string => allMaterials.find((one) => one.id === id)?.name ?? "";
  return {
    materials: allMaterials.map(({ createdAt: _c, updatedAt: _u, deletedAt: _d, ...one }) => one),
    lots: allLots.map(({ createdAt: _c, updatedAt: _u, deletedAt: _d, bookingId: _b, beforeUses: _f, ...one }) => one),
    offers: allOffers.map(({ createdAt: _c, updatedAt: _u, deletedAt: _d, ...one }) => one),
    low: allMaterials.flatMap(({ id, name, kind, lowAt }) => {
      // Left-overs do not count towards the whole sheets that are to be in stock.
      const left = allLots
        .filter((lot) => lot.materialId === id && lot.leftOverOf === null)
        .reduce((sum, lot) => sum + lot.amount, 0);
      return lowAt !== null && left <= lowAt ? [{ materialId: id, name, left, unit: STOCK_UNIT[kind], lowAt }] : [];
    }),
    stale: allLots.flatMap(({ id, materialId, useBefore, amount }) =>
      useBefore !== null && useBefore < today && amount > 0 ? [{ lotId: id, name: nameOf(materialId), useBefore }] : [],
    ),
  };
}

export async function addMaterial(context: Context, input: MaterialInput): Promise<Stores> {
  const { store } = context;
  await store.write(async (tx) => {
    const now = store.now();
    const id = store.newId();
    await tx.insert(materials).values({ ...input, id, deletedAt: null, createdAt: now, updatedAt: now, version: 1 });
    await record(store, tx, "material added", id, { name: input.name });
  });
  return readStores(context);
}

export async function changeMaterial(
  context: Context,
  id: string,
  { version, ...input }: MaterialInput & { version: number },
): Promise<Stores> {
  const { store } = context;
  await store.write(async (tx) => {
    const [stored] = await tx.select().from(materials).where(eq(materials.id, id));
    if (!stored) throw notFound("material");
    if (!mustChange(stored, { ...input, version })) return;
    await tx
      .update(materials)
      .set({ ...input, updatedAt: store.now(), version: version + 1 })
      .where(eq(materials.id, id));
    await record(store, tx, "material changed", id, { from: stored, to: input });
  });
  return readStores(context);
}

export async function addLot(context: Context, input: LotInput): Promise<Stores> {
  const { store } = context;
  await store.write(async (tx) => {
    await needMaterial(tx, input.materialId);
    const now = store.now();
    const id = store.newId();
    await tx.insert(lots).values({
      ...input,
      id,
      beforeUses: input.amount,
      leftOverOf: null,
      bookingId: null,
      deletedAt: null,
      createdAt: now,
      updatedAt: now,
      version: 1,
    });
    // What was ordered as this has come.
    const { materialId, thicknessMm, widthMm, heightMm, label } = input;
    const same = await tx
      .select()
      .from(offers)
      .where(and(eq(offers.materialId, materialId), eq(offers.label, label), isNotNull(offers.orderedOn)));
    for (const one of same)
      if (one.thicknessMm === thicknessMm && one.widthMm === widthMm && one.heightMm === heightMm)
        await tx
          .update(offers)
          .set({ orderedOn: null, updatedAt: now, version: one.version + 1 })
          .where(eq(offers.id, one.id));
    await record(store, tx, "put into stock", id, input);
  });
  return readStores(context);
}

export async function changeLot(
  context: Context,
  id: string,
  { version, ...input }: LotInput & { version: number },
): Promise<Stores> {
  const { store } = context;
  await store.write(async (tx) => {
    await needMaterial(tx, input.materialId);
    const [stored] = await tx.select().from(lots).where(eq(lots.id, id));
    if (!stored) throw notFound("lot");
    if (!mustChange(stored, { ...input, version })) return;
    await tx
      .update(lots)
      .set({ ...input, updatedAt: store.now(), version: version + 1 })
      .where(eq(lots.id, id));
    // What was counted by hand holds: the uses that stand had been taken by then.
    if (input.amount !== stored.amount) await refill(tx, [id]);
    await record(store, tx, "stock changed", id, { from: stored, to: input });
  });
  return readStores(context);
}

export async function addOffer(context: Context, input: OfferInput): Promise<Stores> {
  const { store } = context;
  await store.write(async (tx) => {
    await needMaterial(tx, input.materialId);
    const now = store.now();
    const id = store.newId();
    await tx.insert(offers).values({ ...input, id, deletedAt: null, createdAt: now, updatedAt: now, version: 1 });
    await record(store, tx, "price noted", id, input);
  });
  return readStores(context);
}

export async function changeOffer(
  context: Context,
  id: string,
  { version, ...input }: OfferInput & { version: number },
): Promise<Stores> {
  const { store } = context;
  await store.write(async (tx) => {
    await needMaterial(tx, input.materialId);
    const [stored] = await tx.select().from(offers).where(eq(offers.id, id));
    if (!stored) throw notFound("price");
    if (!mustChange(stored, { ...input, version })) return;
    await tx
      .update(offers)
      .set({ ...input, updatedAt: store.now(), version: version + 1 })
      .where(eq(offers.id, id));
    await record(store, tx, "price changed", id, { from: stored, to: input });
  });
  return readStores(context);
}

const REMOVABLE = { materials, lots, offers } as const;

/** Takes a material, a lot or a price off the list, or puts it back. */
export async function setStoreRemoved(
  context: Context,
  what: keyof typeof REMOVABLE,
  id: string,
  removed: boolean,
): Promise<Stores> {
  const { store } = context;
  const table = REMOVABLE[what];
  await store.write(async (tx) => {
    const [changed] = await tx
      .update(table)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(table.id, id))
      .returning({ id: table.id });
    if (!changed) throw notFound("entry");
    await record(store, tx, removed ? "taken off the stores" : "put back into the stores", id, { what });
  });
  return readStores(context);
}

async function needMaterial(tx: Transaction, id: string): Promise<typeof materials.$inferSelect> {
  const [found] = await tx.select().from(materials).where(eq(materials.id, id));
  if (!found) throw notFound("material");
  return found;
}

export async function listUses({ store: { db } }: Context, serviceId: string): Promise<Use[]> {
  const rows = await db
    .select({ use: lotUses, name: materials.name, kind: materials.kind })
    .from(lotUses)
    .innerJoin(lots, eq(lotUses.lotId, lots.id))
    .innerJoin(materials, eq(lots.materialId, materials.id))
    .where(and(eq(lotUses.serviceId, serviceId), isNull(lotUses.deletedAt)))
    .orderBy(asc(lotUses.at));
  return rows.map(({ use: { deletedAt: _d, ...use }, name, kind }) => ({
    ...use,
    materialName: name,
    unit: STOCK_UNIT[kind],
  }));
}

const usedOf = sql`coalesce((SELECT sum(u.amount) FROM lot_uses AS u WHERE u.lot_id = "lots"."id" AND u.deleted_at IS NULL), 0)`;

/** Takes what lots hold now for what is true: what all their uses were taken from follows from it. */
export async function refill(tx: Transaction, ids: readonly string[]): Promise<void> {
  await tx
    .update(lots)
    .set({ beforeUses: sql`${lots.amount} + ${usedOf}` })
    .where(or(isNull(lots.beforeUses), inArray(lots.id, [...ids])));
}

/** Amounts are rounded to a millionth when something is taken. */
const ROUNDED = 1e-4;

/** Lots that do not hold what was put in without what was taken. */
export async function wrongLots(
  db: Reader,
): Promise<Array<{ id: string; label: string; amount: number; shouldBe: number }>> {
  return db
    .select({
      id: lots.id,
      label: lots.label,
      amount: lots.amount,
      shouldBe: sql<number>`${lots.beforeUses} - ${usedOf}`,
    })
    .from(lots)
    .where(sql`abs(${lots.beforeUses} - ${usedOf} - ${lots.amount}) > ${ROUNDED}`)
    .orderBy(asc(lots.id));
}

/** Sets them right. */
export async function mendLots({ store }: Context): Promise<void> {
  await store.write(async (tx) => {
    const wrong = await wrongLots(tx);
    for (const { id, shouldBe } of wrong)
      await tx
        .update(lots)
        .set({ amount: Math.max(0, shouldBe), updatedAt: store.now() })
        .where(eq(lots.id, id));
    // More was taken than was ever put in: nothing is left, and that is counted from now on.
    await refill(
      tx,
      wrong.map(({ id }) => id),
    );
    await record(store, tx, "stock mended", "workshop", wrong);
  });
}

/**
 * Takes an amount out of a lot, within the caller's transaction.
 * @throws Problem `not-enough`, `needs-accept` where the material is dangerous and nobody accepted that
 */
export async function takeFromLot(
  context: Context,
  tx: Transaction,
  serviceId: string,
  input: UseInput,
  bookingId: string | null = null,
): Promise<string> {
  const { store } = context;
  const [service] = await tx.select({ id: services.id }).from(services).where(eq(services.id, serviceId));
  if (!service) throw notFound("service");
  const [lot] = await tx
    .select()
    .from(lots)
    .where(and(eq(lots.id, input.lotId), isNull(lots.deletedAt)));
  if (!lot) throw notFound("lot");
  const material = await needMaterial(tx, lot.materialId);
  if ((material.attacksAluminium || material.conductsElectricity) && !input.accepted)
    throw new Problem({
      code: "needs-accept",
      what: [
        material.attacksAluminium ? `${material.name} destroys aluminium.` : "",
        material.conductsElectricity ? `${material.name} conducts electricity.` : "",
      ]
        .filter(Boolean)
        .join(" "),
      remedy: "Check that the plate is not aluminium and the small parts are masked, then accept it.",
    });
  await needEnough(tx, lot, input.amount);
  const now = store.now();
  await tx
    .update(lots)
    .set({
      amount: rounded(lot.amount - input.amount),
      openedOn: lot.openedOn ?? dayOf(now),
      version: lot.version + 1,
      updatedAt: now,
    })
    .where(eq(lots.id, lot.id));
  const id = store.newId();
  await tx.insert(lotUses).values({ ...input, id, serviceId, bookingId, at: now, deletedAt: null });
  await record(store, tx, "used from stock", serviceId, { ...input, material: material.name });
  return id;
}

const rounded = (amount: number): number => Math.round(amount * 1e6) / 1e6;

async function needEnough(tx: Transaction, lot: typeof lots.$inferSelect, amount: number): Promise<void> {
  if (lot.amount >= amount - 1e-9) return;
  const { name, kind } = await needMaterial(tx, lot.materialId);
  throw new Problem({
    code: "not-enough",
    what: `Only ${lot.amount} ${STOCK_UNIT[kind]} of ${name} is left in this lot.`,
    remedy: "Take less, choose another lot, or correct the amount under Stores.",
  });
}

export async function addUse(context: Context, serviceId: string, input: UseInput): Promise<Use[]> {
  await context.store.write((tx) => takeFromLot(context, tx, serviceId, input));
  return listUses(context, serviceId);
}

/** Gives a use back to its lot, or takes it out again; done twice it changes nothing. @returns the service it was for */
export async function setUseRemoved(context: Context, id: string, removed: boolean): Promise<string> {
  const { store } = context;
  return store.write(async (tx) => {
    const [use] = await tx.select().from(lotUses).where(eq(lotUses.id, id));
    if (!use) throw notFound("use");
    if ((use.deletedAt !== null) === removed) return use.serviceId;
    if (use.bookingId)
      throw new Problem({
        code: "booked",
        what: "This was taken by the booking of a cut sheet.",
        remedy: "Take the booking back under Pads: its left-overs go with it.",
      });
    const [lot] = await tx.select().from(lots).where(eq(lots.id, use.lotId));
    if (!lot) throw notFound("lot");
    if (!removed) await needEnough(tx, lot, use.amount);
    await tx
      .update(lots)
      .set({ amount: rounded(lot.amount + (removed ? use.amount : -use.amount)), version: lot.version + 1 })
      .where(eq(lots.id, lot.id));
    await tx
      .update(lotUses)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(lotUses.id, id));
    await record(store, tx, removed ? "use taken back" : "use put back", use.serviceId, { id });
    return use.serviceId;
  });
}
