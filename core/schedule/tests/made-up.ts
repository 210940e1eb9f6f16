import { seeded } from "../../random/index.ts";
import { readShop, type Shop } from "../index.ts";

/** A workshop’s days: cards that are tested, opened, cleaned, dried, padded, closed, proved, on few benches by few people. */
export function workshop(seed: number, cards: number, more: { dueSlack?: number; benches?: number } = {}): Shop {
  const chance = seeded(seed);
  const between = (low: number, high: number): number => Math.round(chance.between(low, high));
  const benches = more.benches ?? 1;
  const jobs = Array.from({ length: cards }, (_, k) => {
    const steps = [
      { id: "baseline", durationMin: between(20, 60), needs: ["bench"] },
      { id: "strip", durationMin: between(15, 40), needs: ["person"] },
      { id: "clean", durationMin: between(15, 60), needs: ["person", "sink"], after: ["strip"] },
      { id: "dry", durationMin: between(60, 300), needs: [], after: ["clean"] },
      { id: "fans", durationMin: between(10, 20), needs: ["person"], after: ["strip"] },
      { id: "close", durationMin: between(20, 45), needs: ["person"], after: ["dry", "fans"] },
      { id: "prove", durationMin: between(20, 60), needs: ["bench"], after: ["close"] },
      ...(chance.uniform() < 0.2 ? [{ id: "label", durationMin: 5, needs: ["person"] }] : []),
    ];
    return { id: `card ${k}`, dueMin: null as number | null, weight: chance.pick([1, 1, 2, 5] as const), steps };
  });
  const load = jobs.reduce((sum, { steps }) => sum + (steps[0]?.durationMin ?? 0) + (steps[6]?.durationMin ?? 0), 0);
  for (const job of jobs)
    if (more.dueSlack !== undefined)
      job.dueMin = Math.round((300 + chance.uniform() * (load / benches)) * more.dueSlack);
  return readShop({
    resources: [
      { id: "bench", capacity: benches },
      { id: "person", capacity: 2 },
      { id: "sink", capacity: 1 },
    ],
    jobs,
  });
}
