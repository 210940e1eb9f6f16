import { randomBytes, scryptSync, timingSafeEqual } from "node:crypto";
import { eq, lt } from "drizzle-orm";
import { Problem } from "#core";
import { hashOf } from "../db/open.ts";
import { sessions, settings } from "../db/schema.ts";
import { type Context, record } from "./context.ts";

const DAYS = 14;
const tokenHash = (token: string): string => hashOf(new TextEncoder().encode(token));

interface Stored {
  salt: string;
  hash: string;
}

async function readStored({ store: { db } }: Context): Promise<Stored | undefined> {
  const [found] = await db.select().from(settings).where(eq(settings.key, "passphrase"));
  return found?.value as Stored | undefined;
}

export const hasPassphrase = async (context: Context): Promise<boolean> => (await readStored(context)) !== undefined;

/** Sets the passphrase for listening to the network; every session ends. */
export async function setPassphrase(context: Context, passphrase: string): Promise<void> {
  const { store } = context;
  const salt = randomBytes(16).toString("hex");
  const value: Stored = { salt, hash: scryptSync(passphrase, salt, 32).toString("hex") };
  await store.write(async (tx) => {
    await tx
      .insert(settings)
      .values({ key: "passphrase", value })
      .onConflictDoUpdate({ target: settings.key, set: { value } });
    await tx.delete(sessions);
    await record(store, tx, "passphrase set", "workshop");
  });
}

/** @returns a token for the cookie; @throws Problem `wrong-passphrase` */
export async function signIn(context: Context, passphrase: string): Promise<string> {
  const { store } = context;
  const stored = await readStored(context);
  const given = stored && scryptSync(passphrase, stored.salt, 32);
  if (!stored || !given || !timingSafeEqual(given, Buffer.from(stored.hash, "hex")))
    throw new Problem({ code: "wrong-passphrase", what: "This is not the passphrase.", remedy: "Type it again." });
  const token = randomBytes(32).toString("base64url");
  await store.write(async (tx) => {
    const now = new Date(store.now());
    await tx.delete(sessions).where(lt(sessions.expiresAt, now.toISOString()));
    await tx
      .insert(sessions)
      .values({ tokenHash: tokenHash(token), expiresAt: new Date(now.getTime() + DAYS * 86_400_000).toISOString() });
  });
  return token;
}

export async function isSignedIn({ store }: Context, token: string | undefined): Promise<boolean> {
  if (!token) return false;
  const [found] = await store.db
    .select()
    .from(sessions)
    .where(eq(sessions.tokenHash, tokenHash(token)));
  return found !== undefined && found.expiresAt > store.now();
}
