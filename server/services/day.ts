import { and, asc, desc, eq, gt, inArray, isNull, max } from "drizzle-orm";
import {
  type DayCardView,
  type DayNow,
  type DayTerms,
  type DayView,
  type LiveRun,
  MOST_PLANNED,
  NO_TERMS,
  STATIONS,
  type StationId,
} from "#contract";
import { Problem } from "#core";
import { clockId, type Day, type DayCard, type DayTime, STATION_WORK } from "#core/day/index.ts";
import { durationOf } from "#core/durations/index.ts";
import { minutesAhead } from "#core/protocol/index.ts";
import { zoneOf } from "../db/days.ts";
import { cards, dayTerms, liveRuns, lots, offers, serviceSummaries, stepMarks, testBenches } from "../db/schema.ts";
import { hashOf } from "../db/stored.ts";
import type { Planner } from "../planning/planner.ts";
import { type Context, nextTurn, record } from "./context.ts";
import { keepDocument, type MadeFrom, needService } from "./documents.ts";
import { closedTimes } from "./opening.ts";
import { readSettings } from "./settings.ts";

/** Own times are learnt from so many of the last ones: what is read does not grow with history. */
const MOST_TIMES = 200;
/** Hands that marked a step so lately are still on the card. */
const IN_HANDS_MS = 20 * 60_000;
/** A plan of before is made anew after so long, as time went on. */
const STALE_MS = 5 * 60_000;
const MS_A_MIN = 60_000;

/** Live runs under way. */
type Running = () => Promise<LiveRun[]>;

interface Loaded {
  day: Day;
  views: DayCardView[];
}

/** The day as it stands; a plan that is not of it any more is shown while another is made. */
export async function readDay(context: Context, running: Running, planner: Planner): Promise<DayView> {
  const { day, views, stamp } = await heldDay(context, running);
  const key = keyOf(day);
  const isOld = planner.plan !== null && day.nowMs - planner.plan.madeMs > STALE_MS;
  if (key !== planner.key || isOld) planner.ask(key, day);
  const { plan, problem } = planner;
  return {
    stamp: [stamp, plan?.madeMs, problem?.code].join(" "),
    atMs: Date.parse(context.store.now()),
    planning: planner.isPlanning,
    progress: planner.progress,
    plan,
    problem,
    cards: views,
    people: day.people.map(({ name }) => name),
    benches: [...day.benches],
    closed: [...day.closed],
  };
}

/** The same for whoever knows the day of a stamp: nothing that is as it was. */
export async function readDaySince(
  context: Context,
  running: Running,
  planner: Planner,
  known: string | undefined,
): Promise<DayView | DayNow> {
  const day = await readDay(context, running, planner);
  const { stamp, atMs, planning, progress } = day;
  return stamp === known ? { stamp, atMs, planning, progress, unchanged: true } : day;
}

/** Clocks, hands that rest and parts that come: what follows from the time alone is told as late as this. */
const HELD_MS = 15_000;

interface Held extends Loaded {
  stamp: string;
}
interface Holding {
  changes: number;
  zone: string | undefined;
  sinceMs: number;
  held: Promise<Held>;
}
const holdings = new WeakMap<Context["store"], Holding>();

/** What was read last, or is being read, until something changes: while a day is planned it is asked for twice a second by every page. */
function heldDay(context: Context, running: Running): Promise<Held> {
  const { store } = context;
  const zone = zoneOf();
  const changes = store.changes();
  const sinceMs = Date.parse(store.now());
  const known = holdings.get(store);
  const ageMs = sinceMs - (known?.sinceMs ?? 0);
  if (known?.changes === changes && known.zone === zone && ageMs >= 0 && ageMs < HELD_MS) return known.held;
  const held = loadDay(context, running).then((loaded) => ({
    ...loaded,
    stamp: hashOf(Buffer.from(JSON.stringify([loaded.views, keyOf(loaded.day)]))),
  }));
  const holding = { changes, zone, sinceMs, held };
  holdings.set(store, holding);
  held.catch(() => {
    if (holdings.get(store) === holding) holdings.delete(store);
  });
  return held;
}

const minute = (ms: number | null): number | null => (ms === null ? null : Math.round(ms / MS_A_MIN));

/** All that a plan follows from but the time itself. */
function keyOf({ cards: open, people, benches, closed, times }: Day): string {
  return JSON.stringify([
    open.map(({ running, ...card }) => ({
      ...card,
      clocks: card.clocks.map(({ id, untilMs }) => [id, minute(untilMs)]),
      running: running && running.benchId,
    })),
    people,
    benches,
    closed.slice(1, 8),
    Object.entries(times).map(([id, { medianMin }]) => [id, Math.round(medianMin)]),
  ]);
}

async function loadDay(context: Context, underWay: Running): Promise<Loaded> {
  const { store } = context;
  const { db } = store;
  const nowMs = Date.parse(store.now());
  const settings = await readSettings(store);
  const rows = await db
    .select({
      serviceId: serviceSummaries.serviceId,
      cardId: cards.id,
      maker: cards.maker,
      model: cards.model,
      serial: cards.serial,
      next: serviceSummaries.next,
      station: serviceSummaries.station,
      ahead: serviceSummaries.ahead,
      clocks: serviceSummaries.clocks,
      terms: dayTerms,
    })
    .from(serviceSummaries)
    .innerJoin(cards, eq(cards.id, serviceSummaries.cardId))
    .leftJoin(dayTerms, eq(dayTerms.serviceId, serviceSummaries.serviceId))
    .where(and(eq(serviceSummaries.closed, false), isNull(cards.deletedAt)))
    .orderBy(desc(serviceSummaries.updatedAt), asc(serviceSummaries.serviceId))
    .limit(MOST_PLANNED);
  await nextTurn();
  const ids = rows.map(({ serviceId }) => serviceId);
  const touched = await db
    .select({ serviceId: stepMarks.serviceId, station: stepMarks.station, at: max(stepMarks.at) })
    .from(stepMarks)
    .where(and(inArray(stepMarks.serviceId, ids), gt(stepMarks.at, new Date(nowMs - IN_HANDS_MS).toISOString())))
    .groupBy(stepMarks.serviceId, stepMarks.station);
  const running = new Map((await underWay()).map((live) => [live.serviceId, live]));
  const known = await db
    .select({ id: testBenches.id, name: testBenches.name, speed: testBenches.speed, deletedAt: testBenches.deletedAt })
    .from(testBenches)
    .orderBy(asc(testBenches.createdAt));
  const inUse = new Set([...running.values()].map(({ benchId }) => benchId));
  const open = known.filter(({ id, deletedAt }) => deletedAt === null || inUse.has(id));
  const waits = await partsOf(context, ids, nowMs);
  await nextTurn();
  const times = await readTimes({ store });
  await nextTurn();
  const planned = rows.map((row): DayCard => {
    const live = running.get(row.serviceId);
    const speed = known.find(({ id }) => id === live?.benchId)?.speed ?? 1;
    const hands = touched
      .filter(({ serviceId }) => serviceId === row.serviceId)
      .toSorted((a, b) => (b.at ?? "").localeCompare(a.at ?? ""))[0];
    return {
      serviceId: row.serviceId,
      cardId: row.cardId,
      name: `${row.maker} ${row.model}`,
      ahead: row.ahead,
      clocks: row.clocks,
      running: live?.state
        ? { benchId: live.benchId, minutesLeft: minutesAhead(live.protocol, live.state) / speed }
        : null,
      inHands: hands?.station ?? null,
      promisedMs: row.terms?.promisedAt ? Date.parse(row.terms.promisedAt) : null,
      // At noon of the last day there is time left to send it.
      testByMs: row.terms?.returnBy ? Date.parse(`${row.terms.returnBy}T12:00:00Z`) : null,
      weight: row.terms?.weight ?? 1,
      partsMs: waits.get(row.serviceId) ?? null,
      held: Object.fromEntries(Object.entries(row.terms?.held ?? {}).map(([id, at]) => [id, Date.parse(at)])),
    };
  });
  return {
    day: {
      nowMs,
      people: settings.people.length > 0 ? settings.people : [{ name: settings.person || "You", can: null }],
      benches: open.map(({ id, name }) => ({ id, name })),
      closed: closedTimes(settings, nowMs, zoneOf()),
      times,
      cards: planned,
    },
    views: rows.map((row) => ({
      serviceId: row.serviceId,
      cardId: row.cardId,
      name: `${row.maker} ${row.model}`,
      serial: row.serial,
      next: row.next,
      station: row.station,
      ahead: row.ahead,
      clocks: Object.fromEntries(row.clocks.map(({ id, what }) => [clockId(id), what])),
      terms: row.terms ? termsOf(row.terms) : NO_TERMS,
      version: row.terms?.version ?? 0,
      runningId: running.get(row.serviceId)?.id ?? null,
    })),
  };
}

/** Days from ordering to being here, where nobody said (common practice, no source). */
const USUAL_LEAD_DAYS = 3;
const HOUR_MS = 3_600_000;

/** When what a card’s pads wait for is here, from the day it was ordered or else from now; what came in meanwhile no longer counts. */
async function partsOf(
  { store: { db }, stations }: Context,
  ids: readonly string[],
  nowMs: number,
): Promise<Map<string, number>> {
  const wanted = (await Promise.all(stations.flatMap((station) => station.waitsFor?.(db, ids) ?? []))).flat();
  const waits = new Map<string, number>();
  if (wanted.length === 0) return waits;
  const stock = await db
    .select()
    .from(lots)
    .where(and(isNull(lots.deletedAt), gt(lots.amount, 0)));
  const priced = new Map((await db.select().from(offers)).map((offer) => [offer.id, offer]));
  for (const sheet of wanted) {
    const isHere = stock.some(
      (lot) =>
        lot.materialId === sheet.materialId &&
        lot.thicknessMm === sheet.thicknessMm &&
        (lot.widthMm ?? 0) >= sheet.widthMm &&
        (lot.heightMm ?? 0) >= sheet.heightMm &&
        lot.amount >= 1,
    );
    if (isHere) continue;
    const offer = priced.get(sheet.offerId);
    const days = offer?.leadDays ?? USUAL_LEAD_DAYS;
    const ordered = offer?.orderedOn ? Date.parse(`${offer.orderedOn}T12:00:00Z`) : nowMs;
    // What is late is looked for a day on.
    const comesMs = Math.max(ordered + 24 * days * HOUR_MS, offer?.orderedOn ? nowMs + 24 * HOUR_MS : nowMs);
    const hereMs = Math.ceil(comesMs / HOUR_MS) * HOUR_MS;
    waits.set(sheet.serviceId, Math.max(hereMs, waits.get(sheet.serviceId) ?? 0));
  }
  return waits;
}

const termsOf = ({ promisedAt, weight, returnBy, held }: DayTerms): DayTerms => ({
  promisedAt,
  weight,
  returnBy,
  held,
});

/** How long each station takes here, from the last times of this workshop. */
async function readTimes({ store: { db } }: Pick<Context, "store">): Promise<Record<string, DayTime>> {
  const hands = await db
    .select({ handMin: serviceSummaries.handMin, ahead: serviceSummaries.ahead })
    .from(serviceSummaries)
    .orderBy(desc(serviceSummaries.updatedAt))
    .limit(MOST_TIMES);
  const runs = await db
    .select({ side: liveRuns.side, elapsedS: liveRuns.elapsedS })
    .from(liveRuns)
    .where(eq(liveRuns.status, "done"))
    .orderBy(desc(liveRuns.startedAt))
    .limit(MOST_TIMES);
  return Object.fromEntries(
    Object.entries(STATION_WORK).map(([station, work]) => {
      const side = station === "baseline" ? "before" : station === "prove" ? "after" : null;
      const own = side
        ? runs.filter((run) => run.side === side).map(({ elapsedS }) => elapsedS / 60)
        : hands.flatMap(({ handMin, ahead }) => {
            const minutes = handMin[station as StationId];
            return minutes === undefined || ahead.includes(station as StationId) ? [] : [minutes];
          });
      const { medianMin, sdLog } = durationOf(own, work);
      return [station, { medianMin, sdLog }];
    }),
  );
}

/** Keeps what is promised of a card and where its steps are held; the first change is made from version 0. */
export async function changeTerms(
  context: Context,
  serviceId: string,
  { version, changes, ...terms }: DayTerms & MadeFrom,
): Promise<DayTerms & { version: number }> {
  const { store } = context;
  const strange = Object.keys(terms.held).find((id) => !STATIONS.some((station) => station.id === id));
  if (strange !== undefined)
    throw new Problem({
      code: "bad-held",
      what: `“${strange}” is no station that can be held.`,
      remedy: "Hold a station of the card.",
    });
  return store.write(async (tx) => {
    await needService(tx, serviceId);
    const now = store.now();
    const { promisedAt } = terms;
    const of = [dayTerms.serviceId, serviceId] as const;
    const kept = await keepDocument(tx, dayTerms, of, { version, changes }, now, (before) => {
      if (promisedAt !== null && promisedAt !== before?.promisedAt && Date.parse(promisedAt) < Date.parse(now))
        throw new Problem({
          code: "promise-past",
          what: "This promise lies in the past.",
          remedy: "Promise a day to come, or take the promise away.",
        });
      return terms;
    });
    if (promisedAt !== (kept.before?.promisedAt ?? null))
      await record(store, tx, "date promised", serviceId, { promisedAt });
    return { ...terms, version: kept.version };
  });
}
