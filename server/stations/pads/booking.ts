import { and, eq, isNull } from "drizzle-orm";
import type { BookInput, CutSheetInput, PadJob } from "#contract";
import { Problem } from "#core";
import { dayOf } from "../../db/days.ts";
import type { Transaction } from "../../db/open.ts";
import { cards, lots, lotUses, services } from "../../db/schema.ts";
import { type Context, needVersion, notFound } from "../../services/context.ts";
import { notePads, unnotePads } from "../../services/notes.ts";
import { takeFromLot } from "../../services/stores.ts";
import { keepPlan, readPads } from "./pads.ts";
import { padPlans } from "./tables.ts";

/** Such as 28 Nov 2026. */
const dayInWords = (day: string): string =>
  new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeZone: "UTC" }).format(new Date(day));

/** Smaller left-overs are waste, mm. */
const USEFUL_MM = 12;

/** Books a cut sheet: out of its lot, its useful left-overs into the stock; or takes all that back. */
export async function bookSheet(
  context: Context,
  serviceId: string,
  { sheet: index, booked, version }: BookInput,
): Promise<PadJob> {
  const { store } = context;
  await store.write(async (tx) => {
    const [stored] = await tx.select().from(padPlans).where(eq(padPlans.serviceId, serviceId));
    const cutting = stored?.plan.cutting;
    const sheet = cutting?.sheets[index];
    if (!stored || !cutting || !sheet) throw notFound("sheet");
    if (sheet.booked === booked) return;
    needVersion(stored.version, version);
    // Plans from before bookings had ids of their own: theirs follows from the place in the plan.
    const bookingId = booked ? store.newId() : (sheet.bookingId ?? `${serviceId}:${index}`);
    if (booked) await bookOne(context, tx, serviceId, index, { ...sheet, bookingId });
    else await unbookOne(context, tx, serviceId, bookingId);
    const sheets = cutting.sheets.map((one, at) =>
      at === index ? { ...one, booked, bookingId: booked ? bookingId : null } : one,
    );
    if (booked) await notePads(context, tx, serviceId);
    else if (!sheets.some((one) => one.booked)) await unnotePads(context, tx, serviceId);
    await keepPlan(context, tx, serviceId, { ...stored.plan, cutting: { ...cutting, sheets } }, stored.version);
  });
  return readPads(context, serviceId);
}

async function bookOne(
  context: Context,
  tx: Transaction,
  serviceId: string,
  index: number,
  sheet: CutSheetInput & { bookingId: string },
): Promise<void> {
  const { store } = context;
  const { bookingId } = sheet;
  if (sheet.from === "lot")
    await takeFromLot(
      context,
      tx,
      serviceId,
      { lotId: sheet.sourceId, amount: 1, what: `Pads cut, sheet ${index + 1}`, accepted: true },
      bookingId,
    );
  const now = store.now();
  const [card] = await tx
    .select({ maker: cards.maker, model: cards.model })
    .from(services)
    .innerJoin(cards, eq(services.cardId, cards.id))
    .where(eq(services.id, serviceId));
  const label = `Left over from ${card?.maker} ${card?.model}, cut ${dayInWords(dayOf(now))}`.slice(0, 120);
  for (const { widthMm, heightMm } of sheet.leftOvers.filter((one) => Math.min(one.widthMm, one.heightMm) >= USEFUL_MM))
    await tx.insert(lots).values({
      id: store.newId(),
      materialId: sheet.materialId,
      label,
      thicknessMm: sheet.thicknessMm,
      widthMm,
      heightMm,
      amount: 1,
      beforeUses: 1,
      price: 0,
      openedOn: dayOf(now),
      useBefore: null,
      leftOverOf: serviceId,
      bookingId,
      deletedAt: null,
      createdAt: now,
      updatedAt: now,
      version: 1,
    });
}

/** What the booking took goes back to its lot, what it left over out of the stock, whatever they are called by now. */
async function unbookOne({ store }: Context, tx: Transaction, serviceId: string, bookingId: string): Promise<void> {
  const leftOvers = and(eq(lots.bookingId, bookingId), eq(lots.leftOverOf, serviceId), isNull(lots.deletedAt));
  const made = await tx.select().from(lots).where(leftOvers);
  if (made.some((lot) => lot.amount < 1))
    throw new Problem({
      code: "already-used",
      what: "A left-over of this sheet has been used since.",
      remedy: "Take that use back first.",
    });
  await tx.update(lots).set({ deletedAt: store.now() }).where(leftOvers);
  const [use] = await tx
    .select()
    .from(lotUses)
    .where(and(eq(lotUses.bookingId, bookingId), eq(lotUses.serviceId, serviceId), isNull(lotUses.deletedAt)));
  if (!use) return;
  const [lot] = await tx.select().from(lots).where(eq(lots.id, use.lotId));
  if (!lot) throw notFound("lot");
  await tx.update(lotUses).set({ deletedAt: store.now() }).where(eq(lotUses.id, use.id));
  await tx
    .update(lots)
    .set({ amount: lot.amount + use.amount, version: lot.version + 1 })
    .where(eq(lots.id, lot.id));
}
