import { and, desc, eq, inArray, isNotNull, isNull, lte, ne, sql } from "drizzle-orm";
import type { HandStation, RunDiagnosis } from "#contract";
import type { History, Symptoms } from "#core/diagnose/index.ts";
import { ENDS, openedOf } from "#core/handwork/index.ts";
import { diagnoseAgainst, type HealthySet } from "#core/service/index.ts";
import { dayOf } from "../db/days.ts";
import { blobs, cards, runs, services, stepMarks, workNotes } from "../db/schema.ts";
import { type Context, nextTurn, notFound } from "./context.ts";
import { marksOf } from "./steps.ts";

/** The newest so many runs of a board model tell what is healthy; more would cost time and say the same. */
const MOST_HEALTHY = 80;
/** The newest so many notes of a card tell what was done to it last. */
const MOST_NOTES = 200;
const DAY_MS = 86_400_000;

/** Symptoms of a run; worked out from its kept log when the run is older than they are. */
export async function symptomsFor(context: Context, id: string): Promise<Symptoms> {
  const { store, pool } = context;
  const [run] = await store.db.select().from(runs).where(eq(runs.id, id));
  if (!run) throw notFound("run");
  if (run.symptoms) return run.symptoms;
  const [log] = await store.db.select({ bytes: blobs.bytes }).from(blobs).where(eq(blobs.hash, run.logHash));
  if (!log) throw notFound("log");
  const { symptoms } = await pool.run({
    source: { gzip: log.bytes },
    mapping: run.mapping,
    intervalS: run.intervalS ?? undefined,
    options: {
      ambientC: run.ambientC ?? undefined,
      ambientU95K: run.ambientU95K ?? undefined,
      windowS: run.window ?? undefined,
    },
  });
  await store.write((tx) => tx.update(runs).set({ symptoms }).where(eq(runs.id, id)));
  return symptoms;
}

/** Runs after a service on other cards of the same board model: what healthy ones show here. */
export async function healthyOf({ store: { db } }: Context, serviceId: string): Promise<HealthySet> {
  const [held] = await db
    .select({ boardModelId: cards.boardModelId, cardId: cards.id })
    .from(services)
    .innerJoin(cards, eq(services.cardId, cards.id))
    .where(eq(services.id, serviceId));
  if (!held?.boardModelId) return { symptoms: [], cards: 0 };
  const found = await db
    .select({ symptoms: runs.symptoms, cardId: cards.id })
    .from(runs)
    .innerJoin(services, eq(runs.serviceId, services.id))
    .innerJoin(cards, eq(services.cardId, cards.id))
    .where(
      and(
        eq(cards.boardModelId, held.boardModelId),
        ne(cards.id, held.cardId),
        eq(runs.side, "after"),
        isNull(runs.deletedAt),
        isNull(cards.deletedAt),
        isNotNull(runs.symptoms),
      ),
    )
    .orderBy(desc(runs.createdAt))
    .limit(MOST_HEALTHY);
  return {
    symptoms: found.flatMap(({ symptoms }) => (symptoms ? [symptoms] : [])),
    cards: new Set(found.map((one) => one.cardId)).size,
  };
}

/** What notes and the card's own page tell of what was done to it before a run. */
export async function historyOf({ store: { db } }: Context, cardId: string, at: string): Promise<History | undefined> {
  const [card] = await db
    .select({ ageYears: cards.ageYears, useKind: cards.useKind })
    .from(cards)
    .where(eq(cards.id, cardId));
  if (!card) return undefined;
  const notes = await db
    .select({ doneOn: workNotes.doneOn, work: workNotes.work })
    .from(workNotes)
    .innerJoin(services, eq(workNotes.serviceId, services.id))
    .where(and(eq(services.cardId, cardId), isNull(workNotes.deletedAt), lte(workNotes.doneOn, dayOf(at))))
    .orderBy(desc(workNotes.doneOn))
    .limit(MOST_NOTES);
  const days = (...kinds: ReadonlyArray<(typeof notes)[number]["work"][number]>): number | null => {
    const last = notes.find((note) => note.work.some((work) => kinds.includes(work)));
    return last ? Math.max(0, (Date.parse(at) - Date.parse(last.doneOn)) / DAY_MS) : null;
  };
  const marked = await db
    .select({ station: stepMarks.station, at: sql<string>`max(${stepMarks.at})` })
    .from(stepMarks)
    .innerJoin(services, eq(stepMarks.serviceId, services.id))
    .where(
      and(
        eq(services.cardId, cardId),
        eq(stepMarks.what, "done"),
        inArray(stepMarks.stepId, ENDS),
        lte(stepMarks.at, at),
      ),
    )
    .groupBy(stepMarks.station);
  /** By steps or by a note, whatever is newer. */
  const newest = (station: HandStation, noted: number | null): number | null => {
    const done = marked.find((one) => one.station === station);
    const stepped = done ? Math.max(0, (Date.parse(at) - Date.parse(done.at)) / DAY_MS) : null;
    return stepped === null ? noted : noted === null ? stepped : Math.min(stepped, noted);
  };
  return {
    ...card,
    repastedDays: newest("compound", days("repasted")),
    padsDays: days("pads replaced", "putty"),
    cleanedDays: newest("clean", days("cleaned")),
    fansDays: days("fans oiled", "fan replaced"),
  };
}

export async function diagnoseRun(context: Context, id: string): Promise<RunDiagnosis> {
  const [run] = await context.store.db
    .select({
      serviceId: runs.serviceId,
      side: runs.side,
      analysis: runs.analysis,
      createdAt: runs.createdAt,
      cardId: services.cardId,
    })
    .from(runs)
    .innerJoin(services, eq(runs.serviceId, services.id))
    .where(eq(runs.id, id));
  if (!run) throw notFound("run");
  const symptoms = await symptomsFor(context, id);
  await nextTurn();
  const healthy = await healthyOf(context, run.serviceId);
  await nextTurn();
  // What was seen inside is how the card was before the work.
  const opened = run.side === "before" ? openedOf(await marksOf(context.store.db, run.serviceId, "strip")) : undefined;
  const {
    healthy: expected,
    findings,
    known,
    minutesNeeded,
    notJudged,
    limits,
  } = diagnoseAgainst(symptoms, healthy, run.analysis, await historyOf(context, run.cardId, run.createdAt), opened);
  return { findings, known, minutesNeeded, notJudged, limits, source: expected.source, cards: healthy.cards };
}
