/** Plans: published job shops against their optimum (2 % asked in 10 s), workshop days against the bound and a longer look (3 % asked in 2 s). */
import { type Shop, schedule } from "#core/schedule/index.ts";
import { type JobShopName, jobShop, OPTIMA } from "#core/schedule/tests/job-shops.ts";
import { workshop } from "#core/schedule/tests/made-up.ts";
import { judged } from "#core/schedule/tests/validate.ts";

const now = (): number => performance.now();
const planned = (shop: Shop, seconds: number) => schedule(shop, { now, until: now() + 1000 * seconds });

for (const name of Object.keys(OPTIMA) as JobShopName[]) {
  const { makespanMin } = planned(jobShop(name), 10);
  console.log(`${name}: ${(100 * (makespanMin / OPTIMA[name] - 1)).toFixed(1)} % above its optimum of ${OPTIMA[name]}`);
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
