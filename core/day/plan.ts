import { seeded } from "../random/index.ts";
import { readShop, type ScheduleOptions, schedule, simulate, stepKey } from "../schedule/index.ts";
import type { PlannedBlock } from "./block.ts";
import { benchId, type Day, type DayShop, dayShop, MS_A_MIN, personId, STATION_WORK } from "./day.ts";
import { whyNotEarlier } from "./why.ts";

export interface Kept {
  serviceId: string;
  endMs: number;
  /** Nine in ten are done by then. */
  surelyMs: number;
  promisedMs: number | null;
  /** 0…1; null without a promise. */
  chance: number | null;
}

export interface DayPlan {
  madeMs: number;
  blocks: PlannedBlock[];
  kept: Kept[];
  /** The first promise that is at risk, and what would save it; empty where nothing does. */
  risk: { serviceId: string; chance: number; saves: string } | null;
  /** Bought cards whose test is planned for after the day until which they can be given back. */
  testsLate: string[];
  /** Nine in ten cards that came in now would be done by then. */
  newcomerMs: number;
}

const RUNS = 300;
/** Below this a promise is at risk. */
const SURE = 0.9;
/** The rest of the time goes into trying what would save a promise. */
const MAIN_SHARE = 0.7;

/** A day of a few cards is planned in a moment: forty made-up shops came out as good as by the whole time, in half of it. */
const PATIENCE = 1000;

/**
 * Plans the day: when each step of each open card begins, on which bench, in whose hands, and how likely each promise is kept.
 * @param last starts of the plan before, ms by service and step: what need not move stays
 * @throws Problem as `readShop` and `schedule`: a step longer than the opening hours, a step held before what it waits for
 */
export function planDay(day: Day, options: ScheduleOptions & { last?: ReadonlyMap<string, number> } = {}): DayPlan {
  const made = dayShop(day);
  const shop = readShop(made.shop);
  const from = options.last && new Map([...options.last].map(([key, ms]) => [key, (ms - day.nowMs) / MS_A_MIN]));
  const now = options.now;
  const begunAt = now?.() ?? 0;
  const until = options.until === undefined ? undefined : begunAt + MAIN_SHARE * Math.max(0, options.until - begunAt);
  const found = schedule(shop, {
    patience: PATIENCE,
    ...options,
    ...(until !== undefined && { until }),
    ...(from && { from }),
  });
  const kept = keptOf(day, made, found.steps);
  const blocks = blocksOf(day, made, found.steps);
  const worst = kept
    .filter(({ chance }) => chance !== null && chance < SURE)
    .toSorted((a, b) => (a.promisedMs ?? 0) - (b.promisedMs ?? 0))[0];
  return {
    madeMs: day.nowMs,
    blocks: blocks.map((block) => ({ ...block, why: whyNotEarlier(block, blocks, day, made) })),
    kept,
    testsLate: day.cards
      .filter(({ serviceId, testByMs }) =>
        blocks.some(
          (block) =>
            testByMs !== null && block.serviceId === serviceId && block.id === "baseline" && block.endMs > testByMs,
        ),
      )
      .map(({ serviceId }) => serviceId),
    newcomerMs: newcomerOf(day, found.steps, options),
    risk: worst
      ? {
          serviceId: worst.serviceId,
          chance: worst.chance ?? 0,
          saves: savedBy(day, worst.serviceId, worst.chance ?? 0, options),
        }
      : null,
  };
}

function keptOf(day: Day, made: DayShop, steps: Parameters<typeof simulate>[1]): Kept[] {
  const ends = simulate(made.shop, steps, RUNS, seeded(11), (job, step, random) => {
    const minutes = made.shop.jobs[job]?.steps[step]?.durationMin ?? 0;
    return minutes * Math.exp((made.steps[job]?.[step]?.sdLog ?? 0) * random.normal());
  });
  const ms = (minutes: number): number => day.nowMs + minutes * MS_A_MIN;
  return day.cards.map(({ serviceId, promisedMs }, job) => {
    const sorted = (ends[job] ?? new Float64Array(1)).toSorted();
    const planned = steps.filter((one) => one.job === serviceId).reduce((end, one) => Math.max(end, one.endMin), 0);
    const inTime = promisedMs === null ? 0 : sorted.filter((end) => ms(end) <= promisedMs + 1).length;
    return {
      serviceId,
      endMs: ms(planned),
      surelyMs: ms(sorted[Math.ceil(SURE * sorted.length) - 1] ?? planned),
      promisedMs,
      chance: promisedMs === null ? null : inTime / sorted.length,
    };
  });
}

/** Blocks with the bench or the person they fall to. */
function blocksOf(day: Day, made: DayShop, steps: Parameters<typeof simulate>[1]): PlannedBlock[] {
  const lanes = new Map([
    ...day.people.map((_, at): [string, number] => [personId(at), at]),
    ...day.benches.map(({ id }, at): [string, number] => [benchId(id), at]),
    [benchId("any"), 0] as [string, number],
  ]);
  let at = 0;
  return made.shop.jobs.flatMap((job, j) =>
    job.steps.map((step, s): PlannedBlock => {
      const planned = steps[at++];
      const more = made.steps[j]?.[s];
      return {
        serviceId: job.id,
        id: step.id,
        kind: more?.kind ?? "hands",
        begun: more?.begun ?? false,
        held: step.heldMin !== null && !(more?.begun ?? false),
        startMs: day.nowMs + (planned?.startMin ?? 0) * MS_A_MIN,
        endMs: day.nowMs + (planned?.endMin ?? 0) * MS_A_MIN,
        lane: lanes.get(planned?.takes ?? "") ?? -1,
        why: "",
      };
    }),
  );
}

const NEWCOMER = "newcomer";

/** When a card with all stations ahead of it would be done that goes behind all others. */
function newcomerOf(day: Day, planned: Parameters<typeof simulate>[1], options: ScheduleOptions): number {
  const other: Day = {
    ...day,
    cards: [
      ...day.cards,
      {
        serviceId: NEWCOMER,
        cardId: "",
        name: "",
        ahead: Object.keys(STATION_WORK),
        clocks: [],
        running: null,
        inHands: null,
        promisedMs: null,
        testByMs: null,
        weight: 1,
        partsMs: null,
        held: {},
      },
    ],
  };
  const made = dayShop(other);
  const { steps } = schedule(made.shop, {
    most: FEW_LOOKS,
    ...(options.isCancelled && { isCancelled: options.isCancelled }),
    from: new Map(planned.map(({ job, step, startMin }) => [stepKey(job, step), startMin])),
  });
  return keptOf(other, made, steps).find(({ serviceId }) => serviceId === NEWCOMER)?.surelyMs ?? day.nowMs;
}
const FEW_LOOKS = 20;

const said = (value: number): string => `${Math.round(100 * value)} %`;

/** Whether the card comes in time where it goes before all others, or where people stay longer. */
function savedBy(day: Day, serviceId: string, chance: number, options: ScheduleOptions): string {
  const again = (other: Day): number => {
    const made = dayShop(other);
    const now = options.now;
    const left = now && options.until !== undefined ? Math.max(20, options.until - now()) / 2 : undefined;
    const found = schedule(made.shop, {
      patience: PATIENCE,
      ...options,
      most: Math.ceil((options.most ?? 400) / 4),
      ...(now && left !== undefined && { until: now() + left }),
    });
    return keptOf(other, made, found.steps).find((one) => one.serviceId === serviceId)?.chance ?? 0;
  };
  const better = (value: number): boolean => value >= SURE || value > chance + 0.2;
  const first = again({
    ...day,
    cards: day.cards.map((card) => (card.serviceId === serviceId ? { ...card, weight: 1000 } : card)),
  });
  if (better(first)) return `Put it before all others: then ${said(first)}.`;
  const next = day.closed.find(({ fromMs }) => fromMs > day.nowMs);
  const LONGER_MS = 120 * MS_A_MIN;
  if (next && next.untilMs - next.fromMs > LONGER_MS) {
    const longer = again({
      ...day,
      closed: day.closed.map((one) => (one === next ? { ...one, fromMs: one.fromMs + LONGER_MS } : one)),
    });
    if (better(longer)) return `Stay two hours longer before the next closing time: then ${said(longer)}.`;
  }
  return "";
}

/** Starts by service and step, to go on from. */
export const startsOf = ({ blocks }: Pick<DayPlan, "blocks">): Map<string, number> =>
  new Map(blocks.map(({ serviceId, id, startMs }) => [stepKey(serviceId, id), startMs]));
