import { afterOf, type PlannedStep, type Shop } from "../index.ts";

const EPS = 1e-6;

/** What a plan breaks, in words; empty for a sound one. Written for itself: it knows nothing of how plans are made. */
export function broken(shop: Shop, steps: readonly PlannedStep[]): string[] {
  const found: string[] = [];
  const of = new Map(steps.map((one) => [`${one.job}/${one.step}`, one]));
  let many = 0;
  for (const job of shop.jobs)
    for (const [index, step] of job.steps.entries()) {
      many++;
      const at = of.get(`${job.id}/${step.id}`);
      const name = `${job.id}/${step.id}`;
      if (!at) {
        found.push(`${name} is not planned`);
        continue;
      }
      if (Math.abs(at.endMin - at.startMin - step.durationMin) > EPS) found.push(`${name} does not take its time`);
      if (at.startMin < step.earliestMin - EPS) found.push(`${name} begins too early`);
      if (step.heldMin !== null && Math.abs(at.startMin - step.heldMin) > EPS)
        found.push(`${name} is not where it is held`);
      for (const id of afterOf(job.steps, index)) {
        const prior = of.get(`${job.id}/${id}`);
        if (prior && prior.endMin > at.startMin + EPS) found.push(`${name} begins before ${id} is done`);
      }
    }
  if (many !== steps.length) found.push("there are steps of no job");
  const users = shop.jobs.flatMap((job) =>
    job.steps.map(({ id, needs, oneOf }) => {
      const at = of.get(`${job.id}/${id}`);
      if (oneOf.length > 0 && at && at.endMin > at.startMin && !oneOf.includes(at.takes ?? ""))
        found.push(`${job.id}/${id} takes none of what it may`);
      return { needs: at?.takes === undefined ? needs : [...needs, at.takes], at };
    }),
  );
  for (const { id, capacity, closed } of shop.resources) {
    const taken = users.flatMap(({ needs, at }) => (at && needs.includes(id) && at.endMin > at.startMin ? [at] : []));
    for (const one of taken) {
      const inside = one.startMin + EPS;
      const atOnce = taken.filter(({ startMin, endMin }) => startMin <= inside && endMin > inside).length;
      if (atOnce > capacity) found.push(`${id} is taken ${atOnce} times at ${one.startMin}`);
      if (closed.some(({ fromMin, untilMin }) => one.startMin < untilMin - EPS && one.endMin > fromMin + EPS))
        found.push(`${id} is used while it is closed at ${one.startMin}`);
    }
  }
  return found;
}

/** What it is judged by: lateness by weight, and when all is done. */
export function judged(shop: Shop, steps: readonly PlannedStep[]): { weighted: number; makespan: number } {
  const ends = new Map<string, number>();
  for (const { job, endMin } of steps) ends.set(job, Math.max(ends.get(job) ?? 0, endMin));
  let weighted = 0;
  for (const { id, dueMin, weight } of shop.jobs)
    if (dueMin !== null) weighted += (weight ?? 1) * Math.max(0, (ends.get(id) ?? 0) - dueMin);
  return { weighted, makespan: Math.max(0, ...ends.values()) };
}
