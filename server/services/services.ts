import { type Run, type ServiceView, STATIONS, type StationId } from "#contract";
import { stationViews } from "#core/service/index.ts";
import { type Context, changeService, nextTurn, record } from "./context.ts";
import { loadFacts } from "./facts.ts";
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
    powerOn: service.powerOn,
    decision: service.decision,
    closedReason: service.closedReason,
  };
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
