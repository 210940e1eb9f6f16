import { eq } from "drizzle-orm";
import type { BoardMapChange, BoardMapView, Underlay } from "#contract";
import { EMPTY_MAP } from "#core/boardmap/index.ts";
import { blobs, boardMaps, boardModels } from "../db/schema.ts";
import { hashOf } from "../db/stored.ts";
import { type Context, notFound, record } from "./context.ts";
import { keepDocument } from "./documents.ts";
import { pictureOf } from "./pictures.ts";

export async function readMap({ store: { db } }: Context, boardModelId: string): Promise<BoardMapView> {
  const [found] = await db
    .select({ board: boardModels, own: boardMaps })
    .from(boardModels)
    .leftJoin(boardMaps, eq(boardMaps.boardModelId, boardModels.id))
    .where(eq(boardModels.id, boardModelId));
  if (!found) throw notFound("board model");
  return {
    boardModelId,
    boardName: found.board.name,
    map: found.own?.map ?? EMPTY_MAP,
    version: found.own?.version ?? 0,
    underlay: found.own?.underlay ?? null,
  };
}

/** Keeps the map; each change names the version it was made from. */
export async function changeMap(
  context: Context,
  boardModelId: string,
  { map, version, changes }: BoardMapChange,
): Promise<BoardMapView> {
  const { store } = context;
  await store.write(async (tx) => {
    const [board] = await tx.select({ id: boardModels.id }).from(boardModels).where(eq(boardModels.id, boardModelId));
    if (!board) throw notFound("board model");
    const of = [boardMaps.boardModelId, boardModelId] as const;
    const { before } = await keepDocument(tx, boardMaps, of, { version, changes }, store.now(), () => ({ map }));
    if (!before) await record(store, tx, "board map begun", boardModelId);
  });
  return readMap(context, boardModelId);
}

const LONGEST_SIDE = 2400;

/** Puts a straightened photo under the map; without bytes the earlier one that `place.hash` names. */
export async function setUnderlay(
  context: Context,
  boardModelId: string,
  bytes: Uint8Array | null,
  { hash: earlier, ...place }: Omit<Underlay, "hash"> & { hash?: string | undefined },
): Promise<BoardMapView> {
  const { store } = context;
  const picture =
    bytes && (await pictureOf(bytes, { longestSide: LONGEST_SIDE, quality: 80, otherwise: "the map is as it was" }));
  const data = picture?.data ?? null;
  const hash = data ? hashOf(data) : (earlier ?? "");
  const [known] = await store.db.select({ hash: blobs.hash }).from(blobs).where(eq(blobs.hash, hash));
  if (!data && !known) throw notFound("photo");
  return keepUnderlay(context, boardModelId, { ...place, hash }, data);
}

/** Takes the photo from under the map; its bytes stay, so that it can be put back. */
export const removeUnderlay = (context: Context, boardModelId: string): Promise<BoardMapView> =>
  keepUnderlay(context, boardModelId, null, null);

async function keepUnderlay(
  context: Context,
  boardModelId: string,
  underlay: Underlay | null,
  data: Buffer | null,
): Promise<BoardMapView> {
  const { store } = context;
  const { map } = await readMap(context, boardModelId);
  await store.write(async (tx) => {
    if (data && underlay)
      await tx.insert(blobs).values({ hash: underlay.hash, kind: "photo", bytes: data }).onConflictDoNothing();
    const now = store.now();
    await tx
      .insert(boardMaps)
      .values({ boardModelId, map, underlay, version: 1, createdAt: now, updatedAt: now })
      .onConflictDoUpdate({ target: boardMaps.boardModelId, set: { underlay, updatedAt: now } });
    await record(store, tx, underlay ? "photo put under the map" : "photo taken from the map", boardModelId);
  });
  return readMap(context, boardModelId);
}

export async function readUnderlay(context: Context, boardModelId: string): Promise<Uint8Array> {
  const { underlay } = await readMap(context, boardModelId);
  const [found] = underlay
    ? await context.store.db.select({ bytes: blobs.bytes }).from(blobs).where(eq(blobs.hash, underlay.hash))
    : [];
  if (!found) throw notFound("photo");
  return found.bytes;
}
