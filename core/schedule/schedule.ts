import { Problem } from "../problem/index.ts";
import { seeded } from "../random/index.ts";
import { anneal, type Found, type Search } from "./anneal.ts";
import { lowerBound } from "./bound.ts";
import type { Worth } from "./decode.ts";
import { modelOf } from "./model.ts";
import type { Shop } from "./shop.ts";
import { isJobShop, tabu } from "./tabu.ts";

export interface PlannedStep {
  job: string;
  step: string;
  startMin: number;
  endMin: number;
  /** What it takes of several; not there where it has no choice. */
  takes?: string;
}

export interface Schedule {
  makespanMin: number;
  /** No plan is done sooner. */
  lowerBoundMin: number;
  /** Of all jobs, weights left out. */
  totalLatenessMin: number;
  steps: PlannedStep[];
}

export interface ScheduleOptions {
  /** Milliseconds by some clock; looking ends when `until` is passed. */
  now?: () => number;
  until?: number;
  /** How often it is asked whether to go on, where there is no clock. */
  most?: number;
  /** Orders tried in a row without a better plan, for each step of the shop, before that is taken as the best; without it all the time is used. */
  patience?: number;
  seed?: number;
  /** A plan to go on from, such as the last one: starts by job and step, as far as they are known. */
  from?: ReadonlyMap<string, number>;
  isCancelled?: () => boolean;
  onProgress?: (share: number) => void;
}

/** Asked every dozen plans or so. */
const USUAL_LOOKS = 4000;
/** Of the time, before a plain job shop is looked at as one. */
const BEFORE_TABU = 0.06;

export const stepKey = (job: string, step: string): string => `${job}\u0000${step}`;

/**
 * When each step of a shop begins: least lateness by weight first, then done soonest. Minutes from the plan's start.
 * @param shop as `readShop` gave it
 * @throws Problem `held-too-early` where a held step can't begin when it is held
 */
export function schedule(shop: Shop, options: ScheduleOptions = {}): Schedule {
  const model = modelOf(shop);
  const bound = lowerBound(model);
  const random = seeded(options.seed ?? 1);
  const begunAt = options.now?.() ?? 0;
  const spanMs = Math.max(1, (options.until ?? begunAt) - begunAt);
  let looks = 0;
  const usedUp = (): number =>
    options.now && options.until !== undefined
      ? (options.now() - begunAt) / spanMs
      : looks / (options.most ?? USUAL_LOOKS);
  const over = (share: number) => (): boolean => {
    looks++;
    const used = usedUp();
    options.onProgress?.(Math.min(1, used));
    return used >= share || (options.isCancelled?.() ?? false);
  };
  const isEnough = ({ brokenMin, weightedLateness, makespan }: Worth): boolean =>
    brokenMin === 0 && weightedLateness === 0 && makespan <= bound + 1e-9;
  const { patience = Number.POSITIVE_INFINITY } = options;
  const search = (share: number): Search => ({ random, isOver: over(share), isEnough, patience });
  const first = options.from && startsOf(shop, options.from);
  const pure = isJobShop(model);
  let found: Found = anneal(model, search(pure ? BEFORE_TABU : 1), first);
  if (pure && !isEnough(found.worth)) found = tabu(model, search(1), found);
  if (found.worth.brokenMin > 1e-6) throw heldTooEarly(shop, found);
  return asSchedule(shop, found, bound);
}

const startsOf = (shop: Shop, from: ReadonlyMap<string, number>): number[] =>
  shop.jobs.flatMap(({ id, steps }) => steps.map((step) => from.get(stepKey(id, step.id)) ?? 1e9));

function asSchedule(shop: Shop, { starts, taken, worth }: Found, bound: number): Schedule {
  const steps: PlannedStep[] = [];
  let totalLatenessMin = 0;
  for (const { id: job, steps: list, dueMin } of shop.jobs) {
    let end = Number.NEGATIVE_INFINITY;
    for (const { id: step, durationMin } of list) {
      const startMin = starts[steps.length] ?? 0;
      const takes = shop.resources[taken[steps.length] ?? -1]?.id;
      steps.push({ job, step, startMin, endMin: startMin + durationMin, ...(takes !== undefined && { takes }) });
      end = Math.max(end, startMin + durationMin);
    }
    if (dueMin !== null && list.length > 0) totalLatenessMin += Math.max(0, end - dueMin);
  }
  return { makespanMin: worth.makespan, lowerBoundMin: bound, totalLatenessMin, steps };
}

const problem = (what: string): Problem =>
  new Problem({ code: "held-too-early", what, remedy: "Let it go, or hold it later." });

function heldTooEarly(shop: Shop, { starts, taken }: Found): Problem {
  const model = modelOf(shop);
  const names = shop.jobs.flatMap(({ id, steps }) => steps.map((step) => `“${step.id}” of “${id}”`));
  const end = (step: number): number => (starts[step] ?? 0) + (model.durations[step] ?? 0);
  const held = [...model.held.keys()].filter((step) => !Number.isNaN(model.held[step]));
  for (const step of held) {
    const from = model.held[step] ?? 0;
    const name = names[step] ?? "";
    if (from < (model.earliest[step] ?? 0)) return problem(`${name} is held before it can begin.`);
    if ((model.before[step] ?? []).some((one) => end(one) > from))
      return problem(`${name} is held before what it waits for is done.`);
    const uses = (one: number): number[] => [...(model.needs[one] ?? []), ...[taken[one] ?? -1].filter((k) => k >= 0)];
    for (const need of uses(step)) {
      const id = shop.resources[need]?.id ?? "";
      if (model.closed[need]?.some((one) => one.from < end(step) && one.until > from))
        return problem(`${name} is held while “${id}” is closed.`);
      const others = held.filter(
        (one) => one !== step && uses(one).includes(need) && (starts[one] ?? 0) < end(step) && end(one) > from,
      );
      if (others.length >= (model.capacity[need] ?? 1))
        return problem(`${name} and ${names[others[0] ?? 0]} are held on “${id}” at the same time.`);
    }
  }
  return problem("The held steps can’t all be where they are held.");
}
