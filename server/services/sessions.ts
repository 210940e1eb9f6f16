import { randomBytes, scrypt, timingSafeEqual } from "node:crypto";
import { eq, lt, ne } from "drizzle-orm";
import { Problem } from "#core";
import { sessions, settings } from "../db/schema.ts";
import { hashOf } from "../db/stored.ts";
import { type Context, record } from "./context.ts";

const DAYS = 14;
const tokenHash = (token: string): string => hashOf(new TextEncoder().encode(token));

interface Stored {
  salt: string;
  hash: string;
  /** scrypt's N; those from before it was kept were made with 2¹⁴. */
  cost?: number;
}

/**
 * What one try costs whoever guesses: 128 MB and about half a second of one core. N = 2¹⁷, r = 8, p = 1 is the least that the OWASP
 * “Password Storage Cheat Sheet” gives for scrypt (from memory).
 */
const COST = 2 ** 17;
const EARLIER_COST = 2 ** 14;
const BLOCK = 8;
const PASSPHRASE_CHARS = { least: 10, most: 200 };

let underWay: Promise<unknown> = Promise.resolve();

/** In a thread of its own, one at a time: the memory is needed once. */
function stretched(passphrase: string, salt: string, cost: number): Promise<Buffer> {
  const made = underWay.then(
    () =>
      new Promise<Buffer>((resolve, reject) =>
        scrypt(passphrase, salt, 32, { N: cost, r: BLOCK, p: 1, maxmem: 2 * 128 * cost * BLOCK }, (error, key) =>
          error ? reject(error) : resolve(key),
        ),
      ),
  );
  underWay = made.catch(() => undefined);
  return made;
}

async function readStored({ store: { db } }: Pick<Context, "store">): Promise<Stored | undefined> {
  const [found] = await db.select().from(settings).where(eq(settings.key, "passphrase"));
  return found?.value as Stored | undefined;
}

export const hasPassphrase = async (context: Context): Promise<boolean> => (await readStored(context)) !== undefined;

const isRight = async ({ salt, hash, cost = EARLIER_COST }: Stored, given: string): Promise<boolean> =>
  timingSafeEqual(await stretched(given, salt, cost), Buffer.from(hash, "hex"));

/**
 * Sets the passphrase for listening to the network; every session ends but the one it is changed from.
 * @param current the one until now, where there is one; @param token of the session it is changed from
 * @throws Problem `wrong-passphrase` where that is not the one until now
 */
export async function changePassphrase(
  context: Context,
  passphrase: string,
  current: string | undefined,
  token: string | undefined,
): Promise<void> {
  const stored = await readStored(context);
  if (stored && !(await isRight(stored, current ?? "")))
    throw new Problem({
      code: "wrong-passphrase",
      what: "This is not the passphrase until now.",
      remedy: "Type it again. If it is lost, start once with ALGIDUS_PASSPHRASE set to a new one.",
    });
  await setPassphrase(context, passphrase, token);
}

/**
 * The passphrase that the machine's own environment gives. Where it is the one that is set already, every session goes on.
 * @throws Problem `bad-passphrase`
 */
export async function takePassphrase(context: Context, passphrase: string): Promise<void> {
  const { least, most } = PASSPHRASE_CHARS;
  if (passphrase.length < least || passphrase.length > most)
    throw new Problem({
      code: "bad-passphrase",
      what: `A passphrase has ${least} to ${most} characters; this one has ${passphrase.length}.`,
      where: "ALGIDUS_PASSPHRASE",
      remedy: "Choose a longer one, such as four words.",
    });
  const stored = await readStored(context);
  if (!stored || !(await isRight(stored, passphrase))) await setPassphrase(context, passphrase, undefined);
}

async function setPassphrase(context: Context, passphrase: string, token: string | undefined): Promise<void> {
  const { store } = context;
  const salt = randomBytes(16).toString("hex");
  const value: Stored = { salt, hash: (await stretched(passphrase, salt, COST)).toString("hex"), cost: COST };
  await store.write(async (tx) => {
    await tx
      .insert(settings)
      .values({ key: "passphrase", value })
      .onConflictDoUpdate({ target: settings.key, set: { value } });
    await tx.delete(sessions).where(token === undefined ? undefined : ne(sessions.tokenHash, tokenHash(token)));
    await record(store, tx, "passphrase set", "workshop");
  });
}

/** @returns a token for the cookie; @throws Problem `wrong-passphrase` */
export async function signIn(context: Context, passphrase: string): Promise<string> {
  const { store } = context;
  const stored = await readStored(context);
  if (!stored || !(await isRight(stored, passphrase)))
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

/** Ends one session. */
export async function signOut({ store }: Context, token: string): Promise<void> {
  await store.write((tx) => tx.delete(sessions).where(eq(sessions.tokenHash, tokenHash(token))));
}

export async function isSignedIn({ store }: Context, token: string | undefined): Promise<boolean> {
  if (!token) return false;
  const [found] = await store.db
    .select()
    .from(sessions)
    .where(eq(sessions.tokenHash, tokenHash(token)));
  return found !== undefined && found.expiresAt > store.now();
}
