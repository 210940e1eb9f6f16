import { and, desc, eq, type InferSelectModel, inArray, lt, ne, or, type SQL, sql } from "drizzle-orm";
import { type ServiceLine, STATIONS, type StationId, stationOf } from "#contract";
import { COMPARE_VERSION, diagnoseSymptoms, SOAK_VERSION } from "#core";
import { handTime } from "#core/handwork/index.ts";
import { gainOf, leadRun, summarise } from "#core/service/index.ts";
import type { Reader, Transaction } from "../db/open.ts";
import { cards, serviceSummaries } from "../db/schema.ts";
import type { StationStore } from "../db/station-store.ts";
import { type Context, nextTurn } from "./context.ts";
import { loadFacts } from "./facts.ts";
import { endsOf } from "./next-service.ts";
import { resultOf } from "./results.ts";
import { readSettings } from "./settings.ts";
import { marksOf } from "./steps.ts";

type Summary = InferSelectModel<typeof serviceSummaries>;

/** Raised when a summary comes out otherwise from the same facts; older ones are then worked out anew at the next start. */
const SUMMARY_VERSION = 9;
const MADE_BY = `${SUMMARY_VERSION}.${SOAK_VERSION}.${COMPARE_VERSION}`;
/** After so many, others are served first. */
const IN_A_ROW = 3;

/** The line of a service, worked out from its facts. */
async function summaryOf(
  db: Reader,
  stations: readonly StationStore[],
  serviceId: string,
  scatter: Parameters<typeof loadFacts>[3],
): Promise<Summary> {
  const facts = await loadFacts(db, stations, serviceId, scatter);
  const [card] = await db.select().from(cards).where(eq(cards.id, facts.service.cardId));
  if (!card) throw new Error(`The service ${serviceId} has no card.`);
  const line = summarise(STATIONS, facts, facts.own);
  const gainK = gainOf(facts.pairs) ?? null;
  // Only from services with an after-run that proves them: other cards are judged by these figures.
  const symptoms =
    gainK === null
      ? null
      : leadRun(
          facts.runs.filter((run) => run.symptoms),
          "before",
        )?.symptoms;
  const { maker, model, serial, ownerName, holder } = card;
  return {
    ...line,
    handMin: await handMinutes(db, serviceId),
    serviceId,
    cardId: card.id,
    closed: facts.closed,
    gainK,
    ends: endsOf(facts),
    result: await resultOf(db, stations, facts),
    leadCause: (symptoms && diagnoseSymptoms(symptoms).findings[0]?.cause) ?? null,
    words: [maker, model, serial, ownerName, holder, stationOf(line.station).title, line.figure, line.next]
      .join(" ")
      .toLowerCase(),
    updatedAt: facts.runs.reduce((latest, run) => (run.createdAt > latest ? run.createdAt : latest), card.updatedAt),
    madeBy: MADE_BY,
    stale: false,
  };
}

/** Minutes of hands by station, as its marks tell them; what nobody marked is not there. */
async function handMinutes(db: Reader, serviceId: string): Promise<Summary["handMin"]> {
  const marks = await marksOf(db, serviceId);
  return Object.fromEntries(
    [...new Set(marks.map(({ station }) => station))].flatMap((station) => {
      const { minutes } = handTime(
        marks.filter((mark) => mark.station === station),
        Date.parse,
      );
      return minutes >= LEAST_HAND_MIN ? [[station, Math.round(10 * minutes) / 10]] : [];
    }),
  );
}
const LEAST_HAND_MIN = 1;

/** Works out anew what the triggers marked, within the transaction of the change. @returns whose lines those are */
export async function refreshStale(tx: Transaction, stations: readonly StationStore[]): Promise<string[]> {
  const stale = await tx.select({ serviceId: serviceSummaries.serviceId }).from(serviceSummaries).where(sql`stale = 1`);
  if (stale.length === 0) return [];
  const settings = await readSettings({ db: tx });
  for (const [index, { serviceId }] of stale.entries()) {
    if (index % IN_A_ROW === IN_A_ROW - 1) await nextTurn();
    const { serviceId: _same, ...fields } = await summaryOf(tx, stations, serviceId, settings);
    await tx.update(serviceSummaries).set(fields).where(eq(serviceSummaries.serviceId, serviceId));
  }
  return stale.map(({ serviceId }) => serviceId);
}

/** At start: lines of an older computation, or of a database from before there were any. */
export async function refreshOutdated({ store }: Context): Promise<void> {
  const [outdated] = await store.db
    .select({ one: serviceSummaries.serviceId })
    .from(serviceSummaries)
    .where(or(ne(serviceSummaries.madeBy, MADE_BY), sql`stale = 1`))
    .limit(1);
  if (!outdated) return;
  await store.write((tx) =>
    tx.update(serviceSummaries).set({ stale: true }).where(ne(serviceSummaries.madeBy, MADE_BY)),
  );
}

/**
 * Services whose line differs from what their facts come to.
 * @param repair whether to work those out anew
 * @returns those, and `beyond` them such as can't be worked out
 */
export async function checkSummaries(
  context: Context,
  repair: boolean,
): Promise<Record<"wrong" | "beyond", Array<{ serviceId: string; what: string }>>> {
  const { store, stations } = context;
  const settings = await readSettings(store);
  const wrong: Array<{ serviceId: string; what: string }> = [];
  const beyond: typeof wrong = [];
  for (const kept of await store.db.select().from(serviceSummaries)) {
    const right = await summaryOf(store.db, stations, kept.serviceId, settings).catch(() => null);
    if (!right) {
      // A flipped bit leaves JSON that is none of ours.
      beyond.push({ serviceId: kept.serviceId, what: "can’t be worked out from what is kept" });
      continue;
    }
    const names = Object.keys(right) as Array<keyof Summary>;
    const differing = names.filter((name) => JSON.stringify(right[name]) !== JSON.stringify(kept[name]));
    if (differing.length > 0) wrong.push({ serviceId: kept.serviceId, what: differing.join(", ") });
  }
  if (repair && wrong.length > 0)
    await store.write(async (tx) => {
      const ids = wrong.map((one) => one.serviceId);
      for (let from = 0; from < ids.length; from += 500)
        await tx
          .update(serviceSummaries)
          .set({ stale: true })
          .where(inArray(serviceSummaries.serviceId, ids.slice(from, from + 500)));
    });
  return { wrong, beyond };
}

export interface LinesAsked {
  /** Words that must all be found. */
  find?: string | undefined;
  closed?: boolean | undefined;
  station?: StationId | undefined;
  verdict?: ServiceLine["verdict"] | undefined;
  /** Part of the owner's name, and of maker and model; in any case. */
  owner?: string | undefined;
  model?: string | undefined;
  /** The last line of the page before, as `nextOf` named it. */
  after?: string | undefined;
  limit: number;
}

export interface LinesPage {
  lines: ServiceLine[];
  /** All that match, of which this is a page. */
  total: number;
  /** What to ask for next; null at the end. */
  next: string | null;
}

/** What a line shows and no more: every column of every row costs. */
const LINE = {
  cardId: cards.id,
  serviceId: serviceSummaries.serviceId,
  maker: cards.maker,
  model: cards.model,
  serial: cards.serial,
  holder: cards.holder,
  ownerName: cards.ownerName,
  station: serviceSummaries.station,
  figure: serviceSummaries.figure,
  next: serviceSummaries.next,
  verdict: serviceSummaries.verdict,
  ladder: serviceSummaries.ladder,
  clocks: serviceSummaries.clocks,
  closed: serviceSummaries.closed,
  updatedAt: serviceSummaries.updatedAt,
};

/** Services, those that changed last first, a page at a time. */
export async function listLines({ store: { db } }: Pick<Context, "store">, asked: LinesAsked): Promise<LinesPage> {
  const found = matching(asked);
  const [updatedAt, serviceId] = (asked.after ?? "").split("~");
  const beyond = updatedAt
    ? or(
        lt(serviceSummaries.updatedAt, updatedAt),
        and(eq(serviceSummaries.updatedAt, updatedAt), lt(serviceSummaries.serviceId, serviceId ?? "")),
      )
    : undefined;
  const [counted] = await db.select({ total: sql<number>`count(*)` }).from(serviceSummaries).where(found);
  const rows = await db
    .select(LINE)
    .from(serviceSummaries)
    .innerJoin(cards, eq(serviceSummaries.cardId, cards.id))
    .where(and(found, beyond))
    .orderBy(desc(serviceSummaries.updatedAt), desc(serviceSummaries.serviceId))
    .limit(asked.limit + 1);
  const page = rows.slice(0, asked.limit);
  const last = page.at(-1);
  return {
    lines: page.map((line) => ({ ...line, stationTitle: stationOf(line.station).title })),
    total: counted?.total ?? 0,
    next: rows.length > page.length && last ? `${last.updatedAt}~${last.serviceId}` : null,
  };
}

/** Whether a text holds what is wanted, in any case; the database's own lower case is that of English letters only. */
const part = (text: SQL, wanted = "") =>
  wanted.trim() === ""
    ? undefined
    : sql`(instr(lower(${text}), ${wanted.trim().toLowerCase()}) > 0 or instr(${text}, ${wanted.trim()}) > 0)`;

function matching({ find = "", closed, station, verdict, owner, model }: LinesAsked) {
  const words = find.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 12);
  const ofCard = [part(sql`${cards.ownerName}`, owner), part(sql`${cards.maker} || ' ' || ${cards.model}`, model)];
  return and(
    sql`${serviceSummaries.cardId} not in (select ${cards.id} from ${cards} where ${cards.deletedAt} is not null)`,
    ofCard.some(Boolean)
      ? sql`${serviceSummaries.cardId} in (select ${cards.id} from ${cards} where ${and(...ofCard)})`
      : undefined,
    closed === undefined ? undefined : eq(serviceSummaries.closed, closed),
    station === undefined ? undefined : eq(serviceSummaries.station, station),
    verdict ? eq(serviceSummaries.verdict, verdict) : undefined,
    // `instr` takes every character as it is, as LIKE would not.
    ...words.map((word) => sql`instr(${serviceSummaries.words}, ${word}) > 0`),
  );
}
