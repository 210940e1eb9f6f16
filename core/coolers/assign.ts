/** What may go where, and what it costs: rows are places, columns kinds of which there are only so many. */
export interface Task {
  /** Null where this kind can't go there. */
  cost: ReadonlyArray<ReadonlyArray<number | null>>;
  /** How many there are of each kind; null for as many as are needed. */
  quantity: ReadonlyArray<number | null>;
}

const EPS = 1e-9;

/**
 * Which kind each place gets, so that the most places are served and the sum of costs is least; null for a place that gets none. Exact: places
 * are served one after the other along the cheapest path of exchanges (successive shortest paths, Bellman–Ford).
 */
export function assign({ cost, quantity }: Task): Array<number | null> {
  const given: Array<number | null> = cost.map(() => null);
  const used = quantity.map(() => 0);
  const left = (kind: number): boolean => (used[kind] ?? 0) < (quantity[kind] ?? Number.POSITIVE_INFINITY);
  // Each round serves one place more; which place that is, the cheapest path decides.
  for (let round = 0; round < cost.length; round++) {
    const path = cheapestPath(cost, given, left);
    if (!path) break;
    for (const { place, kind } of path) {
      const before = given[place] ?? null;
      if (before !== null) used[before] = (used[before] ?? 0) - 1;
      given[place] = kind;
      used[kind] = (used[kind] ?? 0) + 1;
    }
  }
  return given;
}

interface Step {
  place: number;
  kind: number;
}

/** From any place that has none, over exchanges, to any kind of which one is left. */
function cheapestPath(
  cost: Task["cost"],
  given: ReadonlyArray<number | null>,
  left: (kind: number) => boolean,
): Step[] | null {
  const kinds = cost[0]?.length ?? 0;
  const dearness = Array.from({ length: kinds }, () => Number.POSITIVE_INFINITY);
  /** How a kind is come to: this place takes it, giving up what it had. */
  const by: Array<{ place: number; from: number | null } | undefined> = [];
  for (const [place, costs] of cost.entries()) {
    if (given[place] !== null) continue;
    for (const [kind, price] of costs.entries())
      if (price !== null && price < (dearness[kind] ?? 0) - EPS) {
        dearness[kind] = price;
        by[kind] = { place, from: null };
      }
  }
  for (let again = true, rounds = 0; again && rounds <= kinds; rounds++) {
    again = false;
    for (const [place, costs] of cost.entries()) {
      const from = given[place] ?? null;
      if (from === null) continue;
      const base = (dearness[from] ?? 0) - (costs[from] ?? 0);
      for (const [kind, price] of costs.entries())
        if (kind !== from && price !== null && base + price < (dearness[kind] ?? 0) - EPS) {
          dearness[kind] = base + price;
          by[kind] = { place, from };
          again = true;
        }
    }
  }
  let end: number | null = null;
  for (const [kind, price] of dearness.entries())
    if (Number.isFinite(price) && left(kind) && (end === null || price < (dearness[end] ?? 0))) end = kind;
  if (end === null) return null;
  const steps: Step[] = [];
  for (let kind: number | null = end; kind !== null; ) {
    const step: { place: number; from: number | null } | undefined = by[kind];
    if (!step) return null;
    steps.push({ place: step.place, kind });
    kind = step.from;
  }
  return steps;
}
