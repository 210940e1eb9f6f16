import { asc, eq, isNull } from "drizzle-orm";
import type { OwnProtocol, ProtocolInput } from "#contract";
import { PROTOCOLS } from "#core";
import { protocols } from "../db/schema.ts";
import { type Context, notFound, record } from "./context.ts";

/** The workshop's own protocols first, then those that come with the application. */
export async function listProtocols({ store: { db } }: Context): Promise<OwnProtocol[]> {
  const ownProtocols = await db
    .select()
    .from(protocols)
    .where(isNull(protocols.deletedAt))
    .orderBy(asc(protocols.createdAt));
  return [
    ...ownProtocols.map(({ id, name, about, steps }) => ({ id, name, about, steps })),
    ...PROTOCOLS.map((protocol) => ({ ...protocol, id: null })),
  ];
}

export async function addProtocol(context: Context, input: ProtocolInput): Promise<OwnProtocol[]> {
  const { store } = context;
  await store.write(async (tx) => {
    const id = store.newId();
    await tx.insert(protocols).values({ ...input, id, deletedAt: null, createdAt: store.now() });
    await record(store, tx, "protocol added", id, { name: input.name });
  });
  return listProtocols(context);
}

export async function setProtocolRemoved(context: Context, id: string, removed: boolean): Promise<OwnProtocol[]> {
  const { store } = context;
  await store.write(async (tx) => {
    const changed = await tx
      .update(protocols)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(protocols.id, id))
      .returning({ id: protocols.id });
    if (!changed[0]) throw notFound("protocol");
    await record(store, tx, removed ? "protocol removed" : "protocol put back", id);
  });
  return listProtocols(context);
}
