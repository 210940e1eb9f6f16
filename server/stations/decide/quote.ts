import { and, asc, eq, isNull, sum } from "drizzle-orm";
import type { Quote, QuoteAccepted, QuoteChange, QuoteView, Settings } from "#contract";
import { Problem } from "#core";
import { EFFORT } from "#core/decide/index.ts";
import { fromUnits, toUnits } from "#core/money/index.ts";
import { bringing, OFFERED, priceTask } from "#core/quote/index.ts";
import { coolerToday } from "#core/service/index.ts";
import { cards, liveRuns, lots, lotUses, runs, serviceSummaries, services, workNotes } from "../../db/schema.ts";
import { type Context, changeService, needVersion, notFound, record } from "../../services/context.ts";
import { keepDocument, needService } from "../../services/documents.ts";
import { readSettings } from "../../services/settings.ts";
import { adviseService } from "./decide.ts";
import { quotes } from "./tables.ts";

/** A run before and one after, with their cool-down (common practice, no source). */
const BENCH_MIN = 70;

/** Digits behind the point by the language's own table; two for what is no currency there. */
function digitsOf(currency: string): number {
  try {
    return new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions().maximumFractionDigits ?? 2;
  } catch {
    return 2;
  }
}

const { "not-worth": _nothing, ...OFFERED_EFFORT } = EFFORT;

/** Options of a card side by side, what was accepted, and what it came to until now. */
export async function readQuote(context: Context, serviceId: string): Promise<QuoteView> {
  const { db } = context.store;
  const [held] = await db
    .select({ card: cards, kept: quotes, handMin: serviceSummaries.handMin })
    .from(services)
    .innerJoin(cards, eq(services.cardId, cards.id))
    .leftJoin(quotes, eq(quotes.serviceId, services.id))
    .leftJoin(serviceSummaries, eq(serviceSummaries.serviceId, services.id))
    .where(eq(services.id, serviceId));
  if (!held) throw notFound("service");
  const settings = await readSettings(context.store);
  const pads = (
    await Promise.all(context.stations.flatMap((station) => station.materialCost?.(db, serviceId) ?? []))
  )[0];
  const quote = held.kept?.quote ?? usualQuote(settings, pads ?? null);
  const advised = await adviseService(context, serviceId);
  const before = await db
    .select()
    .from(runs)
    .where(and(eq(runs.serviceId, serviceId), isNull(runs.deletedAt)))
    .orderBy(asc(runs.createdAt));
  const today = coolerToday(before);
  const { advice, findings } = advised;
  const { holder, ownerName, price } = held.card;
  return {
    serviceId,
    quote,
    version: held.kept?.version ?? 0,
    accepted: held.kept?.accepted ?? null,
    brings: advice && Object.fromEntries(OFFERED.map((work) => [work, bringing(work, findings, advice.expected)])),
    now: today?.edgeK && today.fanRpm ? { riseK: today.edgeK, fanRpm: today.fanRpm } : null,
    efforts: OFFERED_EFFORT,
    worthUnits: price === null ? null : toUnits(price, quote.digits),
    holder,
    ownerName,
    actual: await actualOf(context, serviceId, quote.digits, Object.values(held.handMin ?? {})),
  };
}

/** @param padsCost of the pads that are planned for this card; null where none are: then the usual figure stands */
function usualQuote({ currency, hourlyRate, benchRate, taxPct, worthTimes }: Settings, padsCost: number | null): Quote {
  const digits = digitsOf(currency);
  return {
    currency,
    digits,
    terms: {
      ratePerHour: toUnits(hourlyRate, digits),
      benchPerHour: toUnits(benchRate, digits),
      taxPct,
      worthTimes,
    },
    options: OFFERED.map((work) => ({
      work,
      materialUnits: toUnits(
        work === "pads" && padsCost !== null ? padsCost + EFFORT.repaste.material : EFFORT[work].material,
        digits,
      ),
      minutes: EFFORT[work].minutes,
      benchMinutes: work === "leave" ? 0 : BENCH_MIN,
      offered: work !== "cooler",
    })),
    boughtUnits: null,
    soldUnits: null,
  };
}

/** Minutes that hands marked or noted, minutes on a bench, and what was taken from the stores at its price. */
async function actualOf(
  { store: { db } }: Context,
  serviceId: string,
  digits: number,
  marked: readonly number[],
): Promise<QuoteView["actual"]> {
  const [noted] = await db
    .select({ minutes: sum(workNotes.minutes) })
    .from(workNotes)
    .where(and(eq(workNotes.serviceId, serviceId), isNull(workNotes.deletedAt)));
  const [bench] = await db
    .select({ seconds: sum(liveRuns.elapsedS) })
    .from(liveRuns)
    .where(eq(liveRuns.serviceId, serviceId));
  const used = await db
    .select({ amount: lotUses.amount, price: lots.price })
    .from(lotUses)
    .innerJoin(lots, eq(lots.id, lotUses.lotId))
    .where(and(eq(lotUses.serviceId, serviceId), isNull(lotUses.deletedAt)));
  const byMarks = marked.reduce((total, minutes) => total + minutes, 0);
  return {
    // Whoever leads by steps and notes the same work by hand did it once.
    minutes: Math.max(byMarks, Number(noted?.minutes ?? 0)),
    benchMinutes: Number(bench?.seconds ?? 0) / 60,
    materialUnits: used.reduce((total, { amount, price }) => total + toUnits(amount * price, digits), 0),
  };
}

const accepted = (): Problem =>
  new Problem({
    code: "quote-accepted",
    what: "This quote was accepted: it stays as it is.",
    remedy: "Take the acceptance back first, and say so to the owner.",
  });

export async function changeQuote(
  context: Context,
  serviceId: string,
  { quote, version, changes }: QuoteChange,
): Promise<QuoteView> {
  const { store } = context;
  await store.write(async (tx) => {
    await needService(tx, serviceId);
    await keepDocument(tx, quotes, [quotes.serviceId, serviceId], { version, changes }, store.now(), (before) => {
      // Prices of a card of one's own come in later than the owner's word.
      if (before?.accepted && JSON.stringify(pricesOf(before.quote)) !== JSON.stringify(pricesOf(quote)))
        throw accepted();
      return { quote };
    });
  });
  return readQuote(context, serviceId);
}

const pricesOf = ({
  boughtUnits: _bought,
  soldUnits: _sold,
  ...rest
}: Quote): Omit<Quote, "boughtUnits" | "soldUnits"> => rest;

/** The owner accepts one option, or takes that back with null. */
export async function acceptQuote(
  context: Context,
  serviceId: string,
  accept: { work: QuoteAccepted["work"]; by: string; version: number } | { version: number; work: null },
): Promise<QuoteView> {
  const { store } = context;
  const { quote: shown, worthUnits } = await readQuote(context, serviceId);
  await store.write(async (tx) => {
    const [stored] = await tx.select().from(quotes).where(eq(quotes.serviceId, serviceId));
    needVersion(stored?.version ?? 0, accept.version);
    const quote = stored?.quote ?? shown;
    const option = quote.options.find(({ work, offered }) => work === accept.work && offered);
    if (accept.work !== null && !option)
      throw new Problem({
        code: "not-offered",
        what: "This is not offered in the quote.",
        remedy: "Offer it first, then accept it.",
      });
    if (accept.work !== null && stored?.accepted) throw accepted();
    const now = store.now();
    const said: QuoteAccepted | null =
      accept.work === null || !option
        ? null
        : { work: accept.work, by: accept.by, at: now, grossUnits: priceTask(option, quote.terms, worthUnits).gross };
    const next = { quote, changeId: null, accepted: said, updatedAt: now, version: (stored?.version ?? 0) + 1 };
    if (stored) await tx.update(quotes).set(next).where(eq(quotes.serviceId, serviceId));
    else await tx.insert(quotes).values({ ...next, serviceId, createdAt: now });
    // The price of the work follows from the owner's word, unless somebody typed another.
    if (said)
      await changeService(tx, serviceId, ({ workPrice }) =>
        workPrice === null ? { workPrice: fromUnits(said.grossUnits, quote.digits) } : {},
      );
    await record(store, tx, said ? "quote accepted" : "acceptance taken back", serviceId, said);
  });
  return readQuote(context, serviceId);
}
