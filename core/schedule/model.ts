import { afterOf, type Shop } from "./shop.ts";

export interface Closed {
  from: number;
  until: number;
}

/** A shop in numbers: steps by their place in one list, resources and jobs by theirs. Minutes. */
export interface Model {
  count: number;
  durations: Float64Array;
  before: ReadonlyArray<readonly number[]>;
  behind: ReadonlyArray<readonly number[]>;
  needs: ReadonlyArray<readonly number[]>;
  /** Of which one is taken besides; empty where none is. */
  oneOf: ReadonlyArray<readonly number[]>;
  jobOf: Int32Array;
  earliest: Float64Array;
  /** Not a number for a step that is free. */
  held: Float64Array;
  capacity: Int32Array;
  closed: ReadonlyArray<readonly Closed[]>;
  due: Float64Array;
  /** Steps that are due by themselves, and when. */
  stepDues: ReadonlyArray<{ step: number; due: number }>;
  weight: Float64Array;
  /** Steps of each job. */
  stepsOf: ReadonlyArray<readonly number[]>;
  /** An order in which nothing comes before what it waits for. */
  topological: readonly number[];
}

/** @param shop as `readShop` gave it */
export function modelOf(shop: Shop): Model {
  const resource = new Map(shop.resources.map(({ id }, index) => [id, index]));
  const durations: number[] = [];
  const earliest: number[] = [];
  const held: number[] = [];
  const jobOf: number[] = [];
  const needs: number[][] = [];
  const oneOf: number[][] = [];
  const before: number[][] = [];
  const stepsOf: number[][] = [];
  for (const [j, { steps }] of shop.jobs.entries()) {
    const first = durations.length;
    const place = new Map(steps.map(({ id }, index) => [id, first + index]));
    stepsOf.push([...place.values()]);
    for (const [s, step] of steps.entries()) {
      durations.push(step.durationMin);
      earliest.push(step.earliestMin);
      held.push(step.heldMin ?? Number.NaN);
      jobOf.push(j);
      needs.push(step.needs.flatMap((id) => resource.get(id) ?? []));
      oneOf.push(step.oneOf.flatMap((id) => resource.get(id) ?? []));
      before.push(afterOf(steps, s).flatMap((id) => place.get(id) ?? []));
    }
  }
  const behind: number[][] = durations.map(() => []);
  for (const [step, waits] of before.entries()) for (const one of waits) behind[one]?.push(step);
  return {
    count: durations.length,
    durations: Float64Array.from(durations),
    before,
    behind,
    needs,
    oneOf,
    jobOf: Int32Array.from(jobOf),
    earliest: Float64Array.from(earliest),
    held: Float64Array.from(held),
    capacity: Int32Array.from(shop.resources.map(({ capacity }) => capacity)),
    closed: shop.resources.map(({ closed }) =>
      closed
        .filter(({ fromMin, untilMin }) => untilMin > fromMin)
        .map(({ fromMin, untilMin }) => ({ from: fromMin, until: untilMin })),
    ),
    stepDues: shop.jobs
      .flatMap(({ steps }) => steps)
      .flatMap(({ dueMin }, step) => (dueMin === null ? [] : [{ step, due: dueMin }])),
    due: Float64Array.from(shop.jobs.map(({ dueMin }) => dueMin ?? Number.POSITIVE_INFINITY)),
    weight: Float64Array.from(shop.jobs.map(({ weight }) => weight ?? 1)),
    stepsOf,
    topological: topologicalOf(before, behind),
  };
}

function topologicalOf(before: ReadonlyArray<readonly number[]>, behind: ReadonlyArray<readonly number[]>): number[] {
  const waits = before.map((list) => list.length);
  const ready = waits.flatMap((many, step) => (many === 0 ? [step] : []));
  for (let at = 0; at < ready.length; at++)
    for (const next of behind[ready[at] ?? -1] ?? []) {
      waits[next] = (waits[next] ?? 0) - 1;
      if (waits[next] === 0) ready.push(next);
    }
  return ready;
}

/** Longest way from each step's start to the end of all that waits for it, min. */
export function tailsOf(model: Model): Float64Array {
  const tails = new Float64Array(model.count);
  for (const step of model.topological.toReversed()) {
    let longest = 0;
    for (const next of model.behind[step] ?? []) longest = Math.max(longest, tails[next] ?? 0);
    tails[step] = longest + (model.durations[step] ?? 0);
  }
  return tails;
}

/** Earliest start of each step with nothing else in the shop, min. */
export function headsOf(model: Model): Float64Array {
  const heads = new Float64Array(model.count);
  for (const step of model.topological) {
    let head = model.earliest[step] ?? 0;
    for (const one of model.before[step] ?? []) head = Math.max(head, (heads[one] ?? 0) + (model.durations[one] ?? 0));
    const heldAt = model.held[step] ?? Number.NaN;
    heads[step] = Number.isNaN(heldAt) ? head : Math.max(head, heldAt);
  }
  return heads;
}
