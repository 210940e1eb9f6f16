import type { Random } from "../random/index.ts";
import { Decoder, isBetter, type Worth } from "./decode.ts";
import { type Model, tailsOf } from "./model.ts";

export interface Search {
  random: Random;
  /** Asked now and then. */
  isOver: () => boolean;
  /** A plan this good needs no more looking. */
  isEnough: (worth: Worth) => boolean;
  /** Orders tried in a row, for each step of the shop, that brought no better plan: then there is hardly one. */
  patience: number;
  onBetter?: (worth: Worth) => void;
}

export interface Found {
  worth: Worth;
  starts: Float64Array;
  /** What each step takes of several, as in the model; −1 for none. */
  taken: Int32Array;
}

/** A minute late weighs like so many of the makespan while looking; what is kept is compared strictly. */
const LATE = 4;
const BROKEN = 50;
/** Where all else is equal, jobs that end early keep ways open. */
const EARLY = 0.02;
const COOL = { first: 0.004, last: 0.0001, shortest: 1500, longest: 60_000, grows: 1.6 };
const CHECK_EVERY = 16;
const SETTLE_EVERY = 40;

const worthOf = ({ weightedLateness, makespan, brokenMin }: Worth): number =>
  makespan + LATE * weightedLateness + BROKEN * brokenMin;

/**
 * Anneals the order in which steps are placed (simulated annealing, Kirkpatrick, Gelatt & Vecchi 1983), from several rules, in cycles that grow.
 * @param first starts of a plan to go on from
 */
export function anneal(model: Model, search: Search, first?: ArrayLike<number>): Found {
  const { random } = search;
  const decoder = new Decoder(model);
  let best: Found | null = null;
  let inVain = 0;
  let bestOrder = Int32Array.from(model.topological);
  const note = (worth: Worth, order: Int32Array): void => {
    if (best && !isBetter(worth, best.worth)) return;
    best = { worth, starts: decoder.starts.slice(), taken: decoder.taken.slice() };
    inVain = 0;
    bestOrder = order.slice();
    search.onBetter?.(worth);
  };
  for (const key of [...(first ? [Float64Array.from(first)] : []), ...rulesOf(model)]) {
    const order = sortedBy(model, key);
    for (let turn = 0; turn < 3; turn++) {
      note(decoder.decode(order), order);
      settle(model, order, decoder.starts);
    }
  }
  if (!best) throw new RangeError("There is no rule to begin with.");
  const found = (): Found => best ?? { worth: decoder.decode(bestOrder), starts: decoder.starts, taken: decoder.taken };
  if (model.count < 2) return found();

  const place = new Int32Array(model.count);
  const before = new Int32Array(model.count);
  for (let steps = COOL.shortest; !search.isEnough(found().worth); steps = Math.min(COOL.longest, steps * COOL.grows)) {
    const order = bestOrder.slice();
    for (const [at, step] of order.entries()) place[step] = at;
    let now = worthOf(found().worth) + EARLY * decoder.meanEnd();
    const scale = Math.max(1, worthOf(found().worth));
    let accepted = 0;
    for (let k = 0; k < steps; k++) {
      if (k % CHECK_EVERY === 0 && (search.isOver() || inVain > search.patience * model.count)) return found();
      inVain++;
      const warmth = scale * COOL.first * (COOL.last / COOL.first) ** (k / steps);
      before.set(order);
      if (!change(model, order, place, random)) continue;
      const worth = decoder.decode(order);
      const next = worthOf(worth) + EARLY * decoder.meanEnd();
      if (next <= now || random.uniform() < Math.exp((now - next) / warmth)) {
        now = next;
        note(worth, order);
        if (search.isEnough(worth)) return found();
        if (++accepted % SETTLE_EVERY === 0) {
          settle(model, order, decoder.starts);
          for (const [at, step] of order.entries()) place[step] = at;
        }
      } else {
        order.set(before);
        for (let at = 0; at < order.length; at++) place[order[at] ?? 0] = at;
      }
    }
  }
  return found();
}

/** Orders to begin with: due first, longest rest first, least slack first, as written. */
function rulesOf(model: Model): Float64Array[] {
  const tails = tailsOf(model);
  const byJob = (value: (job: number) => number): Float64Array =>
    Float64Array.from(model.topological.keys(), (step) => value(model.jobOf[step] ?? 0));
  const due = (job: number): number => Math.min(1e9, model.due[job] ?? 1e9);
  return [
    byJob((job) => due(job) - (model.weight[job] ?? 0) / 1e6),
    Float64Array.from(tails, (tail) => -tail),
    Float64Array.from(tails, (tail, step) => due(model.jobOf[step] ?? 0) - tail),
    byJob((job) => job),
  ];
}

/** Steps by a key, none before what it waits for. */
function sortedBy(model: Model, key: Float64Array): Int32Array {
  const waits = Int32Array.from(model.before, (list) => list.length);
  const ready = [...waits.keys()].filter((step) => waits[step] === 0);
  const order = new Int32Array(model.count);
  for (let at = 0; at < model.count; at++) {
    let pick = 0;
    for (let k = 1; k < ready.length; k++) if ((key[ready[k] ?? 0] ?? 0) < (key[ready[pick] ?? 0] ?? 0)) pick = k;
    const step = ready[pick] ?? 0;
    ready[pick] = ready.at(-1) ?? 0;
    ready.pop();
    order[at] = step;
    for (const next of model.behind[step] ?? []) {
      waits[next] = (waits[next] ?? 0) - 1;
      if (waits[next] === 0) ready.push(next);
    }
  }
  return order;
}

/** The same plan in the order of its starts: neighbours in the list are then neighbours in time. */
function settle(model: Model, order: Int32Array, starts: Float64Array): void {
  const rank = new Int32Array(model.count);
  for (const [at, step] of model.topological.entries()) rank[step] = at;
  order.sort((a, b) => (starts[a] ?? 0) - (starts[b] ?? 0) || (rank[a] ?? 0) - (rank[b] ?? 0));
}

/** One step elsewhere, a whole job elsewhere, or two jobs in each other’s places; false where nothing changed. */
function change(model: Model, order: Int32Array, place: Int32Array, random: Random): boolean {
  const kind = random.uniform();
  if (kind < STEP_SHARE || model.stepsOf.length < 2) {
    const [from, to] = moveOf(model, order, place, random);
    if (from === to) return false;
    shift(order, place, from, to);
    return true;
  }
  const any = (): readonly number[] => model.stepsOf[Math.floor(random.uniform() * model.stepsOf.length)] ?? [];
  const steps = any();
  if (kind < BLOCK_UPTO) blockTo(order, steps, place, Math.floor(random.uniform() * order.length));
  else {
    const others = any();
    if (others === steps || others.length !== steps.length) return false;
    const [mine, theirs] = [inOrder(steps, place), inOrder(others, place)];
    const [here, there] = [mine.map((step) => place[step] ?? 0), theirs.map((step) => place[step] ?? 0)];
    for (const [k, step] of mine.entries()) order[there[k] ?? 0] = step;
    for (const [k, step] of theirs.entries()) order[here[k] ?? 0] = step;
  }
  for (let at = 0; at < order.length; at++) place[order[at] ?? 0] = at;
  return true;
}
const STEP_SHARE = 0.5;
const BLOCK_UPTO = 0.8;

const inOrder = (steps: readonly number[], place: Int32Array): number[] =>
  steps.toSorted((a, b) => (place[a] ?? 0) - (place[b] ?? 0));

/** All steps of a job, one behind the other, from a place on. */
function blockTo(order: Int32Array, steps: readonly number[], place: Int32Array, to: number): void {
  const mine = inOrder(steps, place);
  const own = new Set(mine);
  const others = order.filter((step) => !own.has(step));
  const at = Math.min(to, others.length);
  order.set(others.subarray(0, at));
  order.set(mine, at);
  order.set(others.subarray(at), at + mine.length);
}

/** A step and the place it goes to, between what it waits for and what waits for it; near places more often. */
function moveOf(model: Model, order: Int32Array, place: Int32Array, random: Random): [number, number] {
  const from = Math.floor(random.uniform() * model.count);
  const step = order[from] ?? 0;
  let least = 0;
  for (const one of model.before[step] ?? []) least = Math.max(least, (place[one] ?? 0) + 1);
  let most = model.count - 1;
  for (const one of model.behind[step] ?? []) most = Math.min(most, (place[one] ?? 0) - 1);
  if (most <= least) return [from, from];
  const far = random.uniform() < 0.3;
  const reach = far ? model.count : 1 + Math.floor(8 * random.uniform() ** 2);
  const low = Math.max(least, from - reach);
  const high = Math.min(most, from + reach);
  return [from, low + Math.floor(random.uniform() * (high - low + 1))];
}

function shift(order: Int32Array, place: Int32Array, from: number, to: number): void {
  const step = order[from] ?? 0;
  if (from < to) order.copyWithin(from, from + 1, to + 1);
  else order.copyWithin(to + 1, to, from);
  order[to] = step;
  for (let at = Math.min(from, to); at <= Math.max(from, to); at++) place[order[at] ?? 0] = at;
}
