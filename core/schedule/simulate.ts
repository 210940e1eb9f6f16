import type { Random } from "../random/index.ts";
import { Decoder } from "./decode.ts";
import { modelOf } from "./model.ts";
import type { PlannedStep } from "./schedule.ts";
import type { Shop } from "./shop.ts";

/**
 * Ends of every job when its steps take other times than planned: each keeps its turn and begins as soon as it can.
 * @param draw minutes that a step takes this time, by its job and its own place
 * @returns per job as many ends as there were runs, min, in no order
 */
export function simulate(
  shop: Shop,
  planned: readonly PlannedStep[],
  runs: number,
  random: Random,
  draw: (job: number, step: number, random: Random) => number,
): Float64Array[] {
  const model = modelOf(shop);
  // Held steps may be pushed on by what comes late; they are not begun before.
  const durations = model.durations.slice();
  const earliest = model.earliest.map((at, step) => {
    const heldAt = model.held[step] ?? Number.NaN;
    return Number.isNaN(heldAt) ? at : Math.max(at, heldAt);
  });
  const decoder = new Decoder({ ...model, durations, earliest, held: model.held.map(() => Number.NaN) });
  const rank = new Int32Array(model.count);
  for (const [at, step] of model.topological.entries()) rank[step] = at;
  const start = (step: number): number => planned[step]?.startMin ?? 0;
  const order = Int32Array.from(model.topological).sort(
    (a, b) => start(a) - start(b) || (rank[a] ?? 0) - (rank[b] ?? 0),
  );
  const ends = shop.jobs.map(() => new Float64Array(runs));
  for (let run = 0; run < runs; run++) {
    for (const [job, steps] of model.stepsOf.entries())
      for (const [index, step] of steps.entries()) durations[step] = draw(job, index, random);
    decoder.decode(order);
    for (const [job, steps] of model.stepsOf.entries()) {
      let end = 0;
      for (const step of steps) end = Math.max(end, (decoder.starts[step] ?? 0) + (durations[step] ?? 0));
      const list = ends[job];
      if (list) list[run] = end;
    }
  }
  return ends;
}
