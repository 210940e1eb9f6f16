import type { Model } from "./model.ts";

/** What a plan is worth: lateness first, then when all is done. */
export interface Worth {
  weightedLateness: number;
  makespan: number;
  /** Minutes by which held steps come before what they wait for, or take what is not free. */
  brokenMin: number;
}

const EPS = 1e-9;

/** How much of a resource is taken, as steps over time. */
class Profile {
  #from = new Float64Array(64);
  #used = new Int32Array(64);
  #size = 1;
  readonly #capacity: number;
  readonly #closedFrom: Float64Array;
  readonly #closedUsed: Int32Array;

  constructor(model: Model, resource: number) {
    this.#capacity = model.capacity[resource] ?? 1;
    this.#from[0] = Number.NEGATIVE_INFINITY;
    for (const { from, until } of model.closed[resource] ?? []) this.#fill(from, until, this.#capacity);
    this.#closedFrom = this.#from.slice(0, this.#size);
    this.#closedUsed = this.#used.slice(0, this.#size);
  }

  clear(): void {
    this.#size = this.#closedFrom.length;
    for (let k = 0; k < this.#size; k++) {
      this.#from[k] = this.#closedFrom[k] ?? 0;
      this.#used[k] = this.#closedUsed[k] ?? 0;
    }
  }

  /** First moment from `at` on at which one unit is free for so long. */
  firstFree(at: number, duration: number): number {
    let found = at;
    for (let index = this.#indexOf(at); index < this.#size; index++) {
      const end = index + 1 < this.#size ? (this.#from[index + 1] ?? 0) : Number.POSITIVE_INFINITY;
      if ((this.#used[index] ?? 0) >= this.#capacity) found = end;
      else if (end >= found + duration - EPS) break;
    }
    return found;
  }

  /** Minutes of the span in which nothing is free. */
  overfull(from: number, until: number): number {
    let sum = 0;
    for (let index = this.#indexOf(from); index < this.#size && (this.#from[index] ?? 0) < until; index++) {
      if ((this.#used[index] ?? 0) < this.#capacity) continue;
      const end = index + 1 < this.#size ? (this.#from[index + 1] ?? 0) : until;
      sum += Math.min(until, end) - Math.max(from, this.#from[index] ?? 0);
    }
    return sum > EPS ? sum : 0;
  }

  take(from: number, until: number): void {
    const first = this.#cut(from);
    const last = this.#cut(until);
    for (let index = first; index < last; index++) this.#used[index] = (this.#used[index] ?? 0) + 1;
    // Spans that are alike become one: where work follows on work there is little to look through.
    if (this.#used[last] === this.#used[last - 1]) this.#drop(last);
    if (first > 0 && this.#used[first] === this.#used[first - 1]) this.#drop(first);
  }

  #drop(index: number): void {
    const from = this.#from;
    const used = this.#used;
    this.#size--;
    for (let k = index; k < this.#size; k++) {
      from[k] = from[k + 1] ?? 0;
      used[k] = used[k + 1] ?? 0;
    }
  }

  #fill(from: number, until: number, used: number): void {
    const first = this.#cut(from);
    const last = this.#cut(until);
    for (let index = first; index < last; index++) this.#used[index] = used;
  }

  #indexOf(at: number): number {
    let [low, high] = [0, this.#size - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((this.#from[middle] ?? 0) <= at + EPS) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  /** The index at which a span begins exactly at this moment. */
  #cut(at: number): number {
    const index = this.#indexOf(at);
    if (Math.abs((this.#from[index] ?? 0) - at) <= EPS) return index;
    if (this.#size + 1 >= this.#from.length) {
      this.#from = grown(this.#from, new Float64Array(2 * this.#from.length));
      this.#used = grown(this.#used, new Int32Array(2 * this.#used.length));
    }
    // By hand: spans are few, and a call into the engine costs more than they do.
    const from = this.#from;
    const used = this.#used;
    for (let k = this.#size; k > index + 1; k--) {
      from[k] = from[k - 1] ?? 0;
      used[k] = used[k - 1] ?? 0;
    }
    from[index + 1] = at;
    used[index + 1] = used[index] ?? 0;
    this.#size++;
    return index + 1;
  }
}

const grown = <T extends Float64Array | Int32Array>(from: T, to: T): T => {
  to.set(from);
  return to;
};

/** Turns an order of steps into starts: each as early as what it waits for and what it needs allow, into gaps too (serial generation). */
export class Decoder {
  readonly starts: Float64Array;
  /** Which of several each step takes; −1 where it has no choice. */
  readonly taken: Int32Array;
  readonly #profiles: Profile[];
  readonly #held: number[];
  readonly #ends: Float64Array;

  constructor(readonly model: Model) {
    this.starts = new Float64Array(model.count);
    this.taken = new Int32Array(model.count).fill(-1);
    this.#profiles = Array.from(model.capacity, (_, resource) => new Profile(model, resource));
    this.#held = [...model.held.keys()].filter((step) => !Number.isNaN(model.held[step]));
    this.#ends = new Float64Array(model.due.length);
  }

  /** @param order every step once, none before what it waits for; @returns its worth, starts in `starts` */
  decode(order: ArrayLike<number>): Worth {
    const { model, starts } = this;
    let brokenMin = 0;
    for (let k = 0; k < this.#profiles.length; k++) this.#profiles[k]?.clear();
    for (const step of this.#held) {
      const from = model.held[step] ?? 0;
      brokenMin += this.#place(step, from);
    }
    for (let at = 0; at < order.length; at++) {
      const step = order[at] ?? 0;
      let earliest = model.earliest[step] ?? 0;
      for (const one of model.before[step] ?? [])
        earliest = Math.max(earliest, (starts[one] ?? 0) + (model.durations[one] ?? 0));
      const heldAt = model.held[step] ?? Number.NaN;
      if (Number.isNaN(heldAt)) this.#place(step, this.#free(step, earliest));
      else brokenMin += Math.max(0, earliest - heldAt - EPS);
    }
    return { ...this.#worth(), brokenMin };
  }

  /** Mean end of the jobs of the last plan, min. */
  meanEnd(): number {
    let sum = 0;
    for (const end of this.#ends) sum += Math.max(0, end);
    return sum / Math.max(1, this.#ends.length);
  }

  /** When it can begin; chooses what it takes of several. */
  #free(step: number, earliest: number): number {
    const needs = this.model.needs[step] ?? [];
    const duration = this.model.durations[step] ?? 0;
    // No time at all needs nothing.
    if (duration <= 0) return earliest;
    const others = this.model.oneOf[step] ?? [];
    if (others.length === 0) return this.#freeWith(needs, -1, earliest, duration);
    let best = Number.POSITIVE_INFINITY;
    for (const other of others) {
      const at = this.#freeWith(needs, other, earliest, duration);
      if (at < best - EPS) {
        best = at;
        this.taken[step] = other;
      }
    }
    return best;
  }

  #freeWith(needs: readonly number[], other: number, earliest: number, duration: number): number {
    let at = other < 0 ? earliest : (this.#profiles[other]?.firstFree(earliest, duration) ?? earliest);
    for (;;) {
      const before = at;
      at = this.#freeOf(needs, at, duration);
      if (other < 0) return at;
      const next = this.#profiles[other]?.firstFree(at, duration) ?? at;
      if (next === at && at === before) return at;
      at = next;
    }
  }

  #freeOf(needs: readonly number[], earliest: number, duration: number): number {
    let at = earliest;
    for (let settled = 0; settled < needs.length; )
      for (const need of needs) {
        const next = this.#profiles[need]?.firstFree(at, duration) ?? at;
        settled = next > at ? 1 : settled + 1;
        at = Math.max(at, next);
        if (settled >= needs.length) break;
      }
    return at;
  }

  #place(step: number, from: number): number {
    const { model } = this;
    const duration = model.durations[step] ?? 0;
    this.starts[step] = from;
    if (duration <= 0) return 0;
    const isHeld = !Number.isNaN(model.held[step]);
    const others = model.oneOf[step] ?? [];
    let over = 0;
    for (const need of model.needs[step] ?? []) over += this.#take(need, from, duration, isHeld);
    if (others.length > 0) {
      if (isHeld) this.taken[step] = this.#freest(others, from, duration);
      over += this.#take(this.taken[step] ?? 0, from, duration, isHeld);
    }
    return over;
  }

  #take(resource: number, from: number, duration: number, isHeld: boolean): number {
    const profile = this.#profiles[resource];
    const over = isHeld ? (profile?.overfull(from, from + duration) ?? 0) : 0;
    profile?.take(from, from + duration);
    return over;
  }

  #freest(others: readonly number[], from: number, duration: number): number {
    let [best, least] = [others[0] ?? 0, Number.POSITIVE_INFINITY];
    for (const other of others) {
      const over = this.#profiles[other]?.overfull(from, from + duration) ?? 0;
      if (over < least) [best, least] = [other, over];
    }
    return best;
  }

  #worth(): { weightedLateness: number; makespan: number } {
    const { model, starts } = this;
    const ends = this.#ends.fill(Number.NEGATIVE_INFINITY);
    let makespan = 0;
    for (let step = 0; step < model.count; step++) {
      const end = (starts[step] ?? 0) + (model.durations[step] ?? 0);
      const job = model.jobOf[step] ?? 0;
      if (end > (ends[job] ?? 0)) ends[job] = end;
      if (end > makespan) makespan = end;
    }
    let weightedLateness = 0;
    for (let job = 0; job < ends.length; job++)
      weightedLateness += (model.weight[job] ?? 0) * Math.max(0, (ends[job] ?? 0) - (model.due[job] ?? 0));
    for (const { step, due } of model.stepDues)
      weightedLateness +=
        (model.weight[model.jobOf[step] ?? 0] ?? 0) *
        Math.max(0, (starts[step] ?? 0) + (model.durations[step] ?? 0) - due);
    return { weightedLateness, makespan };
  }
}

/** Whether the first plan is the better one. */
export const isBetter = (a: Worth, b: Worth): boolean =>
  a.brokenMin < b.brokenMin - EPS ||
  (a.brokenMin <= b.brokenMin + EPS &&
    (a.weightedLateness < b.weightedLateness - EPS ||
      (a.weightedLateness <= b.weightedLateness + EPS && a.makespan < b.makespan - EPS)));
