import { and, desc, eq, isNull } from "drizzle-orm";
import { type Board, type BoardInput, type Card, type CardInput, USUAL_LIMITS } from "#contract";
import { Problem } from "#core";
import type { Transaction } from "../db/open.ts";
import { boardModels, cards, liveRuns, photos, services } from "../db/schema.ts";
import { type Context, mustChange, notFound, record } from "./context.ts";

export async function readCard({ store: { db } }: Context, id: string): Promise<Card> {
  const [found] = await db
    .select({ card: cards, boardModelName: boardModels.name })
    .from(cards)
    .leftJoin(boardModels, eq(cards.boardModelId, boardModels.id))
    .where(eq(cards.id, id));
  if (!found) throw notFound("card");
  const [service] = await db
    .select({ id: services.id })
    .from(services)
    .where(eq(services.cardId, id))
    .orderBy(desc(services.openedAt));
  const pictures = await db
    .select({
      id: photos.id,
      caption: photos.caption,
      width: photos.width,
      height: photos.height,
      createdAt: photos.createdAt,
    })
    .from(photos)
    .where(and(eq(photos.cardId, id), isNull(photos.deletedAt)))
    .orderBy(photos.createdAt);
  return {
    ...found.card,
    boardModelName: found.boardModelName,
    newBoardModel: "",
    serviceId: service?.id ?? "",
    photos: pictures,
  };
}

/** Takes a card in and opens its service, in one step. */
export async function takeInCard(context: Context, input: CardInput): Promise<Card> {
  const { store } = context;
  const id = await store.write(async (tx) => {
    const made = store.newId();
    const { newBoardModel, ...fields } = input;
    const boardModelId = await boardModelFor(context, tx, input.boardModelId, newBoardModel);
    const now = store.now();
    await tx.insert(cards).values({ ...fields, id: made, boardModelId, createdAt: now, updatedAt: now, version: 1 });
    await tx
      .insert(services)
      .values({ id: store.newId(), cardId: made, openedAt: now, closedAt: null, skips: {}, version: 1 });
    await record(store, tx, "card taken in", made, { maker: input.maker, model: input.model, serial: input.serial });
    return made;
  });
  return readCard(context, id);
}

/** A card that was handed over is back: another service begins. @throws Problem `not-found`, `still-open` */
export async function beginService(context: Context, cardId: string): Promise<Card> {
  const { store } = context;
  await store.write(async (tx) => {
    const [card] = await tx.select({ id: cards.id }).from(cards).where(eq(cards.id, cardId));
    if (!card) throw notFound("card");
    const [last] = await tx
      .select({ closedAt: services.closedAt })
      .from(services)
      .where(eq(services.cardId, cardId))
      .orderBy(desc(services.openedAt));
    if (last && last.closedAt === null)
      throw new Problem({
        code: "still-open",
        what: "The last service of this card is still open.",
        remedy: "Hand it over first, or go on with it.",
      });
    const id = store.newId();
    await tx.insert(services).values({ id, cardId, openedAt: store.now(), closedAt: null, skips: {}, version: 1 });
    await record(store, tx, "card is back", id, { cardId });
  });
  return readCard(context, cardId);
}

export async function changeCard(context: Context, id: string, input: CardInput & { version: number }): Promise<Card> {
  const { store } = context;
  await store.write(async (tx) => {
    const [stored] = await tx.select().from(cards).where(eq(cards.id, id));
    if (!stored) throw notFound("card");
    const { newBoardModel, version, ...typed } = input;
    const boardModelId = await boardModelFor(context, tx, input.boardModelId, newBoardModel);
    const fields = { ...typed, boardModelId };
    if (!mustChange(stored, { ...fields, version })) return;
    await tx
      .update(cards)
      .set({ ...fields, updatedAt: store.now(), version: version + 1 })
      .where(eq(cards.id, id));
    await record(store, tx, "card changed", id, { from: stored, to: fields });
  });
  return readCard(context, id);
}

/** Takes a card off every list, with all that belongs to it, or puts it back. */
export async function setCardRemoved(context: Context, id: string, removed: boolean): Promise<void> {
  const { store } = context;
  await store.write(async (tx) => {
    const [running] = await tx
      .select({ id: liveRuns.id })
      .from(liveRuns)
      .innerJoin(services, eq(liveRuns.serviceId, services.id))
      .where(and(eq(services.cardId, id), eq(liveRuns.status, "running")));
    if (removed && running)
      throw new Problem({
        code: "runs-now",
        what: "This card runs on a test bench.",
        remedy: "Stop its run first; what was measured is kept.",
      });
    const changed = await tx
      .update(cards)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(cards.id, id))
      .returning({ id: cards.id });
    if (!changed[0]) throw notFound("card");
    await record(store, tx, removed ? "card removed" : "card put back", id);
  });
}

async function boardModelFor(
  { store }: Context,
  tx: Transaction,
  id: string | null,
  name: string,
): Promise<string | null> {
  if (id !== null || name === "") return id;
  const [known] = await tx.select({ id: boardModels.id }).from(boardModels).where(eq(boardModels.name, name));
  if (known) return known.id;
  const now = store.now();
  const made = store.newId();
  await tx
    .insert(boardModels)
    .values({ id: made, name, notes: "", limits: USUAL_LIMITS, createdAt: now, updatedAt: now, version: 1 });
  await record(store, tx, "board model added", made, { name });
  return made;
}

export async function listBoards({ store: { db } }: Context): Promise<Board[]> {
  const rows = await db.select().from(boardModels).orderBy(boardModels.name);
  const held = await db.select({ boardModelId: cards.boardModelId }).from(cards).where(isNull(cards.deletedAt));
  return rows.map(({ id, name, notes, limits, version }) => ({
    id,
    name,
    notes,
    limits,
    version,
    cards: held.filter((card) => card.boardModelId === id).length,
  }));
}

export async function changeBoard(
  context: Context,
  id: string,
  input: BoardInput & { version: number },
): Promise<Board[]> {
  const { store } = context;
  await store.write(async (tx) => {
    const [stored] = await tx.select().from(boardModels).where(eq(boardModels.id, id));
    if (!stored) throw notFound("board model");
    if (!mustChange(stored, input)) return;
    const { version, ...fields } = input;
    await tx
      .update(boardModels)
      .set({ ...fields, updatedAt: store.now(), version: version + 1 })
      .where(eq(boardModels.id, id));
    await record(store, tx, "board model changed", id, fields);
  });
  return listBoards(context);
}
