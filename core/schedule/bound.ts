import { type Closed, headsOf, type Model, tailsOf } from "./model.ts";

/** So many steps of one resource are compared in pairs; of more, only the longest ways count. */
const MOST_PAIRED = 1500;

/**
 * No plan is done sooner, min: the longest way through a job, and for every resource the work that can't begin before a moment and has to
 * be followed by so much (with one unit this is the preemptive bound of Jackson 1955 and Carlier 1982), closed times left out.
 */
export function lowerBound(model: Model): number {
  const heads = headsOf(model);
  const tails = tailsOf(model);
  let bound = 0;
  for (let step = 0; step < model.count; step++) bound = Math.max(bound, (heads[step] ?? 0) + (tails[step] ?? 0));
  for (const { users: its, capacity, closed } of poolsOf(model)) {
    const users = its
      .filter((step) => (model.durations[step] ?? 0) > 0)
      .map((step) => ({
        head: heads[step] ?? 0,
        work: model.durations[step] ?? 0,
        tail: (tails[step] ?? 0) - (model.durations[step] ?? 0),
      }));
    if (users.length === 0 || users.length > MOST_PAIRED) continue;
    users.sort((a, b) => b.head - a.head);
    for (const least of new Set(users.map(({ tail }) => tail))) {
      let work = 0;
      for (const user of users) {
        if (user.tail < least) continue;
        work += user.work;
        bound = Math.max(bound, afterWork(user.head, work / capacity, closed) + least);
      }
    }
  }
  return bound;
}

interface Pool {
  users: number[];
  capacity: number;
  closed: readonly Closed[];
}

/** Every resource with its users, and every set of which one is taken with those that take from nowhere else. */
function poolsOf(model: Model): Pool[] {
  const steps = [...model.needs.keys()];
  const single = [...model.capacity.entries()].map(
    ([resource, capacity]): Pool => ({
      users: steps.filter((step) => model.needs[step]?.includes(resource)),
      capacity,
      closed: (model.closed[resource] ?? []).toSorted((a, b) => a.from - b.from),
    }),
  );
  const sets = new Map(
    model.oneOf.filter((set) => set.length > 0).map((set) => [set.toSorted((a, b) => a - b).join(" "), set]),
  );
  const several = [...sets.values()].map(
    (set): Pool => ({
      users: steps.filter((step) => {
        const own = model.oneOf[step] ?? [];
        return own.length > 0 && own.every((one) => set.includes(one));
      }),
      capacity: set.reduce((sum, one) => sum + (model.capacity[one] ?? 0), 0),
      // Closed only while all of them are; where they differ, that is left out: the bound only gets lower.
      closed: set.every((one) => JSON.stringify(model.closed[one]) === JSON.stringify(model.closed[set[0] ?? 0]))
        ? (model.closed[set[0] ?? 0] ?? []).toSorted((a, b) => a.from - b.from)
        : [],
    }),
  );
  return [...single, ...several];
}

/** When so much work is done that begins at a moment and rests while it is closed. */
function afterWork(from: number, work: number, closed: readonly Closed[]): number {
  let at = from;
  let left = work;
  for (const one of closed) {
    if (one.until <= at) continue;
    if (at + left <= one.from) break;
    left -= Math.max(0, one.from - at);
    at = one.until;
  }
  return at + left;
}
