import { and, asc, count, eq, max } from "drizzle-orm";
import { type HandStation, MOST_MARKS, type StepMarkInput, type StepsView } from "#contract";
import { Problem } from "#core";
import type { Clock, HandsFacts } from "#core/service/index.ts";
import type { Reader } from "../db/open.ts";
import { services, stepMarks } from "../db/schema.ts";
import { type Context, notFound, record } from "./context.ts";
import { needOpenable } from "./openable.ts";

/** Stations at which hands are on the card: not before it has run. */
const TOUCHING: ReadonlySet<HandStation> = new Set(["strip", "clean", "compound", "fans"]);
/** Rows of one insert: SQLite takes so many values at once. */
const ROWS_AT_ONCE = 500;

export async function readSteps({ store: { db } }: Pick<Context, "store">, serviceId: string): Promise<StepsView> {
  const [service] = await db.select({ id: services.id }).from(services).where(eq(services.id, serviceId));
  if (!service) throw notFound("service");
  return { serviceId, marks: await marksOf(db, serviceId) };
}

/** Marks of a service, of one station where it is named, in the order in which they came in. */
export async function marksOf(db: Reader, serviceId: string, station?: HandStation): Promise<StepMarkInput[]> {
  const rows = await db
    .select()
    .from(stepMarks)
    .where(and(eq(stepMarks.serviceId, serviceId), station && eq(stepMarks.station, station)))
    .orderBy(asc(stepMarks.seq));
  return rows.map(({ seq: _s, serviceId: _i, ...mark }) => mark);
}

/** Keeps marks behind those that are there; one that came before is not added again. */
export async function addSteps(
  context: Context,
  serviceId: string,
  marks: readonly StepMarkInput[],
): Promise<StepsView> {
  const { store } = context;
  await store.write(async (tx) => {
    const [service] = await tx.select().from(services).where(eq(services.id, serviceId));
    if (!service) throw notFound("service");
    if (marks.some(({ station }) => TOUCHING.has(station))) await needOpenable(tx, service);
    const [held] = await tx
      .select({ last: max(stepMarks.seq), count: count() })
      .from(stepMarks)
      .where(eq(stepMarks.serviceId, serviceId));
    if ((held?.count ?? 0) + marks.length > MOST_MARKS)
      throw new Problem({
        code: "too-many-marks",
        what: `A service keeps at most ${MOST_MARKS} marks of its steps.`,
        remedy: "Open another service for this card.",
      });
    if (!held?.last) await record(store, tx, "steps begun", serviceId);
    const first = (held?.last ?? 0) + 1;
    const rows = marks.map((mark, index) => ({ ...mark, serviceId, seq: first + index }));
    for (let from = 0; from < rows.length; from += ROWS_AT_ONCE)
      await tx
        .insert(stepMarks)
        .values(rows.slice(from, from + ROWS_AT_ONCE))
        .onConflictDoNothing();
  });
  return readSteps(context, serviceId);
}

/** What the rule of a station between opening and closing reads: marks of it, and whether the card was opened by steps. */
export async function loadHands(
  db: Reader,
  serviceId: string,
  station: HandStation,
  progress: (
    marks: readonly StepMarkInput[],
    attempt: number,
  ) => Omit<HandsFacts, "opened" | "clocks"> & { clocks?: readonly Clock[] },
): Promise<HandsFacts> {
  const attempt = await attemptOf(db, serviceId);
  const strip = await marksOf(db, serviceId, "strip");
  const found = progress(await marksOf(db, serviceId, station), attempt);
  return { clocks: [], ...found, opened: strip.some((mark) => mark.attempt === attempt) };
}

/** The attempt that is being made, from 1. */
export async function attemptOf(db: Reader, serviceId: string): Promise<number> {
  const [service] = await db.select({ attempts: services.attempts }).from(services).where(eq(services.id, serviceId));
  return (service?.attempts.length ?? 0) + 1;
}
