import { desc, eq, isNotNull } from "drizzle-orm";
import { MOST_REMOVED, type RemovedThing } from "#contract";
import { cards, photos, runs, services, workNotes } from "../db/schema.ts";
import type { Context } from "./context.ts";

const of = (
  kind: RemovedThing["kind"],
  what: string,
  {
    cardId,
    maker,
    model,
    id = cardId,
    at,
  }: { cardId: string; maker: string; model: string; id?: string; at: string | null },
): RemovedThing => ({ kind, id, cardId, card: `${maker} ${model}`, what, at: at ?? "" });

/** What was removed and can be put back, the last first: of each kind as much as is shown at most. */
export async function listRemoved({ store: { db } }: Context): Promise<RemovedThing[]> {
  const card = { cardId: cards.id, maker: cards.maker, model: cards.model };
  const [ofCards, ofRuns, ofNotes, ofPhotos] = await Promise.all([
    db
      .select({ ...card, serial: cards.serial, at: cards.deletedAt })
      .from(cards)
      .where(isNotNull(cards.deletedAt))
      .orderBy(desc(cards.deletedAt))
      .limit(MOST_REMOVED),
    db
      .select({ ...card, id: runs.id, name: runs.name, fileName: runs.fileName, side: runs.side, at: runs.deletedAt })
      .from(runs)
      .innerJoin(services, eq(runs.serviceId, services.id))
      .innerJoin(cards, eq(services.cardId, cards.id))
      .where(isNotNull(runs.deletedAt))
      .orderBy(desc(runs.deletedAt))
      .limit(MOST_REMOVED),
    db
      .select({ ...card, id: workNotes.id, work: workNotes.work, doneOn: workNotes.doneOn, at: workNotes.deletedAt })
      .from(workNotes)
      .innerJoin(services, eq(workNotes.serviceId, services.id))
      .innerJoin(cards, eq(services.cardId, cards.id))
      .where(isNotNull(workNotes.deletedAt))
      .orderBy(desc(workNotes.deletedAt))
      .limit(MOST_REMOVED),
    db
      .select({ ...card, id: photos.id, caption: photos.caption, at: photos.deletedAt })
      .from(photos)
      .innerJoin(cards, eq(photos.cardId, cards.id))
      .where(isNotNull(photos.deletedAt))
      .orderBy(desc(photos.deletedAt))
      .limit(MOST_REMOVED),
  ]);
  return [
    ...ofCards.map((one) => of("card", one.serial, one)),
    ...ofRuns.map((one) => of("run", `${one.name || one.fileName}, ${one.side} the work`, one)),
    ...ofNotes.map((one) => of("note", `${one.work.join(", ")}, ${one.doneOn}`, one)),
    ...ofPhotos.map((one) => of("photo", one.caption, one)),
  ]
    .sort((a, b) => (a.at < b.at ? 1 : -1))
    .slice(0, MOST_REMOVED);
}
