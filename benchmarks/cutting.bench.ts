/** Cutting: cost against the best known, and what each way of the search is worth. */
import { planCuts, readCuts, WAYS, type Way } from "#core/cutting/index.ts";
import { cutUp, piece, sheet } from "#core/cutting/tests/cases.ts";
import { seeded } from "#core/random/index.ts";

type Cut = readonly [id: string, widthMm: number, heightMm: number, quantity: number];
const USUAL: Cut[] = [
  ["memory", 14, 12, 12],
  ["mosfet", 6, 5, 16],
  ["choke", 10, 10, 12],
];
const MANY: Cut[] = USUAL.map(([id, width, height, count]) => [id, width, height, 5 * count]);
const ODD: Cut[] = [
  ["a", 31, 17, 12],
  ["b", 23, 19, 15],
  ["c", 41, 11, 13],
];

/** The cheapest plan of these is known: they fill whole sheets without any waste. */
const wholeSheets = (seed: number, sheets: number): Cut[] =>
  cutUp(seeded(seed), sheets, 85, 45).map(([w, h], k) => [`p${k}`, w, h, 1]);

const LONG_S = 10;
const ONE = [sheet("s", 85, 45, 6)];
const THREE = [sheet("a", 85, 45, 6.5), sheet("b", 120, 20, 4), sheet("c", 100, 100, 14)];
const CASES: Array<[name: string, cuts: Cut[], stock: ReturnType<typeof sheet>[], cheapest: number | null]> = [
  ["40 pieces, one size of sheet", USUAL, ONE, null],
  [
    "40 pieces, a left-over and two sizes",
    USUAL,
    [sheet("rest", 60, 20, 0, 1), sheet("small", 50, 50, 4), ...THREE],
    null,
  ],
  ["40 odd pieces, one size", ODD, ONE, null],
  ["40 odd pieces, three sizes", ODD, THREE, null],
  ["200 pieces, three sizes", MANY, THREE, null],
  ...[1, 2, 3].map((seed): (typeof CASES)[number] => [
    `40 pieces of five whole sheets (${seed})`,
    wholeSheets(seed, 5),
    ONE,
    30,
  ]),
];
for (const [name, cuts, stock, byMaking] of CASES) {
  const task = readCuts({ pieces: cuts.map((cut) => piece(...cut)), stock });
  const planFor = (seconds: number, seed: number, without: readonly Way[] = []) =>
    planCuts(task, { now: () => performance.now(), until: performance.now() + 1000 * seconds, seed, without });
  const short = planFor(2, 1);
  const known = byMaking ?? Math.min(short.cost, planFor(LONG_S, 2).cost);
  const over = (100 * (short.cost / known - 1)).toFixed(1);
  console.log(
    `${name}: cost ${short.cost} after 2 s, ${over} % over the cheapest known ${byMaking ? "by how they were made" : `after ${LONG_S} s more`} (asked for: 1), never below ${short.lowerBoundCost}`,
  );
}

/** Harder ones: what each way is worth, over all of them together. */
const HARD = Array.from({ length: 8 }, (_, seed) => {
  const random = seeded(100 + seed);
  const side = (): number => Math.round(random.between(7, 46));
  const cuts = Array.from(
    { length: 9 },
    (_k, kind): Cut => [`k${kind}`, side(), side(), 3 + Math.floor(random.between(0, 6))],
  );
  return readCuts({ pieces: cuts.map((cut) => piece(...cut)), stock: THREE });
});
const together = (without: readonly Way[]): number =>
  HARD.reduce(
    (sum, task) =>
      sum + planCuts(task, { now: () => performance.now(), until: performance.now() + 1500, seed: 1, without }).cost,
    0,
  );
const all = together([]);
for (const { name: way } of WAYS)
  console.log(
    `eight hard ones, 1.5 s each, are ${(100 * (together([way]) / all - 1)).toFixed(2)} % dearer without ${way}`,
  );
