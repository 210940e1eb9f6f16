import { eq } from "drizzle-orm";
import { type Settings, USUAL_SETTINGS, type Week } from "#contract";
import { PACKAGES, type Package } from "#core/boardmap/index.ts";
import type { Reader } from "../db/open.ts";
import { settings } from "../db/schema.ts";
import { type Context, record } from "./context.ts";

export async function readSettings({ db }: { db: Reader }): Promise<Settings> {
  const [found] = await db.select().from(settings).where(eq(settings.key, "workshop"));
  return { ...USUAL_SETTINGS, ...(found?.value as Partial<Settings> | undefined) };
}

/** Changes all but who works here and when. */
export const changeSettings = (context: Context, value: Settings): Promise<Settings> =>
  keepSettings(context, ({ people, opening }) => ({ ...value, people, opening }));

/** Changes who works here and when. */
export const changeWeek = (context: Context, { people, opening }: Week): Promise<Settings> =>
  keepSettings(context, (stored) => ({ ...stored, people, opening }));

async function keepSettings(context: Context, changed: (stored: Settings) => Settings): Promise<Settings> {
  const { store } = context;
  await store.write(async (tx) => {
    const value = changed(await readSettings({ db: tx }));
    await tx
      .insert(settings)
      .values({ key: "workshop", value })
      .onConflictDoUpdate({ target: settings.key, set: { value } });
    await record(store, tx, "settings changed", "workshop", value);
  });
  return readSettings(store);
}

/** The list of packages to stamp: the workshop's own, or the usual one. */
export async function readPackages({ store: { db } }: Context): Promise<readonly Package[]> {
  const [found] = await db.select().from(settings).where(eq(settings.key, "packages"));
  return (found?.value as Package[] | undefined) ?? PACKAGES;
}

export async function changePackages(context: Context, value: Package[]): Promise<readonly Package[]> {
  const { store } = context;
  await store.write(async (tx) => {
    await tx
      .insert(settings)
      .values({ key: "packages", value })
      .onConflictDoUpdate({ target: settings.key, set: { value } });
    await record(store, tx, "packages changed", "workshop", { count: value.length });
  });
  return readPackages(context);
}
