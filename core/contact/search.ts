import { nth } from "../numeric/index.ts";

/** What one choice comes to with the gaps as they are meant. */
export interface Tried {
  seated: boolean;
  /** Per place, mm: the least distance of part and cooler over the pad's area, board bow included. */
  clearanceMm: readonly number[];
  forceN: readonly number[];
}

/** What a choice comes to over sampled gaps, as shares of the cases. */
export interface Chances {
  touches: readonly number[];
  seats: number;
}

/** Which pad goes where: a choice is an index into each place's offers, −1 for none. */
export interface PadSearch {
  /** Total thickness of each offer at each place, rising, mm. */
  offersMm: ReadonlyArray<readonly number[]>;
  /** Places that are alike and move together as well as alone. */
  alike: ReadonlyArray<readonly number[]>;
  /** Half-width of what a gap may be off by, mm. */
  toleranceMm: readonly number[];
  solve(choice: readonly number[]): Tried;
  sample(choice: readonly number[], count: number): Chances;
}

/** So many choices are all tried. */
const MOST_AT_ONCE = 80;
const FINALISTS = 4;
const FEW = 12;
const MOST_SOLVES = 80;
const MOST_SAMPLED = 10;
/** Touching or seating more often than this is as good as always. */
const SURE = 0.95;
/** A place is served where its pad touches in most cases. */
const MOST = 0.5;

/** Better first: the die seats, more places touch in most cases, they do so more surely, nearer to what a flat board would take, less force. */
type Score = readonly [seats: number, served: number, sure: number, usual: number, gentle: number];

const isBetter = (one: Score, other: Score): boolean => {
  for (let k = 0; k < one.length; k++) {
    const gap = nth(one, k) - nth(other, k);
    if (Math.abs(gap) > 1e-9) return gap > 0;
  }
  return false;
};

const scored = (seats: number, touches: readonly number[], usual: number, forceN: readonly number[]): Score => [
  seats >= MOST ? 1 : 0,
  touches.filter((share) => share >= MOST).length,
  touches.length * Math.min(SURE, seats) + touches.reduce((sum, share) => sum + Math.min(SURE, share), 0),
  -usual,
  -forceN.reduce((sum, force) => sum + force, 0),
];

/**
 * Looks for the choice with which the die seats and as many places as can be are touched, in both directions: thicker where the board bends away,
 * thinner than the flat gap where it bows toward the cooler. Small tasks are tried whole; others from the given starts, one place or all alike ones
 * a step at a time (the first start is what a flat board would take); the end is judged by sampled gaps, and no place is left bare that an offer would serve.
 */
export function searchPads(search: PadSearch, starts: ReadonlyArray<readonly number[]>): number[] {
  const { offersMm } = search;
  const all = offersMm.reduce((product, offers) => product * (offers.length + 1), 1);
  const first = starts[0] ?? offersMm.map(() => -1);
  const fromUsual = (choice: readonly number[]): number =>
    choice.reduce((sum, pick, place) => sum + Math.abs(pick - nth(first, place)), 0);
  const forces = new Map<string, readonly number[]>();
  const atOnce = new Map<string, Score>();
  const judged = (choice: readonly number[]): Score => {
    const key = choice.join();
    const known = atOnce.get(key);
    if (known) return known;
    const { seated, clearanceMm, forceN } = search.solve(choice);
    const touches = choice.map((pick, place) => touchShare(search, place, pick, nth(clearanceMm, place)));
    const score = scored(seated ? 1 : 0, touches, fromUsual(choice), forceN);
    atOnce.set(key, score);
    forces.set(key, forceN);
    return score;
  };
  const chances = new Map<string, Chances>();
  const chancesOf = (choice: readonly number[]): Chances => {
    const known = chances.get(choice.join()) ?? search.sample(choice, FEW);
    chances.set(choice.join(), known);
    return known;
  };
  const sampled = (choice: readonly number[]): Score => {
    judged(choice);
    const { touches, seats } = chancesOf(choice);
    return scored(
      seats,
      touches.map((share, place) => (choice[place] === -1 ? 0 : share)),
      fromUsual(choice),
      forces.get(choice.join()) ?? [],
    );
  };
  const finalists = all <= MOST_AT_ONCE ? ranked(everyChoice(offersMm), judged) : [climb(search, starts, judged)];
  let best = { choice: first, score: sampled(first) };
  for (const choice of finalists) {
    const score = sampled(choice);
    if (isBetter(score, best.score)) best = { choice, score };
  }
  return mend(search, best, { sampled, chancesOf, forces });
}

/** Share of the gaps that a pad still reaches, when each may be off by the tolerance either way alike. */
function touchShare({ offersMm, toleranceMm }: PadSearch, place: number, pick: number, clearanceMm: number): number {
  if (pick < 0) return 0;
  const spare = nth(offersMm[place] ?? [], pick) - clearanceMm;
  const tolerance = nth(toleranceMm, place);
  if (tolerance <= 0) return spare > 0 ? 1 : 0;
  return Math.min(1, Math.max(0, (spare + tolerance) / (2 * tolerance)));
}

function* everyChoice(offersMm: PadSearch["offersMm"], place = 0): Generator<number[]> {
  if (place === offersMm.length) return yield [];
  for (const rest of everyChoice(offersMm, place + 1))
    for (let pick = -1; pick < (offersMm[place]?.length ?? 0); pick++) yield [pick, ...rest];
}

function ranked(choices: Iterable<number[]>, judged: (choice: readonly number[]) => Score): number[][] {
  return [...choices]
    .map((choice) => ({ choice, score: judged(choice) }))
    .sort((a, b) => (isBetter(a.score, b.score) ? -1 : isBetter(b.score, a.score) ? 1 : 0))
    .slice(0, FINALISTS)
    .map(({ choice }) => choice);
}

/** From the best of the starts, the first step that makes it better, until none does. */
function climb(
  { offersMm, alike }: PadSearch,
  starts: ReadonlyArray<readonly number[]>,
  judged: (choice: readonly number[]) => Score,
): number[] {
  const moves = [...alike.filter((group) => group.length > 1), ...offersMm.map((_, place) => [place])];
  let best = { choice: [...(starts[0] ?? [])], score: judged(starts[0] ?? []) };
  for (const start of starts.slice(1)) {
    const score = judged(start);
    if (isBetter(score, best.score)) best = { choice: [...start], score };
  }
  let left = MOST_SOLVES;
  for (let improved = true; improved && left > 0; ) {
    improved = false;
    for (const places of moves)
      for (const step of [1, -1]) {
        if (left <= 0) break;
        const choice = best.choice.map((pick, place) =>
          places.includes(place) ? Math.max(-1, Math.min((offersMm[place]?.length ?? 0) - 1, pick + step)) : pick,
        );
        if (choice.join() === best.choice.join()) continue;
        left--;
        const score = judged(choice);
        if (!isBetter(score, best.score)) continue;
        best = { choice, score };
        improved = true;
      }
  }
  return best.choice;
}

/** By sampled gaps: a bare or unsure place takes what serves it, and where the die does not seat the hardest gives way. */
function mend(
  { offersMm }: PadSearch,
  start: { choice: readonly number[]; score: Score },
  {
    sampled,
    chancesOf,
    forces,
  }: {
    sampled: (choice: readonly number[]) => Score;
    chancesOf: (choice: readonly number[]) => Chances;
    forces: ReadonlyMap<string, readonly number[]>;
  },
): number[] {
  let best = start;
  const budget = { left: MOST_SAMPLED };
  const tries = (choice: readonly number[]): boolean => {
    if (budget.left <= 0) return false;
    budget.left--;
    const score = sampled(choice);
    if (!isBetter(score, best.score)) return false;
    best = { choice, score };
    return true;
  };
  const replaced = (place: number, pick: number): number[] => best.choice.map((own, k) => (k === place ? pick : own));
  for (let improved = true; improved && budget.left > 0; ) {
    improved = false;
    const { touches, seats } = chancesOf(best.choice);
    const weak = best.choice.flatMap((pick, place) => (pick < 0 || nth(touches, place) < MOST ? [place] : []));
    for (const place of weak) {
      const offers = offersMm[place]?.length ?? 0;
      for (let pick = 0; pick < offers && !improved; pick++)
        if (pick !== best.choice[place]) improved = tries(replaced(place, pick));
      if (improved) break;
    }
    if (improved || seats >= MOST) continue;
    const forceN = forces.get(best.choice.join()) ?? [];
    const hardest = [...best.choice.keys()].sort((a, b) => nth(forceN, b) - nth(forceN, a))[0];
    if (hardest !== undefined && nth(best.choice, hardest) >= 0)
      improved = tries(replaced(hardest, nth(best.choice, hardest) - 1));
  }
  return [...best.choice];
}
