import { addMonths, format } from "date-fns";
import { and, asc, desc, eq, isNotNull, isNull, lte, sql } from "drizzle-orm";
import { type CardEnds, type DueCard, type HistoryLine, type NextServiceInput, type NextView, ranAt } from "#contract";
import { arrheniusFactor, MOST_MONTHS, nextService, type Returned, USUAL_USE, WORN_GAP_K } from "#core/ageing/index.ts";
import { toldByHands } from "#core/handwork/index.ts";
import { leadingPair, leadRun } from "#core/service/index.ts";
import { dayOf } from "../db/days.ts";
import type { Reader, Transaction } from "../db/open.ts";
import { cards, nextServices, serviceSummaries, services, workNotes } from "../db/schema.ts";
import { type Context, notFound, record } from "./context.ts";
import { keepDocument, type MadeFrom } from "./documents.ts";
import type { LoadedFacts } from "./facts.ts";
import { marksOf } from "./steps.ts";

/** A die under load rises so much over idle where no run tells, K. */
const USUAL_RISE_K = 38;
/** Idle stands so much over the room (common practice, no source), K. */
const IDLE_K = 8;
/** The cards that came back last tell how layers wear; of each its services, so many in all. */
const MOST_BACK = 80;
const MOST_RETURNED = 400;
const MOST_DUE = 50;
const MONTH_MS = (365.25 / 12) * 86_400_000;
const NOTHING: NextServiceInput = { use: null, compound: null };

/** How a card came and how it went: the runs it is judged by, else the leading one of either side; of several attempts the last. */
export function endsOf({ runs, pairs }: Pick<LoadedFacts, "runs" | "pairs">): CardEnds {
  const lead = leadingPair(pairs);
  const counted = runs.filter((one) => one.leftOut === "");
  const last = counted.reduce((most, { side, attempt }) => (side === "after" ? Math.max(most, attempt) : most), 1);
  const of = (side: "before" | "after"): CardEnds["before"] => {
    const judgedBy = side === "before" ? lead?.beforeId : lead?.afterId;
    const run =
      runs.find(({ id }) => id === judgedBy) ??
      leadRun(
        counted.filter(({ attempt }) => side === "before" || attempt === last),
        side,
      );
    if (!run) return null;
    const { roles, hotspotGapK, ambient } = run.analysis;
    const rises = (["edge", "hotspot", "memory", "vrm"] as const).flatMap((role) => {
      const riseK = roles[role]?.riseK ?? (ambient && roles[role]?.finalC ? roles[role].finalC - ambient.valueC : null);
      return riseK === null || riseK === undefined ? [] : [[role, riseK] as const];
    });
    return {
      at: ranAt(run.analysis, run.createdAt),
      risesK: Object.fromEntries(rises),
      gap: hotspotGapK ? { meanK: hotspotGapK.mean, u95K: hotspotGapK.u95 } : null,
      thetaKPerW: roles.edge?.thetaKPerW ?? null,
    };
  };
  return { before: of("before"), after: of("after") };
}

/** When this service’s card is due again. @throws Problem `not-found` */
export async function readNext({ store }: Pick<Context, "store">, serviceId: string): Promise<NextView> {
  const { db } = store;
  const [kept] = await db.select().from(nextServices).where(eq(nextServices.serviceId, serviceId));
  return nextOf(db, serviceId, kept?.told ?? NOTHING, kept?.version ?? 0, store.now());
}

async function nextOf(
  db: Reader,
  serviceId: string,
  told: NextServiceInput,
  version: number,
  now: string,
): Promise<NextView> {
  const [held] = await db
    .select({
      closedAt: services.closedAt,
      useKind: cards.useKind,
      ends: serviceSummaries.ends,
      result: serviceSummaries.result,
    })
    .from(services)
    .innerJoin(cards, eq(cards.id, services.cardId))
    .innerJoin(serviceSummaries, eq(serviceSummaries.serviceId, services.id))
    .where(eq(services.id, serviceId));
  if (!held) throw notFound("service");
  const { ends, result, useKind } = held;
  const found = layerOf(result?.told.compoundKind ?? null, result?.told.compound ?? null);
  const compound = told.compound ?? found ?? "paste";
  const use = told.use ?? USUAL_USE[useKind] ?? USUAL_USE.unknown;
  if (!use) throw new RangeError("nextOf: there is no usual use");
  const useSource = told.use ? (told.use.cyclesPerHour === null ? "typed" : "log") : "usual";
  const state = ends.after ?? ends.before;
  const rise = state?.risesK.edge ?? state?.risesK.hotspot;
  const riseK = rise === undefined ? USUAL_RISE_K : Math.max(5, rise - IDLE_K);
  const next = nextService(compound, await returnedOf(db, compound), { kind: useKind, use, source: useSource, riseK });
  const from = new Date(held.closedAt ?? now);
  const month = (months: number): string => format(addMonths(from, Math.round(months)), "yyyy-MM-01");
  const [warm, cool] = [ends.before?.risesK.edge, ends.after?.risesK.edge];
  return {
    told,
    version,
    use,
    useSource,
    compound,
    next,
    foretold: told.compound !== null || found !== null || (await wasRenewed(db, serviceId)),
    dueOn: month(next.months),
    lowOn: month(next.lowMonths),
    highOn: next.highMonths === null ? null : month(next.highMonths),
    reason: reasonOf(compound, next),
    heatFactor: warm !== undefined && cool !== undefined ? arrheniusFactor(warm + ROOM_C, cool + ROOM_C) : null,
  };
}
const ROOM_C = 25;

/** Kinds of work that put a new layer on the die. */
const RENEWS: ReadonlySet<string> = new Set(["repasted", "cooler changed"]);

/** Whether steps or notes tell of a new layer, also where nothing was proved. */
async function wasRenewed(db: Reader, serviceId: string): Promise<boolean> {
  const notes = await db
    .select({ work: workNotes.work })
    .from(workNotes)
    .where(and(eq(workNotes.serviceId, serviceId), isNull(workNotes.deletedAt)));
  const hands = toldByHands(await marksOf(db, serviceId));
  return [...notes.flatMap(({ work }) => work), ...hands.done].some((work) => RENEWS.has(work));
}

function reasonOf(compound: string, { months, cyclesPerMonth, wear }: NextView["next"]): string {
  const life = `${Math.round(wear.lifeCycles / 50) * 50} cycles of 40 K`;
  const shop = wear.cards > 0 ? ` (${wear.cards} cards that came back here count in)` : " (usual figures)";
  if (months >= MOST_MONTHS)
    return `About ${Math.round(cyclesPerMonth)} cycles a month: ${compound} outlasts five years of that; look at it then.`;
  return `Half of all layers of ${compound} last ${life}${shop}; this use makes about ${Math.round(cyclesPerMonth)} a month. Worn out means a hotspot ${WORN_GAP_K} K further over the die.`;
}

const KINDS: ReadonlyArray<readonly [RegExp, NextView["compound"]]> = [
  [/liquid/i, "liquid metal"],
  [/phase|sheet/i, "phase-change"],
  [/putty/i, "putty"],
  [/adhesive|glue/i, "adhesive"],
  [/paste/i, "paste"],
];
/** What kind of layer a name means. */
function layerOf(kind: string | null, name: string | null): NextView["compound"] | null {
  const words = `${kind ?? ""} ${name ?? ""}`;
  return KINDS.find(([pattern]) => pattern.test(words))?.[1] ?? null;
}

/** What cards that came back show of a kind of layer: its gap as it left and as it came, and how much it was used meanwhile. */
async function returnedOf(db: Reader, layer: NextView["compound"]): Promise<Returned[]> {
  const rows = await db
    .select({
      cardId: serviceSummaries.cardId,
      ends: serviceSummaries.ends,
      result: serviceSummaries.result,
      useKind: cards.useKind,
      told: nextServices.told,
    })
    .from(serviceSummaries)
    .innerJoin(cards, eq(cards.id, serviceSummaries.cardId))
    .innerJoin(services, eq(services.id, serviceSummaries.serviceId))
    .leftJoin(nextServices, eq(nextServices.serviceId, serviceSummaries.serviceId))
    .where(
      sql`${serviceSummaries.cardId} in (select ${services.cardId} from ${services} group by ${services.cardId} having count(*) > 1 order by max(${services.openedAt}) desc limit ${MOST_BACK})`,
    )
    .orderBy(asc(serviceSummaries.cardId), asc(services.openedAt))
    .limit(MOST_RETURNED);
  return rows.flatMap((later, at): Returned[] => {
    const earlier = rows[at - 1];
    if (earlier?.cardId !== later.cardId) return [];
    const [was, is] = [earlier.ends.after, later.ends.before];
    if (!was?.gap || !is?.gap) return [];
    const told = earlier.result?.told;
    if ((layerOf(told?.compoundKind ?? null, told?.compound ?? null) ?? "paste") !== layer) return [];
    const use = earlier.told?.use ?? USUAL_USE[earlier.useKind] ?? USUAL_USE.unknown;
    if (!use) return [];
    const months = (Date.parse(is.at) - Date.parse(was.at)) / MONTH_MS;
    const { cyclesPerMonth } = nextService(layer, [], {
      kind: earlier.useKind,
      use,
      source: "usual",
      riseK: Math.max(5, (was.risesK.edge ?? USUAL_RISE_K) - IDLE_K),
    });
    return [
      {
        driftK: is.gap.meanK - was.gap.meanK,
        u95K: Math.hypot(is.gap.u95K, was.gap.u95K),
        cycles: Math.max(0, months) * cyclesPerMonth,
      },
    ];
  });
}

/** Keeps how a card is used, and with it when it is due. */
export async function changeNext(
  { store }: Context,
  serviceId: string,
  { version, changes, ...told }: NextServiceInput & MadeFrom,
): Promise<NextView> {
  return store.write(async (tx) => {
    const now = store.now();
    const of = [nextServices.serviceId, serviceId] as const;
    const kept = await keepDocument(tx, nextServices, of, { version, changes }, now, () => ({ told }));
    const view = await nextOf(tx, serviceId, told, kept.version, now);
    if (!kept.isNew) return view;
    const dueOn = dayKept(view);
    await tx.update(nextServices).set({ dueOn }).where(eq(nextServices.serviceId, serviceId));
    await record(store, tx, "next service", serviceId, { ...told, dueOn });
    return view;
  });
}

/** Nobody is called back for what was not done. */
const dayKept = ({ foretold, dueOn }: NextView): string | null => (foretold ? dueOn : null);

/** As a card is handed over its next service is kept, so that it is found when it is due. */
export async function keepNext(store: Context["store"], tx: Transaction, serviceId: string): Promise<void> {
  const [stored] = await tx.select().from(nextServices).where(eq(nextServices.serviceId, serviceId));
  const now = store.now();
  const view = await nextOf(tx, serviceId, stored?.told ?? NOTHING, stored?.version ?? 0, now);
  if (stored)
    await tx
      .update(nextServices)
      .set({ dueOn: dayKept(view) })
      .where(eq(nextServices.serviceId, serviceId));
  else
    await tx
      .insert(nextServices)
      .values({ serviceId, told: NOTHING, dueOn: dayKept(view), createdAt: now, updatedAt: now, version: 1 });
}

/** Cards that are due: handed over, not come back since, their month begun. */
export async function dueCards({ store }: Pick<Context, "store">, untilDay?: string): Promise<DueCard[]> {
  return store.db
    .select({
      cardId: cards.id,
      name: sql<string>`${cards.maker} || ' ' || ${cards.model}`,
      serial: cards.serial,
      ownerName: cards.ownerName,
      dueOn: sql<string>`${nextServices.dueOn}`,
    })
    .from(nextServices)
    .innerJoin(services, eq(services.id, nextServices.serviceId))
    .innerJoin(cards, eq(cards.id, services.cardId))
    .where(
      and(
        lte(nextServices.dueOn, untilDay ?? dayOf(store.now())),
        isNotNull(services.closedAt),
        isNull(cards.deletedAt),
        sql`not exists (select 1 from services later where later.card_id = ${services.cardId} and later.opened_at > ${services.openedAt})`,
      ),
    )
    .orderBy(asc(nextServices.dueOn), desc(services.openedAt))
    .limit(MOST_DUE);
}

/** All services of a card, the first one first. */
export async function readHistory({ store: { db } }: Context, cardId: string): Promise<HistoryLine[]> {
  const rows = await db
    .select({
      serviceId: services.id,
      openedAt: services.openedAt,
      closedAt: services.closedAt,
      ends: serviceSummaries.ends,
      result: serviceSummaries.result,
      gainK: serviceSummaries.gainK,
      dueOn: nextServices.dueOn,
    })
    .from(services)
    .innerJoin(serviceSummaries, eq(serviceSummaries.serviceId, services.id))
    .leftJoin(nextServices, eq(nextServices.serviceId, services.id))
    .where(eq(services.cardId, cardId))
    .orderBy(asc(services.openedAt))
    .limit(MOST_DUE);
  return rows.map(({ result, ...line }) => ({ ...line, work: result?.told.work ?? null }));
}
