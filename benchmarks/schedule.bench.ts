/** Plans: published job shops against their optimum (2 % asked in 10 s), workshop days against the bound and a longer look (3 % asked in 2 s). */
import { seeded } from "#core/random/index.ts";
import { type Shop, schedule } from "#core/schedule/index.ts";
import { asShop, type JobShopName, jobShop, OPTIMA } from "#core/schedule/tests/job-shops.ts";
import { workshop } from "#core/schedule/tests/made-up.ts";
import { judged } from "#core/schedule/tests/validate.ts";

const now = (): number => performance.now();
const planned = (shop: Shop, seconds: number) => schedule(shop, { now, until: now() + 1000 * seconds });

for (const name of Object.keys(OPTIMA) as JobShopName[]) {
  const { makespanMin } = planned(jobShop(name), 10);
  console.log(`${name}: ${(100 * (makespanMin / OPTIMA[name] - 1)).toFixed(1)} % above its optimum of ${OPTIMA[name]}`);
}
/** A job shop as the literature draws them (Taillard 1993): every job once on every machine, in its own order, 1 to 99 min each. */
function drawn(seed: number, jobs: number, many: number): Shop {
  const random = seeded(seed);
  const machines = Array.from({ length: many }, (_, k) => k);
  return asShop(
    Array.from({ length: jobs }, () =>
      machines
        .map((machine) => ({ machine, at: random.uniform() }))
        .sort((one, other) => one.at - other.at)
        .map(({ machine }) => `${machine} ${1 + Math.floor(99 * random.uniform())}`)
        .join(" "),
    ),
  );
}

/** The same task, but no plain job shop by a date that nothing can miss: it is annealed to the end, without the tabu search. */
const annealed = (shop: Shop): Shop => ({ ...shop, jobs: shop.jobs.map((job) => ({ ...job, dueMin: 1e6 })) });

for (const [jobs, machines] of [
  [10, 10],
  [15, 15],
  [30, 10],
] as const) {
  const ratios = [1, 2, 3, 4, 5, 6].map((seed) => {
    const shop = drawn(seed, jobs, machines);
    return planned(annealed(shop), 5).makespanMin / planned(shop, 5).makespanMin - 1;
  });
  const mean = ratios.reduce((sum, one) => sum + one, 0) / ratios.length;
  const better = ratios.filter((one) => one > 0).length;
  console.log(
    `${jobs} jobs on ${machines} machines, 5 s: without tabu search ${(100 * mean).toFixed(1)} % longer; longer in ${better} of ${ratios.length}`,
  );
}

for (const [words, dueSlack] of [
  ["nothing due", undefined],
  ["all can be in time", 3],
  ["tight", 1.5],
  ["more than can be kept", 1],
] as const) {
  const shop = workshop(3, 30, dueSlack === undefined ? {} : { dueSlack });
  const [short, long] = [planned(shop, 2), planned(shop, 20)];
  const [a, b] = [judged(shop, short.steps), judged(shop, long.steps)];
  console.log(
    `30 cards, ${words}: makespan ${(100 * (a.makespan / short.lowerBoundMin - 1)).toFixed(1)} % above the bound; lateness ${a.weighted.toFixed(0)}, with ten times the time ${b.weighted.toFixed(0)}`,
  );
}
