import { and, eq, isNull, or, sql } from "drizzle-orm";
import type { Mapping, Run, RunInput } from "#contract";
import { type AnalyseOptions, Problem } from "#core";
import { checkIntake } from "#core/compare/index.ts";
import { blobs, headerChoices, runs, services } from "../db/schema.ts";
import type { Ingested } from "../ingest/ingest.ts";
import { ingestTyped } from "../ingest/typed.ts";
import { attemptOf } from "./attempts.ts";
import { type Context, mustChange, needVersion, notFound, record } from "./context.ts";

type Row = typeof runs.$inferSelect;

/** The mapping remembered for a header: its names in order. */
const headerKey = (headers: readonly string[]): string => headers.join("\u001f");

const optionsOf = (input: RunInput): AnalyseOptions => ({
  ambientC: input.ambientC ?? undefined,
  ambientU95K: input.ambientU95K ?? undefined,
  windowS: input.window ?? undefined,
  load: input.load ?? undefined,
  ambientEndC: input.ambientEndC ?? undefined,
});

export function toRun(row: Row, cardId: string): Run {
  const {
    logHash: _log,
    samplesHash: _samples,
    symptoms: _symptoms,
    deletedAt: _deleted,
    updatedAt: _updated,
    ...rest
  } = row;
  return { ...rest, cardId, window: row.window ?? null };
}

/** Of a run that was typed from paper. */
const TYPED_NAME = "typed.json";

/** Reads a log that was uploaded, or what was typed instead, and keeps original, samples and figures in one step: whole or not at all. */
export async function addRun(
  context: Context,
  serviceId: string,
  file: { path: string; name: string } | undefined,
  input: RunInput,
): Promise<Run> {
  const { store, pool } = context;
  const before = await store.madeBefore<string>();
  if (before) return readRunRow(context, before);
  const [service] = await store.db.select().from(services).where(eq(services.id, serviceId));
  if (!service) throw notFound("service");
  const read = await (input.typed
    ? ingestTyped(input.typed, optionsOf(input))
    : pool.run({
        source: { path: logOf(file).path },
        mapping: input.mapping,
        intervalS: input.intervalS ?? undefined,
        options: optionsOf(input),
      }));
  checkIntake(read.analysis, input);
  const name = input.typed ? TYPED_NAME : logOf(file).name;
  const now = store.now();
  const id = await store.write(async (tx) => {
    // The same samples are the same run, however their file is written and on whichever side; the same few figures may be read twice.
    const sameSamples = sql`json_extract(${runs.analysis}, '$.fingerprint') = ${read.analysis.fingerprint ?? ""}`;
    const [same] = input.typed
      ? []
      : await tx
          .select({ name: runs.name, fileName: runs.fileName, side: runs.side })
          .from(runs)
          .where(
            and(
              eq(runs.serviceId, serviceId),
              or(eq(runs.logHash, read.logHash), sameSamples),
              input.load === null ? isNull(runs.load) : eq(runs.load, input.load),
              isNull(runs.deletedAt),
            ),
          );
    if (same)
      throw new Problem({
        code: "same-log",
        what: `This log is already here as “${same.name || same.fileName}”${same.side === input.side ? "" : `, a run ${same.side} the work`}.`,
        remedy:
          same.side === input.side
            ? "Drop another log, or open that run."
            : "A run cannot be compared with itself: drop the log of the other side.",
      });
    await keepBlobs(tx, read);
    const made = store.newId();
    await tx.insert(runs).values({
      ...rowFields(input, read),
      attempt: await attemptOf(context, tx, serviceId, input),
      id: made,
      serviceId,
      fileName: name,
      fileBytes: read.fileBytes,
      deletedAt: null,
      createdAt: now,
      updatedAt: now,
      version: 1,
    });
    if (!input.typed) await rememberChoice(tx, read.mapping, now);
    await record(store, tx, "run added", serviceId, { id: made, side: input.side, file: name });
    return made;
  });
  return readRunRow(context, id);
}

function logOf(file: { path: string; name: string } | undefined): { path: string; name: string } {
  if (file) return file;
  throw new Problem({
    code: "no-log",
    what: "There is neither a log nor a figure that was typed.",
    remedy: "Drop a log file, or type what was read.",
  });
}

type Tx = Parameters<Parameters<Context["store"]["write"]>[0]>[0];

async function keepBlobs(tx: Tx, read: Ingested): Promise<void> {
  await tx
    .insert(blobs)
    .values({ hash: read.logHash, kind: "log", bytes: Buffer.from(read.logGzip) })
    .onConflictDoNothing();
  await tx
    .insert(blobs)
    .values({ hash: read.samplesHash, kind: "samples", bytes: Buffer.from(read.samplesGzip) })
    .onConflictDoNothing();
}

async function rememberChoice(tx: Tx, mapping: Mapping, now: string): Promise<void> {
  const key = headerKey(mapping.map(({ header }) => header));
  await tx
    .insert(headerChoices)
    .values({ headerKey: key, mapping, updatedAt: now })
    .onConflictDoUpdate({ target: headerChoices.headerKey, set: { mapping, updatedAt: now } });
}

function rowFields(input: RunInput, read: Ingested) {
  return {
    ...input,
    mapping: read.mapping,
    logHash: read.logHash,
    samplesHash: read.samplesHash,
    analysis: read.analysis,
    symptoms: read.symptoms,
  };
}

/** Changes conditions, roles, room air or window of a run; its figures are computed anew from the kept log. */
export async function changeRun(context: Context, id: string, input: RunInput & { version: number }): Promise<Run> {
  const { store } = context;
  const [stored] = await store.db
    .select()
    .from(runs)
    .where(and(eq(runs.id, id), isNull(runs.deletedAt)));
  if (!stored) throw notFound("run");
  if (!mustChange(stored, input)) return readRunRow(context, id);
  if (input.typed && !stored.typed)
    throw new Problem({
      code: "has-a-log",
      what: "This run has a log: its figures can't be typed.",
      remedy: "Change its roles or its window, or add another run.",
    });
  const typed = input.typed ?? stored.typed;
  const read = await (typed ? ingestTyped(typed, optionsOf(input)) : ingestKept(context, stored, input));
  checkIntake(read.analysis, input);
  await store.write(async (tx) => {
    const [now] = await tx.select({ version: runs.version }).from(runs).where(eq(runs.id, id));
    needVersion(now?.version ?? 0, input.version);
    await keepBlobs(tx, read);
    const { version, ...fields } = input;
    await tx
      .update(runs)
      .set({
        ...rowFields(fields, read),
        attempt: fields.attempt ?? stored.attempt,
        typed,
        updatedAt: store.now(),
        version: version + 1,
      })
      .where(eq(runs.id, id));
    if (!typed) await rememberChoice(tx, read.mapping, store.now());
    await record(store, tx, "run changed", stored.serviceId, { id });
  });
  return readRunRow(context, id);
}

/** Reads a run's own log anew. */
async function ingestKept({ store, pool }: Context, { logHash }: Row, input: RunInput): Promise<Ingested> {
  const [log] = await store.db.select({ bytes: blobs.bytes }).from(blobs).where(eq(blobs.hash, logHash));
  if (!log) throw notFound("log");
  return pool.run({
    source: { gzip: log.bytes },
    mapping: input.mapping,
    intervalS: input.intervalS ?? undefined,
    options: optionsOf(input),
  });
}

/** @returns the service it stands in */
export async function setRunRemoved(context: Context, id: string, removed: boolean): Promise<string> {
  const { store } = context;
  return store.write(async (tx) => {
    const changed = await tx
      .update(runs)
      .set({ deletedAt: removed ? store.now() : null })
      .where(eq(runs.id, id))
      .returning({ serviceId: runs.serviceId });
    if (!changed[0]) throw notFound("run");
    await record(store, tx, removed ? "run removed" : "run put back", changed[0].serviceId, { id });
    return changed[0].serviceId;
  });
}

export async function readRunRow({ store: { db } }: Context, id: string): Promise<Run> {
  const [found] = await db
    .select({ run: runs, cardId: services.cardId })
    .from(runs)
    .innerJoin(services, eq(runs.serviceId, services.id))
    .where(and(eq(runs.id, id), isNull(runs.deletedAt)));
  if (!found) throw notFound("run");
  return toRun(found.run, found.cardId);
}

/** Samples for display, as they lie in the database: gzip. */
export async function readSamples({ store: { db } }: Context, id: string): Promise<Uint8Array> {
  const [found] = await db
    .select({ bytes: blobs.bytes })
    .from(runs)
    .innerJoin(blobs, eq(runs.samplesHash, blobs.hash))
    .where(eq(runs.id, id));
  if (!found) throw notFound("run");
  return found.bytes;
}

export async function readOriginal(
  { store: { db } }: Context,
  id: string,
): Promise<{ name: string; gzip: Uint8Array }> {
  const [found] = await db
    .select({ name: runs.fileName, bytes: blobs.bytes })
    .from(runs)
    .innerJoin(blobs, eq(runs.logHash, blobs.hash))
    .where(eq(runs.id, id));
  if (!found) throw notFound("run");
  return { name: found.name, gzip: found.bytes };
}

export async function findChoice({ store: { db } }: Context, headers: readonly string[]): Promise<Mapping | null> {
  const [found] = await db
    .select()
    .from(headerChoices)
    .where(eq(headerChoices.headerKey, headerKey(headers)));
  return found?.mapping ?? null;
}
