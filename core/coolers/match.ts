import { Problem } from "../problem/index.ts";
import { bestShift, type Pairing, type Shift } from "./shift.ts";

export interface Match {
  /** Posts over holes; a post without one is not in it. */
  pairings: Pairing[];
  shift: Shift;
}

const EPS = 1e-9;
/** Where not every post finds a hole, a match that leaves the cooler where it was drawn comes before one that moves it further than this. */
const NEAR_MM = 3;
/** Comparisons of two pairings, some tens of nanoseconds each. */
const MOST_LOOKS = 6e6;

/**
 * Which hole each post gets and how the whole cooler is moved for it: the most posts served first, then the largest of distance less allowance
 * smallest. Exact: every set of pairings that can hold together is looked at, cut short where two are too far apart.
 * @throws Problem `holes-too-close` where the holes lie so close together that posts can't be told apart in reasonable time
 */
export function matchPosts(
  posts: ReadonlyArray<{ xMm: number; yMm: number; threadMm: number }>,
  holes: ReadonlyArray<{ xMm: number; yMm: number; diameterMm: number }>,
): Match {
  const all = posts.map((post, index) =>
    holes.flatMap((hole, at): Pairing[] => {
      const allowanceMm = (hole.diameterMm - post.threadMm) / 2;
      if (allowanceMm < -EPS) return [];
      return [{ post: index, hole: at, dxMm: hole.xMm - post.xMm, dyMm: hole.yMm - post.yMm, allowanceMm }];
    }),
  );
  let best: Match = { pairings: [], shift: { dxMm: 0, dyMm: 0, overMm: 0 } };
  let looks = 0;
  const take = (pairings: Pairing[]): void => {
    if (pairings.length === 0 || pairings.length < best.pairings.length) return;
    looks += pairings.length ** 4 / 2;
    const shift = bestShift(pairings);
    if (shift.overMm > EPS) return;
    const found = { pairings, shift };
    if (better(found, best, posts.length)) best = found;
  };
  const deeper = (chosen: Pairing[], rest: readonly Pairing[][]): void => {
    looks += rest.reduce((sum, options) => sum + options.length, 1);
    if (looks > MOST_LOOKS)
      throw new Problem({
        code: "holes-too-close",
        what: "The holes lie too close together to tell which post gets which.",
        where: "board.holes",
        remedy: "Leave out holes that are not for the cooler.",
      });
    const open = rest.filter((options) => options.length > 0);
    if (chosen.length + open.length < best.pairings.length) return;
    if (open.length === 0) return take(chosen);
    // The post with the fewest holes to choose from first.
    const next = open.reduce((fewest, options) => (options.length < fewest.length ? options : fewest));
    const others = open.filter((options) => options !== next);
    for (const one of next)
      deeper(
        [...chosen, one],
        others.map((options) => options.filter((option) => hold(one, option))),
      );
    deeper(chosen, others);
  };
  for (const [post, options] of all.entries())
    for (const first of options)
      deeper(
        [first],
        all.slice(post + 1).map((later) => later.filter((one) => hold(first, one))),
      );
  return best;
}

function better(a: Match, b: Match, posts: number): boolean {
  if (a.pairings.length !== b.pairings.length) return a.pairings.length > b.pairings.length;
  if (a.pairings.length < posts) {
    const near = Math.max(0, far(a) - NEAR_MM) - Math.max(0, far(b) - NEAR_MM);
    if (Math.abs(near) > EPS) return near < 0;
  }
  return a.shift.overMm < b.shift.overMm - EPS;
}

const far = ({ shift }: Match): number => Math.hypot(shift.dxMm, shift.dyMm);

const hold = (a: Pairing, b: Pairing): boolean =>
  a.hole !== b.hole && Math.hypot(a.dxMm - b.dxMm, a.dyMm - b.dyMm) <= a.allowanceMm + b.allowanceMm + EPS;
