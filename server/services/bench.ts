import { asc, desc, eq, isNull } from "drizzle-orm";
import {
  type BenchEntry,
  CHOICES,
  type PadPlanInput,
  type PairedComparison,
  type Run,
  type ServiceView,
  STATIONS,
  type StationId,
  type StationState,
  type WorkNote,
} from "#contract";
import { Problem, temperatureOf, type Verdict } from "#core";
import { PROMISED_K } from "#core/soak/index.ts";
import { cards, padPlans, runs, services, workNotes } from "../db/schema.ts";
import { type Context, notFound, record } from "./context.ts";
import { listNotes } from "./notes.ts";
import { comparePairs, listRuns } from "./runs.ts";
import { readSettings } from "./settings.ts";

type Service = typeof services.$inferSelect;

const signed = (value: number): string => `${value > 0 ? "+" : value < 0 ? "−" : ""}${Math.abs(value).toFixed(1)}`;

/** How much is known of a pair: the half-width of its leading sensor. */
function width(pair: PairedComparison): number {
  const equal = pair.comparison.atEqualConditions?.roles;
  return (equal?.edge ?? equal?.hotspot ?? Object.values(equal ?? {})[0])?.u95K ?? Number.POSITIVE_INFINITY;
}

/** The pair a service is judged by: the comparable one that knows most. */
export function leadingPair(pairs: readonly PairedComparison[]): PairedComparison | undefined {
  return [...pairs].sort((a, b) => width(a) - width(b))[0];
}

const VERDICT_WORDS: Record<Verdict, string> = {
  better: "cooler",
  "no-real-change": "no real change",
  worse: "hotter",
  "not-comparable": "can't be compared",
};

/** A run that was stopped early by the rule need not settle: where it would is known well enough. */
function isKnown({ analysis }: Pick<Run, "analysis">): boolean {
  const lead = temperatureOf(analysis, "edge") ?? temperatureOf(analysis, "hotspot");
  return analysis.steady.reached || (lead?.finalU95K ?? Number.POSITIVE_INFINITY) <= PROMISED_K;
}

function riseFigure(run: Run): string {
  const { ambient } = run.analysis;
  const lead = temperatureOf(run.analysis, "edge") ?? temperatureOf(run.analysis, "hotspot");
  if (!ambient) return "room air missing";
  if (!lead || lead.finalC === null) return "no load found";
  const rise = lead.riseK ?? lead.finalC - ambient.valueC;
  return `${rise.toFixed(1)} K over room${isKnown(run) ? "" : ", not settled"}`;
}

function proveFigure(pairs: readonly PairedComparison[]): string {
  const lead = leadingPair(pairs)?.comparison;
  if (!lead) return "";
  const equal = lead.atEqualConditions?.roles.edge ?? lead.atEqualConditions?.roles.hotspot;
  if (!equal) return VERDICT_WORDS[lead.verdict];
  const memory = lead.atEqualConditions?.roles.memory;
  const beside =
    lead.verdict === "no-real-change" && memory && memory.verdict !== "no-real-change"
      ? `; memory ${signed(memory.changeK)} K`
      : "";
  return `${signed(equal.changeK)} ± ${equal.u95K.toFixed(1)} K: ${VERDICT_WORDS[lead.verdict]}${beside}`;
}

/** How many pads of which thicknesses, such as '8 pads · 1.5 mm'. */
function padFigureOf(plan: PadPlanInput | undefined): string {
  const picks = Object.values(plan?.picks ?? {}).filter((pick) => pick !== null);
  if (picks.length === 0) return "";
  const thicknesses = [...new Set(picks.map((pick) => pick.thicknessMm))].sort((a, b) => a - b);
  return `${picks.length} ${picks.length === 1 ? "pad" : "pads"} · ${thicknesses.join(", ")} mm`;
}

function stationsOf(
  service: Service,
  all: readonly Run[],
  notes: readonly Pick<WorkNote, "work">[],
  pairs: readonly PairedComparison[],
  padFigure: string,
): StationState[] {
  const before = all.filter((run) => run.side === "before");
  const figures: Record<StationId, string> = {
    takeIn: service.powerOn?.setAside ? `Set aside: ${service.powerOn.setAside}` : "taken in",
    baseline: before[0] ? riseFigure(before.find((run) => run.fanMode === "fixed") ?? before[0]) : "",
    decide: CHOICES.find((choice) => choice.id === service.decision?.choice)?.label ?? "",
    pads: padFigure,
    work: [...new Set(notes.flatMap((note) => note.work))].slice(0, 2).join(", "),
    prove: proveFigure(pairs),
    record: service.closedAt ? "handed over" : "",
  };
  const done: Record<StationId, boolean> = {
    takeIn: true,
    baseline: before.length > 0,
    // Work that was noted was decided on, said or not.
    decide: service.decision !== null || notes.length > 0,
    pads: padFigure !== "",
    work: notes.length > 0,
    prove: all.some((run) => run.side === "after"),
    record: service.closedAt !== null,
  };
  // Pads come up by themselves only where they were decided on; work that was noted is past them.
  const wanted = (id: StationId): boolean =>
    id !== "pads" || (["pads", "premium"].includes(service.decision?.choice ?? "") && notes.length === 0);
  const next = service.powerOn?.setAside
    ? undefined
    : STATIONS.find(({ id }) => !done[id] && !service.skips[id] && wanted(id))?.id;
  return STATIONS.map(({ id, title }) => ({
    id,
    title,
    state: done[id] ? "done" : service.skips[id] ? "skipped" : id === next ? "next" : "open",
    figure: figures[id],
    skipReason: service.skips[id] ?? null,
  }));
}

export async function readService(context: Context, id: string): Promise<ServiceView> {
  const [service] = await context.store.db.select().from(services).where(eq(services.id, id));
  if (!service) throw notFound("service");
  const [all, notes, settings, [plan]] = await Promise.all([
    listRuns(context, id),
    listNotes(context, id),
    readSettings(context),
    context.store.db.select().from(padPlans).where(eq(padPlans.serviceId, id)),
  ]);
  const comparisons = comparePairs(all, settings);
  return {
    id,
    cardId: service.cardId,
    openedAt: service.openedAt,
    closedAt: service.closedAt,
    stations: stationsOf(service, all, notes, comparisons, padFigureOf(plan?.plan)),
    runs: all,
    notes,
    comparisons,
    powerOn: service.powerOn,
    decision: service.decision,
  };
}

const NEXT_WORDS: Record<StationId, string> = {
  takeIn: "Take it in",
  baseline: "Run the load and drop the log",
  decide: "Decide: open it or leave it",
  pads: "Measure the pads, choose, cut",
  work: "Note what was done",
  prove: "Run the same load again",
  record: "Print the record and hand it over",
};

/** What hinders a service most, before the plain next station. */
function nextStep(stations: StationState[], all: readonly Run[], pairs: readonly PairedComparison[]): string {
  if (all.some((run) => !run.analysis.ambient)) return "Add the room air to its run";
  const unsettled = all.find((run) => !isKnown(run) && (run.analysis.steady.minutesNeeded ?? 0) > 0);
  const next = stations.find((station) => station.state === "next");
  if (unsettled && next?.id !== "record")
    return `Run ${unsettled.analysis.steady.minutesNeeded} more ${unsettled.analysis.steady.minutesNeeded === 1 ? "minute" : "minutes"} to settle`;
  if (next?.id === "record" && leadingPair(pairs)?.comparison.verdict === "worse")
    return "Hotter than before: mount it again";
  return next ? NEXT_WORDS[next.id] : "Handed over";
}

/** Every card with the station it has reached, its one figure, and what to do next. */
export async function listBench(context: Context): Promise<BenchEntry[]> {
  const { db } = context.store;
  const [held, allRuns, allNotes, allPlans, settings] = await Promise.all([
    db
      .select({ card: cards, service: services })
      .from(services)
      .innerJoin(cards, eq(services.cardId, cards.id))
      .orderBy(desc(cards.updatedAt)),
    db.select().from(runs).where(isNull(runs.deletedAt)).orderBy(asc(runs.createdAt)),
    db
      .select({ serviceId: workNotes.serviceId, work: workNotes.work })
      .from(workNotes)
      .where(isNull(workNotes.deletedAt)),
    db.select({ serviceId: padPlans.serviceId, plan: padPlans.plan }).from(padPlans),
    readSettings(context),
  ]);
  return held.map(({ card, service }) => {
    const own = allRuns
      .filter((run) => run.serviceId === service.id)
      .map((run): Run => ({ ...run, cardId: card.id, window: run.window ?? null }));
    const pairs = comparePairs(own, settings);
    const stations = stationsOf(
      service,
      own,
      allNotes.filter((note) => note.serviceId === service.id),
      pairs,
      padFigureOf(allPlans.find((one) => one.serviceId === service.id)?.plan),
    );
    const next = stations.find((station) => station.state === "next");
    const at = service.powerOn?.setAside ? stations[0] : (next ?? stations.at(-1));
    // Pads that were prepared ahead do not tell how the card is.
    const ahead = (station: StationState): boolean =>
      station.id === "pads" && at !== undefined && stations.indexOf(station) > stations.indexOf(at);
    const last = stations
      .filter((station) => station.figure !== "" && station.id !== "record" && !ahead(station))
      .at(-1);
    return {
      cardId: card.id,
      maker: card.maker,
      model: card.model,
      serial: card.serial,
      holder: card.holder,
      ownerName: card.ownerName,
      station: at?.id ?? "record",
      stationTitle: at?.title ?? "",
      figure: service.powerOn?.setAside
        ? (stations[0]?.figure ?? "")
        : last && last.id !== "takeIn"
          ? last.figure
          : (stations.find((station) => station.skipReason)?.skipReason ?? ""),
      next: service.powerOn?.setAside ? "Send it on, or take it back" : nextStep(stations, own, pairs),
      verdict: leadingPair(pairs)?.comparison.verdict ?? null,
      ladder: ladderOf(own, pairs),
      closed: service.closedAt !== null,
      updatedAt: own.reduce((latest, run) => (run.createdAt > latest ? run.createdAt : latest), card.updatedAt),
    };
  });
}

function ladderOf(own: readonly Run[], pairs: readonly PairedComparison[]): BenchEntry["ladder"] {
  const lead = leadingPair(pairs)?.comparison;
  if (lead?.comparable)
    return Object.entries(lead.roles).map(([role, one]) => ({
      role,
      beforeK: one.beforeRiseK,
      afterK: one.afterRiseK,
      u95K: one.u95K,
    }));
  const run = own.find((one) => one.analysis.ambient);
  if (!run) return [];
  return (["edge", "hotspot", "memory", "vrm"] as const).flatMap((role) => {
    const figures = run.analysis.roles[role];
    return figures && "riseK" in figures && figures.riseK !== null
      ? [{ role, beforeK: figures.riseK, afterK: null, u95K: figures.riseU95K }]
      : [];
  });
}

/** Skips a station with its reason, or takes the skip back with null. */
export async function skipStation(
  context: Context,
  id: string,
  station: StationId,
  reason: string | null,
): Promise<ServiceView> {
  const { store } = context;
  await store.write(async (tx) => {
    const [service] = await tx.select().from(services).where(eq(services.id, id));
    if (!service) throw notFound("service");
    const { [station]: _old, ...others } = service.skips;
    await tx
      .update(services)
      .set({ skips: reason === null ? others : { ...others, [station]: reason }, version: service.version + 1 })
      .where(eq(services.id, id));
    await record(store, tx, reason === null ? "skip taken back" : "station skipped", id, { station, reason });
  });
  return readService(context, id);
}

/** Hands a card over, or opens its service again. */
export async function setClosed(context: Context, id: string, closed: boolean): Promise<ServiceView> {
  const { store } = context;
  await store.write(async (tx) => {
    const [service] = await tx.select().from(services).where(eq(services.id, id));
    if (!service) throw notFound("service");
    if (closed && service.closedAt)
      throw new Problem({
        code: "already-closed",
        what: "This service is handed over already.",
        remedy: "Open it again to change it.",
      });
    await tx
      .update(services)
      .set({ closedAt: closed ? store.now() : null, version: service.version + 1 })
      .where(eq(services.id, id));
    await record(store, tx, closed ? "handed over" : "opened again", id);
  });
  return readService(context, id);
}
