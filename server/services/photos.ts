import { and, eq } from "drizzle-orm";
import { blobs, cards, photos } from "../db/schema.ts";
import { hashOf } from "../db/stored.ts";
import { type Context, notFound, record } from "./context.ts";
import { pictureOf } from "./pictures.ts";

const LONGEST_SIDE = 2000;

/** Keeps a picture upright, at most 2000 pixels long, as JPEG, without its place and camera data. */
export async function addPhoto(context: Context, cardId: string, bytes: Uint8Array, caption: string): Promise<void> {
  const { store } = context;
  const { data, width, height } = await pictureOf(bytes, {
    longestSide: LONGEST_SIDE,
    quality: 82,
    otherwise: "the others were kept",
  });
  const hash = hashOf(data);
  await store.write(async (tx) => {
    const [card] = await tx.select({ id: cards.id }).from(cards).where(eq(cards.id, cardId));
    if (!card) throw notFound("card");
    await tx.insert(blobs).values({ hash, kind: "photo", bytes: data }).onConflictDoNothing();
    const id = store.newId();
    await tx.insert(photos).values({
      id,
      cardId,
      hash,
      width,
      height,
      caption: caption.slice(0, 200),
      createdAt: store.now(),
      deletedAt: null,
    });
    await record(store, tx, "photo added", cardId, { id });
  });
}

export async function readPhoto({ store: { db } }: Context, id: string): Promise<Uint8Array> {
  const [found] = await db
    .select({ bytes: blobs.bytes })
    .from(photos)
    .innerJoin(blobs, eq(photos.hash, blobs.hash))
    .where(eq(photos.id, id));
  if (!found) throw notFound("photo");
  return found.bytes;
}

/** Takes a photo off its card, or puts it back. */
export async function setPhotoRemoved(context: Context, cardId: string, id: string, removed: boolean): Promise<void> {
  const { store } = context;
  await store.write(async (tx) => {
    const [changed] = await tx
      .update(photos)
      .set({ deletedAt: removed ? store.now() : null })
      .where(and(eq(photos.id, id), eq(photos.cardId, cardId)))
      .returning({ id: photos.id });
    if (!changed) throw notFound("photo");
    await record(store, tx, removed ? "photo removed" : "photo put back", cardId, { id });
  });
}
