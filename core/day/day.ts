import type { UsualTime } from "../durations/index.ts";
import type { Shop, ShopStep } from "../schedule/index.ts";
import type { Clock } from "../service/index.ts";

/** What a station takes of hands, benches or neither, and how long it usually does. */
interface Work extends UsualTime {
  /** Whose it is while it lasts. */
  needs: "hands" | "bench";
  /** Stations that have to be done before it may begin, where they still come; without, all before it. */
  after?: readonly string[];
}

const hands = (minutes: number, after?: readonly string[]): Work => ({
  needs: "hands",
  minutes,
  betweenFactor: 1.6,
  withinFactor: 1.5,
  ...(after && { after }),
});
const bench = (minutes: number): Work => ({ needs: "bench", minutes, betweenFactor: 1.4, withinFactor: 1.2 });

/**
 * Usual times of the stations (common practice, no source: 25 to 60 min of hands for a simple job, fans a quarter of an hour, a heatsink half
 * an hour, a run a quarter to a whole hour with its cool-down). Fans are done while washed parts dry.
 */
export const STATION_WORK: Readonly<Record<string, Work>> = {
  takeIn: hands(8),
  baseline: bench(35),
  decide: hands(5),
  strip: hands(18),
  clean: hands(25, ["strip"]),
  pads: hands(25, ["strip", "clean"]),
  compound: hands(10, ["strip", "clean", "pads"]),
  fans: hands(15, ["strip"]),
  closeUp: hands(15, ["strip", "clean", "pads", "compound", "fans"]),
  prove: bench(35),
  record: hands(8),
};

const BEFORE_OPENING: ReadonlySet<string> = new Set(["takeIn", "baseline", "decide"]);
/** A card is open while one of these still comes, whatever opened it. */
const OPEN_AT: ReadonlySet<string> = new Set(["strip", "pads", "compound"]);
const CLOSE_UP = "closeUp";
const CLOSED_FOR: ReadonlySet<string> = new Set(["prove", "record"]);

/** Stations that still come, with the closing of a card that will be open: it becomes a station of its own only once it is. */
function withClosing(ahead: readonly string[]): readonly string[] {
  if (ahead.includes(CLOSE_UP) || !ahead.some((id) => OPEN_AT.has(id))) return ahead;
  const at = ahead.findIndex((id) => CLOSED_FOR.has(id));
  return at < 0 ? ahead : [...ahead.slice(0, at), CLOSE_UP, ...ahead.slice(at)];
}

const NEEDS_PADS: ReadonlySet<string> = new Set(["pads", "compound", "closeUp"]);

/** Clocks have to run out before one of these begins. */
const WAIT_FOR_CLOCKS: ReadonlySet<string> = new Set(["pads", "compound", "closeUp", "prove"]);

export interface DayPerson {
  name: string;
  /** Stations this person does; null for all. */
  can: readonly string[] | null;
}

export interface DayCard {
  serviceId: string;
  cardId: string;
  name: string;
  /** Stations that still come, in their order. */
  ahead: readonly string[];
  clocks: readonly Clock[];
  /** What runs on a test bench for it, and for how long yet. */
  running: { benchId: string; minutesLeft: number } | null;
  /** Hands are on it at this station. */
  inHands: string | null;
  promisedMs: number | null;
  /** A bought card is tested before this, while it can still be given back. */
  testByMs: number | null;
  weight: number;
  /** When what its pads wait for is there; null where nothing is missing. */
  partsMs: number | null;
  /** Where a person holds a step, ms, by station. */
  held: Readonly<Record<string, number>>;
}

export interface DayTime {
  medianMin: number;
  sdLog: number;
}

export interface Day {
  nowMs: number;
  people: readonly DayPerson[];
  benches: ReadonlyArray<{ id: string; name: string }>;
  /** When nobody is there. */
  closed: ReadonlyArray<{ fromMs: number; untilMs: number }>;
  /** By station, as this workshop's own times have it. */
  times: Readonly<Record<string, DayTime>>;
  cards: readonly DayCard[];
}

export interface DayStep {
  /** Station, or the id of a clock. */
  id: string;
  kind: "hands" | "bench" | "rack";
  /** Begun, so that it stays where it is. */
  begun: boolean;
  sdLog: number;
}

export interface DayShop {
  shop: Shop;
  /** By job and step, as in the shop. */
  steps: DayStep[][];
}

export const MS_A_MIN = 60_000;
/** What the block of a clock is called by. */
export const clockId = (id: string): string => `clock ${id}`;
export const personId = (at: number): string => `person ${at}`;
export const benchId = (id: string): string => `bench ${id}`;

/** Who does what, and the benches there are. */
interface Able {
  whoCan: (station: string) => string[];
  benches: string[];
}

/** The open cards with all that still comes for each, as a shop to be planned; minutes from now. */
export function dayShop(day: Day): DayShop {
  // Those who can do little are asked first: the others stay free for what only they can.
  const people = [...day.people.entries()].sort(([, a], [, b]) => (a.can?.length ?? 99) - (b.can?.length ?? 99));
  const whoCan = (station: string): string[] => {
    const able = people.filter(([, { can }]) => can === null || can.includes(station));
    return (able.length > 0 ? able : people).map(([at]) => personId(at));
  };
  const benches = day.benches.length > 0 ? day.benches.map(({ id }) => benchId(id)) : [benchId("any")];
  // Whoever is in the middle of something goes on with it; more than there are people can't be.
  const busy = new Set(
    day.cards
      .filter(({ inHands, ahead }) => inHands !== null && ahead.includes(inHands))
      .slice(0, Math.max(1, day.people.length))
      .map(({ serviceId }) => serviceId),
  );
  const jobs = day.cards.map((card) => jobOf(day, card, { whoCan, benches }, busy.has(card.serviceId)));
  // What is begun is finished, whatever the clock says: so long somebody is there.
  const staysMin = Math.max(
    0,
    ...jobs.flatMap(({ job, steps }) =>
      job.steps.map(({ durationMin }, s) => (steps[s]?.begun && steps[s]?.kind !== "rack" ? durationMin : 0)),
    ),
  );
  const closed = day.closed
    .map(({ fromMs, untilMs }) => ({ fromMin: Math.max(staysMin, inMin(day, fromMs)), untilMin: inMin(day, untilMs) }))
    .filter(({ fromMin, untilMin }) => untilMin > fromMin);
  return {
    steps: jobs.map(({ steps }) => steps),
    shop: {
      resources: [...day.people.map((_, at) => personId(at)), ...benches].map((id) => ({ id, capacity: 1, closed })),
      jobs: jobs.map(({ job }) => job),
    },
  };
}

const inMin = ({ nowMs }: Pick<Day, "nowMs">, ms: number): number => (ms - nowMs) / MS_A_MIN;

const RUN = "run";
/** What is left of a run is known but for an early end. */
const RUN_SD = 0.05;
const benchOf = (id: string, benches: readonly string[]): string[] =>
  benches.filter((one) => one === benchId(id) || benches.length === 1);

function jobOf(
  day: Day,
  card: DayCard,
  { whoCan, benches }: Able,
  isBusy: boolean,
): { job: Shop["jobs"][number]; steps: DayStep[] } {
  const list: ShopStep[] = [];
  const steps: DayStep[] = [];
  const clocks: string[] = [];
  const add = (step: ShopStep, more: DayStep): void => {
    list.push(step);
    steps.push(more);
  };
  for (const { id, untilMs } of card.clocks) {
    const left = untilMs === null ? 0 : inMin(day, untilMs);
    if (!(left > 0) || clocks.includes(clockId(id))) continue;
    clocks.push(clockId(id));
    add(
      { id: clockId(id), durationMin: left, needs: [], oneOf: [], after: [], earliestMin: 0, dueMin: null, heldMin: 0 },
      { id: clockId(id), kind: "rack", begun: true, sdLog: 0 },
    );
  }
  // A run beside the station it has reached, such as one more baseline, holds its bench and the card.
  const beside = card.running !== null && STATION_WORK[card.ahead[0] ?? ""]?.needs !== "bench" ? [RUN] : [];
  if (card.running && beside.length > 0)
    add(
      {
        id: RUN,
        durationMin: Math.max(1, card.running.minutesLeft),
        needs: [],
        oneOf: benchOf(card.running.benchId, benches),
        after: [],
        earliestMin: 0,
        dueMin: null,
        heldMin: 0,
      },
      { id: RUN, kind: "bench", begun: true, sdLog: RUN_SD },
    );
  // Pads that are chosen count as done: what they wait for holds up what lies on them.
  const waiting = card.ahead.find((station) => NEEDS_PADS.has(station));
  let isFirst = true;
  const ahead = withClosing(card.ahead);
  for (const [index, station] of ahead.entries()) {
    const work = STATION_WORK[station];
    if (!work) continue;
    const time = day.times[station] ?? { medianMin: work.minutes, sdLog: Math.log(work.withinFactor) };
    const runs = isFirst && work.needs === "bench" && card.running !== null;
    const isInHands = isBusy && card.inHands === station;
    const begun = runs || (isInHands && beside.length === 0);
    // What comes before the opening comes before all that follows it.
    const isBefore = (id: string): boolean => work.after?.includes(id) ?? true;
    const after = ahead.slice(0, index).filter((id) => id in STATION_WORK && (isBefore(id) || BEFORE_OPENING.has(id)));
    const held = card.held[station];
    const parts = station === waiting && card.partsMs !== null ? Math.max(0, inMin(day, card.partsMs)) : 0;
    add(
      {
        id: station,
        durationMin: runs ? Math.max(1, card.running?.minutesLeft ?? 1) : time.medianMin,
        needs: [],
        oneOf:
          work.needs === "hands"
            ? whoCan(station)
            : runs && card.running
              ? benchOf(card.running.benchId, benches)
              : benches,
        after: begun ? [] : [...beside, ...after, ...(WAIT_FOR_CLOCKS.has(station) ? clocks : [])],
        earliestMin: parts,
        dueMin: station === "baseline" && card.testByMs !== null ? inMin(day, card.testByMs) : null,
        heldMin: begun ? 0 : held === undefined ? null : Math.max(0, inMin(day, held)),
      },
      { id: station, kind: work.needs, begun, sdLog: runs ? RUN_SD : time.sdLog },
    );
    isFirst = false;
  }
  return {
    job: {
      id: card.serviceId,
      dueMin: card.promisedMs === null ? null : inMin(day, card.promisedMs),
      weight: card.weight,
      steps: list,
    },
    steps,
  };
}
