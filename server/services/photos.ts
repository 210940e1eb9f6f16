import { and, eq } from "drizzle-orm";
import sharp from "sharp";
import { Problem } from "#core";
import { hashOf } from "../db/open.ts";
import { blobs, cards, photos } from "../db/schema.ts";
import { type Context, notFound, record } from "./context.ts";

const LONGEST_SIDE = 2000;

/** Keeps a picture upright, at most 2000 pixels long, as JPEG, without its place and camera data. */
export async function addPhoto(context: Context, cardId: string, bytes: Uint8Array, caption: string): Promise<void> {
  const { store } = context;
  const { data, info } = await sharp(bytes, { limitInputPixels: 120_000_000 })
    .rotate()
    .resize({ width: LONGEST_SIDE, height: LONGEST_SIDE, fit: "inside", withoutEnlargement: true })
    .jpeg({ quality: 82 })
    .toBuffer({ resolveWithObject: true })
    .catch(() => {
      throw new Problem({
        code: "not-a-picture",
        what: "This file is not a picture that can be read; the others were kept.",
        remedy: "Choose a JPEG, PNG or WebP picture.",
      });
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
      width: info.width,
      height: info.height,
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
    await tx
      .update(photos)
      .set({ deletedAt: removed ? store.now() : null })
      .where(and(eq(photos.id, id), eq(photos.cardId, cardId)));
    await record(store, tx, removed ? "photo removed" : "photo put back", cardId, { id });
  });
}
