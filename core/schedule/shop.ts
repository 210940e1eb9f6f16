import * as v from "valibot";
import { idText, listOf, numberFrom, Problem, readDocument, said } from "../problem/index.ts";

const MOST = { resources: 200, jobs: 500, steps: 400, allSteps: 4000, minutes: 10_000_000 };

const known = <S extends v.GenericSchema>(schema: S) => v.optional(v.nullable(schema), null);
const minutes = numberFrom(0, MOST.minutes);
const moment = numberFrom(-MOST.minutes, MOST.minutes);

const ShopFile = v.object({
  resources: v.optional(
    listOf(
      v.object({
        id: idText,
        capacity: v.optional(
          v.pipe(numberFrom(1, 1000), v.integer(said("This is no whole number.", "Give how many there are."))),
          1,
        ),
        /** Times in which nothing can be done with it. */
        closed: v.optional(listOf(v.object({ fromMin: moment, untilMin: moment }), 2000), []),
      }),
      MOST.resources,
    ),
    [],
  ),
  jobs: listOf(
    v.object({
      id: idText,
      dueMin: known(moment),
      weight: v.optional(v.nullable(numberFrom(0, 1e6)), 1),
      steps: listOf(
        v.object({
          id: idText,
          durationMin: minutes,
          needs: v.optional(listOf(idText, 20), []),
          /** And one of these, whichever is free first; of two that are, the one named first. */
          oneOf: v.optional(listOf(idText, 50), []),
          after: known(listOf(idText, MOST.steps)),
          /** Not before. */
          earliestMin: v.optional(minutes, 0),
          /** The step itself is due, besides its job: late minutes of it count like those of the job. */
          dueMin: v.optional(v.nullable(moment), null),
          /** Begun, or held by a person: it starts then and nowhere else. */
          heldMin: known(minutes),
        }),
        MOST.steps,
      ),
    }),
    MOST.jobs,
  ),
});

/** Benches, people and jobs, as COMMANDS and the files name them; minutes from the plan's start. */
export type Shop = v.InferOutput<typeof ShopFile>;

export type ShopStep = Shop["jobs"][number]["steps"][number];

const bad = (what: string, where: string, remedy: string): Problem =>
  new Problem({ code: "bad-shop", what, where, remedy });

/** Ids of what a step comes after: what it says, else the step before it. */
export const afterOf = (steps: readonly ShopStep[], index: number): readonly string[] =>
  steps[index]?.after ?? steps.slice(Math.max(0, index - 1), index).map(({ id }) => id);

/**
 * A shop as it stands in a file.
 * @throws Problem `bad-shop` naming the field and the remedy: an id that is there twice, a step that needs or comes after what is not there,
 * steps that wait for each other in a ring, a step longer than what it needs is ever open
 */
export function readShop(input: unknown): Shop {
  const shop: Shop = readDocument(ShopFile, input, "bad-shop");
  unlike(shop.resources, "resources");
  unlike(shop.jobs, "jobs");
  const closedOf = new Map(shop.resources.map(({ id, closed }) => [id, closed]));
  let all = 0;
  for (const [j, job] of shop.jobs.entries()) {
    unlike(job.steps, `jobs[${j}].steps`);
    all += job.steps.length;
    const ids = new Set(job.steps.map(({ id }) => id));
    for (const [s, step] of job.steps.entries()) {
      const where = `jobs[${j}].steps[${s}]`;
      const strange = [...step.needs, ...step.oneOf].find((id) => !closedOf.has(id));
      if (strange !== undefined)
        throw bad(
          `Step “${step.id}” needs “${strange}”, which is no resource.`,
          `${where}.needs`,
          "Add it to the resources, or take it out of the step.",
        );
      if (new Set([...step.needs, ...step.oneOf]).size < step.needs.length + step.oneOf.length)
        throw bad(`Step “${step.id}” needs the same twice.`, `${where}.needs`, "Name each resource once.");
      const lost = step.after?.find((id) => !ids.has(id));
      if (lost !== undefined)
        throw bad(
          `Step “${step.id}” comes after “${lost}”, which is no step of its job.`,
          `${where}.after`,
          "Name steps of the same job.",
        );
      const tooShort = [
        ...step.needs.filter((need) => !fitsSomewhere(step.durationMin, closedOf.get(need) ?? [])),
        ...(step.oneOf.every((id) => !fitsSomewhere(step.durationMin, closedOf.get(id) ?? [])) ? step.oneOf : []),
      ];
      const [shut] = tooShort;
      if (shut !== undefined)
        throw bad(
          `Step “${step.id}” takes ${Math.ceil(step.durationMin)} min, longer than “${shut}” is ever open.`,
          `${where}.durationMin`,
          "Split the step, or give longer opening hours.",
        );
    }
    const ring = ringOf(job.steps);
    if (ring !== null)
      throw bad(
        `The steps ${ring.join(", ")} of “${job.id}” wait for each other.`,
        `jobs[${j}].steps`,
        "Take one of them out of the other’s “after”.",
      );
  }
  if (all > MOST.allSteps)
    throw bad(`There are ${all} steps; ${MOST.allSteps} is the most.`, "jobs", "Plan fewer jobs at once.");
  return shop;
}

function unlike(list: ReadonlyArray<{ id: string }>, where: string): void {
  const seen = new Set<string>();
  for (const [index, { id }] of list.entries()) {
    if (seen.has(id)) throw bad(`“${id}” is there twice.`, `${where}[${index}]`, "Give every entry its own id.");
    seen.add(id);
  }
}

/** After the last closed time there is always room; before it, between two. What is asked is whether that open end is all there is. */
function fitsSomewhere(durationMin: number, closed: ReadonlyArray<{ fromMin: number; untilMin: number }>): boolean {
  const daily = closed.length >= MANY_DAYS;
  if (!daily) return true;
  const sorted = closed.toSorted((a, b) => a.fromMin - b.fromMin);
  let free = 0;
  for (const { fromMin, untilMin } of sorted) {
    if (fromMin - free >= durationMin) return true;
    free = Math.max(free, untilMin);
  }
  return false;
}
/** So many closed times are opening hours of days to come: what fits in none of them waits for ever. */
const MANY_DAYS = 5;

/** Steps that can never begin, as each waits for another of them; null where there are none. */
function ringOf(steps: readonly ShopStep[]): string[] | null {
  const left = new Map(steps.map(({ id }, index) => [id, new Set(afterOf(steps, index))]));
  for (let gone = true; gone; ) {
    gone = false;
    for (const [id, waits] of left)
      if (waits.size === 0) {
        left.delete(id);
        for (const others of left.values()) others.delete(id);
        gone = true;
      }
  }
  return left.size > 0 ? [...left.keys()].slice(0, 6) : null;
}
