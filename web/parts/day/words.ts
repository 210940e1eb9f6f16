import { type DayCardView, type DayView, STATIONS, type StationId, stationOf } from "#contract";
import type { PlannedBlock } from "#core/day/index.ts";
import { momentFormat, timeOfDay, weekdayTime } from "../../ui/format.ts";

const far = momentFormat({
  weekday: "short",
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
});
const SAME_DAY_MS = 14 * 3_600_000;
const SAME_WEEK_MS = 6 * 86_400_000;

/** A moment, as short as it can be told from now. */
export function momentWords(ms: number, nowMs: number): string {
  const away = Math.abs(ms - nowMs);
  return (away < SAME_DAY_MS ? timeOfDay : away < SAME_WEEK_MS ? weekdayTime : far)(ms);
}

const QUARTER_MS = 15 * 60_000;
/** Nobody promises a minute: the next quarter of an hour. */
export const roundUp = (ms: number): number => Math.ceil(ms / QUARTER_MS) * QUARTER_MS;

const isStation = (id: string): id is StationId => STATIONS.some((station) => station.id === id);

/** What a block is called: its station, or what its clock waits for. */
export const blockTitle = (id: string, { clocks }: Pick<DayCardView, "clocks">): string =>
  isStation(id) ? stationOf(id).title : id === "run" ? "Run" : (clocks[id] ?? "Drying or setting");

export const blockPath = (card: DayCardView, id: string): string =>
  card.runningId && (id === "baseline" || id === "prove" || id === "run")
    ? `/live/${card.runningId}`
    : `/cards/${card.cardId}/${isStation(id) ? stationOf(id).path : stationOf(card.station).path}`;

export interface Hands {
  block: PlannedBlock;
  card: DayCardView;
  person: string;
  isNow: boolean;
  why: string;
}

/** A plan begins when it was made: what was to begin then is what is to be begun now. */
const SOON_MS = 3 * 60_000;

/** What follows in the same hands. */
export function thenNext(
  { plan, cards }: DayView,
  { block }: Hands,
  many: number,
): Array<Omit<Hands, "why" | "isNow">> {
  const later = (plan?.blocks ?? [])
    .filter(({ kind, lane, startMs }) => kind === "hands" && lane === block.lane && startMs > block.startMs)
    .toSorted((a, b) => a.startMs - b.startMs);
  return later.slice(0, many).flatMap((one) => {
    const card = cards.find(({ serviceId }) => serviceId === one.serviceId);
    return card ? [{ block: one, card, person: "" }] : [];
  });
}

/** What each person does next, the soonest first: steps of hands, and runs that somebody has to put on the bench. */
export function handsNext({ plan, cards, people, atMs }: DayView): Hands[] {
  if (!plan) return [];
  const byId = new Map(cards.map((card) => [card.serviceId, card]));
  const busy = new Set<number>();
  const found: Hands[] = [];
  const order = plan.blocks
    .filter(({ kind, begun }) => kind === "hands" || (kind === "bench" && !begun))
    .toSorted((a, b) => Number(b.begun) - Number(a.begun) || a.startMs - b.startMs);
  for (const block of order) {
    const card = byId.get(block.serviceId);
    // A run is put on by whoever is free.
    const lane = block.kind === "hands" ? block.lane : people.findIndex((_, at) => !busy.has(at));
    if (!card || !card.ahead.some((id) => id === block.id) || lane < 0 || busy.has(lane)) continue;
    busy.add(lane);
    const { promisedAt } = card.terms;
    const kept = plan.kept.find(({ serviceId }) => serviceId === block.serviceId);
    found.push({
      block,
      card,
      person: people[lane] ?? "",
      isNow: block.startMs <= Math.max(atMs, plan.madeMs) + SOON_MS,
      why: block.begun
        ? "Your hands are on it: go on."
        : block.kind === "bench"
          ? "The test bench is free for it; the run goes by itself."
          : promisedAt
            ? `Promised for ${momentWords(Date.parse(promisedAt), atMs)}${kept?.chance == null ? "" : `, kept with ${Math.round(100 * kept.chance)} %`}.`
            : "So that no bench stands still and all are done soonest.",
    });
    if (busy.size >= people.length) break;
  }
  return found.toSorted((a, b) => a.block.startMs - b.block.startMs);
}
