import { type Attempt, type Run, type ServiceView, STATIONS, type StationId } from "#contract";
import { compareAttempt, stationViews } from "#core/service/index.ts";
import { type Context, changeService, nextTurn, record } from "./context.ts";
import { type LoadedFacts, loadFacts } from "./facts.ts";
import { listNotes } from "./notes.ts";
import { toRun } from "./runs.ts";
import { readSettings } from "./settings.ts";

/** One service with all that its stations show. */
export async function readService(context: Context, id: string): Promise<ServiceView> {
  const { store, stations } = context;
  const settings = await readSettings(store);
  const facts = await loadFacts(store.db, stations, id, settings);
  await nextTurn();
  const notes = await listNotes(context, id);
  const { service } = facts;
  return {
    id,
    cardId: service.cardId,
    openedAt: service.openedAt,
    closedAt: service.closedAt,
    stations: stationViews(STATIONS, facts, facts.own),
    runs: facts.runs.map((run): Run => toRun(run, service.cardId)),
    notes,
    comparisons: [...facts.pairs],
    attempts: attemptsOf(facts),
    workPrice: service.workPrice,
    powerOn: service.powerOn,
    decision: service.decision,
    closedReason: service.closedReason,
  };
}

/** Every attempt with what was changed for it and what it came to. */
function attemptsOf({ service, runs, attempt, pairs, pairContext }: LoadedFacts): Attempt[] {
  return Array.from({ length: attempt }, (_, k) => {
    const number = k + 1;
    const begun = service.attempts[k - 1];
    const isLast = pairs.some((pair) => runs.some((run) => run.id === pair.afterId && run.attempt === number));
    return {
      number,
      changed: begun?.changed ?? "",
      startedAt: begun?.startedAt ?? null,
      comparisons: isLast ? [...pairs] : compareAttempt(runs, number, pairContext),
    };
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
    await changeService(tx, id, ({ skips: { [station]: _old, ...others } }) => ({
      skips: reason === null ? others : { ...others, [station]: reason },
    }));
    await record(store, tx, reason === null ? "skip taken back" : "station skipped", id, { station, reason });
  });
  return readService(context, id);
}
