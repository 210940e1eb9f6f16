import loadHighs from "highs";
import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { readShop, type Shop, schedule, stepKey } from "./index.ts";
import { type JobShopName, jobShop, OPTIMA } from "./tests/job-shops.ts";
import { workshop } from "./tests/made-up.ts";
import { broken, judged } from "./tests/validate.ts";

/** A small shop of whole minutes: people and benches of one or two, orders that branch, dates that can't all be kept. */
function small(seed: number): Shop {
  const chance = seeded(seed);
  const whole = (low: number, high: number): number => low + Math.floor(chance.uniform() * (high - low + 1));
  return readShop({
    resources: [
      { id: "bench", capacity: 1 },
      { id: "person", capacity: whole(1, 2) },
    ],
    jobs: Array.from({ length: 3 }, (_, j) => ({
      id: `job ${j}`,
      dueMin: chance.uniform() < 0.7 ? whole(3, 12) : null,
      weight: whole(1, 3),
      steps: Array.from({ length: whole(2, 3) }, (_step, s) => ({
        id: `step ${s}`,
        durationMin: whole(1, 4),
        needs: chance.pick([["bench"], ["person"], ["bench", "person"], []] as string[][] as [string[], ...string[][]]),
        ...(s === 2 && chance.uniform() < 0.5 ? { after: ["step 0"] } : {}),
      })),
    })),
  });
}

/** The same with every person by name. */
const inPersons = (shop: Shop): Shop => {
  const names = Array.from({ length: shop.resources[1]?.capacity ?? 1 }, (_, k) => `person ${k}`);
  return {
    resources: [...shop.resources.slice(0, 1), ...names.map((id) => ({ id, capacity: 1, closed: [] }))],
    jobs: shop.jobs.map((job) => ({
      ...job,
      steps: job.steps.map((step) => ({
        ...step,
        needs: step.needs.filter((id) => id !== "person"),
        oneOf: step.needs.includes("person") ? names : [],
      })),
    })),
  };
};

/** The same as an integer programme with one variable for every step and minute it may begin in; solved by a library. */
async function byHighs(shop: Shop): Promise<{ weighted: number; makespan: number }> {
  const highs = await loadHighs();
  const steps = shop.jobs.flatMap((job, j) => job.steps.map((step, s) => ({ ...step, j, s, key: `j${j}s${s}` })));
  const horizon = steps.reduce((sum, { durationMin }) => sum + durationMin, 0);
  const begin = (key: string, t: number): string => `${key}t${t}`;
  const times = (duration: number): number[] => Array.from({ length: horizon - duration + 1 }, (_, t) => t);
  const rows: string[] = [];
  for (const { key, durationMin, j, s, after } of steps) {
    rows.push(
      `${times(durationMin)
        .map((t) => begin(key, t))
        .join(" + ")} = 1`,
    );
    const ends = times(durationMin).flatMap((t) =>
      t + durationMin > 0 ? [`${t + durationMin} ${begin(key, t)}`] : [],
    );
    rows.push(`C - ${ends.join(" - ")} >= 0`);
    const { dueMin } = shop.jobs[j] ?? { dueMin: null };
    if (dueMin !== null) rows.push(`L${j} - ${ends.join(" - ")} >= -${dueMin}`);
    const priors = after ?? (s > 0 ? [`step ${s - 1}`] : []);
    for (const id of priors) {
      const prior = steps.find((one) => one.j === j && one.id === id);
      if (!prior) continue;
      const mine = times(durationMin).flatMap((t) => (t > 0 ? [`${t} ${begin(key, t)}`] : []));
      const its = times(prior.durationMin).map((t) => `${t + prior.durationMin} ${begin(prior.key, t)}`);
      rows.push(`${mine.join(" + ")} - ${its.join(" - ")} >= 0`);
    }
  }
  for (const { id, capacity } of shop.resources)
    for (let t = 0; t < horizon; t++) {
      const on = steps
        .filter(({ needs }) => needs.includes(id))
        .flatMap(({ key, durationMin }) =>
          times(durationMin).flatMap((from) => (from <= t && from + durationMin > t ? [begin(key, from)] : [])),
        );
      if (on.length > capacity) rows.push(`${on.join(" + ")} <= ${capacity}`);
    }
  const binary = steps.flatMap(({ key, durationMin }) => times(durationMin).map((t) => begin(key, t)));
  const late = shop.jobs.flatMap(({ dueMin, weight }, j) => (dueMin === null ? [] : [`${weight} L${j}`]));
  const solve = (goal: string, more: string[]): number => {
    const body = [...rows, ...more].map((row, k) => ` r${k}: ${row}`).join("\n");
    const found = highs.solve(`Minimize\n goal: ${goal}\nSubject To\n${body}\nBinary\n ${binary.join(" ")}\nEnd`);
    expect(found.Status).toBe("Optimal");
    return found.ObjectiveValue;
  };
  const weighted = late.length > 0 ? Math.round(solve(late.join(" + "), [])) : 0;
  const kept = late.length > 0 ? [`${late.join(" + ")} <= ${weighted}`] : [];
  return { weighted, makespan: Math.round(solve("C", kept)) };
}

const bench = { resources: [{ id: "bench", capacity: 1 }] };

describe("schedule", () => {
  it("is as good as an integer programme of HiGHS on small shops, and its bound is never above that", async () => {
    for (let seed = 1; seed <= 10; seed++) {
      const shop = small(seed);
      const exact = await byHighs(shop);
      const found = schedule(shop, { most: 300 });
      expect({ seed, broken: broken(shop, found.steps) }).toEqual({ seed, broken: [] });
      expect({ seed, ...judged(shop, found.steps) }).toEqual({ seed, ...exact });
      expect(found.lowerBoundMin).toBeLessThanOrEqual(exact.makespan + 1e-9);
      // Nor does it end too early where it is let end by itself.
      const patient = schedule(shop, { most: 1e6, patience: 1000 });
      expect({ seed, ...judged(shop, patient.steps) }).toEqual({ seed, ...exact });
      // Two alike of which there is one each are as good as one of which there are two.
      const apart = schedule(inPersons(shop), { most: 300 });
      expect({ seed, broken: broken(inPersons(shop), apart.steps) }).toEqual({ seed, broken: [] });
      expect({ seed, ...judged(shop, apart.steps) }).toEqual({ seed, ...exact });
      expect(apart.lowerBoundMin).toBeCloseTo(found.lowerBoundMin, 9);
    }
  });

  it.each([
    ["ft06", 1, 2000],
    ["la01", 1, 2000],
    ["ft20", 1.02, 1500],
    ["ft10", 1.02, 2500],
  ] as Array<[JobShopName, number, number]>)(
    "comes to the published optimum of %s, or within %s of it",
    (name, within, most) => {
      const shop = jobShop(name);
      const found = schedule(shop, { most });
      expect(broken(shop, found.steps)).toEqual([]);
      expect(found.makespanMin).toBeLessThanOrEqual(within * OPTIMA[name]);
      expect(found.makespanMin).toBeGreaterThanOrEqual(OPTIMA[name]);
      expect(found.lowerBoundMin).toBeLessThanOrEqual(OPTIMA[name]);
    },
  );

  it("plans a workshop’s days with nobody late where that can be, as short as its bench allows", () => {
    const shop = workshop(4, 30, { dueSlack: 3 });
    const found = schedule(shop, { most: 1200 });
    expect(broken(shop, found.steps)).toEqual([]);
    expect(found.totalLatenessMin).toBe(0);
    expect(found.makespanMin).toBeLessThanOrEqual(1.03 * found.lowerBoundMin);
  });

  it("breaks no opening hours and no held step, and goes on from an older plan", () => {
    const days = Array.from({ length: 12 }, (_, day) => ({ fromMin: 480 + 1440 * day, untilMin: 1440 * (day + 1) }));
    for (const seed of [1, 2, 3]) {
      const open = workshop(seed, 10, { dueSlack: 6 });
      const shop: Shop = {
        ...open,
        resources: open.resources.map((one) => (one.id === "person" ? { ...one, closed: days } : one)),
      };
      const first = schedule(shop, { most: 100 });
      expect(broken(shop, first.steps)).toEqual([]);
      // Two steps are held: one where it stood, one half a day later.
      const held = schedule(
        {
          ...shop,
          jobs: shop.jobs.map((job, j) => ({
            ...job,
            steps: job.steps.map((step, s) => {
              const at = first.steps.find((one) => one.job === job.id && one.step === step.id)?.startMin ?? 0;
              return { ...step, heldMin: s === 0 && j < 2 ? at : s === 1 && j === 2 ? 1440 * 8 : null };
            }),
          })),
        },
        { most: 100, from: new Map(first.steps.map((one) => [stepKey(one.job, one.step), one.startMin])) },
      );
      const at = (job: string, step: string) =>
        held.steps.find((one) => one.job === job && one.step === step)?.startMin;
      expect(at("card 2", "strip")).toBe(1440 * 8);
      expect(at("card 0", "baseline")).toBe(
        first.steps.find((one) => one.job === "card 0" && one.step === "baseline")?.startMin,
      );
      expect(broken(shop, held.steps)).toEqual([]);
    }
  });

  it("counts lateness unweighted, and puts it before the makespan", () => {
    const shop = readShop({
      ...bench,
      jobs: [
        {
          id: "long",
          dueMin: null,
          steps: [
            { id: "a", durationMin: 10, needs: ["bench"] },
            { id: "rest", durationMin: 30 },
          ],
        },
        { id: "due", dueMin: 4, weight: 7, steps: [{ id: "a", durationMin: 5, needs: ["bench"] }] },
      ],
    });
    // Soonest done is the long one first (40 min); least late is the due one first, a minute late whatever is done.
    const found = schedule(shop, { most: 50 });
    expect(found).toMatchObject({ makespanMin: 45, totalLatenessMin: 1, lowerBoundMin: 40 });
  });

  it("brings a step that is due by itself before one that is due sooner as a whole", () => {
    const step = (id: string, durationMin: number, dueMin: number | null = null) => ({
      id,
      durationMin,
      dueMin,
      needs: ["bench"],
    });
    const shop = (dueMin: number | null) =>
      readShop({
        ...bench,
        jobs: [
          { id: "bought", dueMin: 500, steps: [step("test", 10, dueMin), { id: "rest", durationMin: 300 }] },
          { id: "other", dueMin: 25, steps: [step("a", 20)] },
        ],
      });
    const testOf = (dueMin: number | null) =>
      schedule(shop(dueMin), { most: 30 }).steps.find((one) => one.step === "test")?.startMin;
    expect([testOf(null), testOf(10)]).toEqual([20, 0]);
  });

  it("takes nothing to do, steps of no time and steps that need nothing", () => {
    expect(schedule(readShop({ jobs: [] }), { most: 5 })).toEqual({
      makespanMin: 0,
      lowerBoundMin: 0,
      totalLatenessMin: 0,
      steps: [],
    });
    const found = schedule(
      readShop({
        jobs: [
          {
            id: "j",
            steps: [
              { id: "a", durationMin: 0 },
              { id: "b", durationMin: 7.5, after: [] },
            ],
          },
        ],
      }),
      { most: 5 },
    );
    expect(found.makespanMin).toBe(7.5);
  });

  it("ends when it is told to", () => {
    let asked = 0;
    const shop = workshop(9, 30, { dueSlack: 0.5 });
    const found = schedule(shop, { most: 1e9, isCancelled: () => ++asked > 3 });
    expect(broken(shop, found.steps)).toEqual([]);
  });
});

describe("a shop that can’t be planned", () => {
  const job = (steps: unknown[]) => ({ ...bench, jobs: [{ id: "card", steps }] });
  const step = { id: "a", durationMin: 5, needs: ["bench"] };
  it.each([
    ["a resource that is none", job([{ ...step, needs: ["oven"] }]), /“oven”, which is no resource/],
    [
      "a ring",
      job([
        { ...step, after: ["b"] },
        { ...step, id: "b" },
      ]),
      /wait for each other/,
    ],
    ["a step after itself", job([{ ...step, after: ["a"] }]), /wait for each other/],
    ["a step after what is not there", job([{ ...step, after: ["z"] }]), /“z”, which is no step/],
    ["two of the same id", job([step, step]), /“a” is there twice/],
    ["a time below zero", job([{ ...step, durationMin: -1 }]), /durationMin/],
    ["no list of jobs", bench, /jobs/],
    ["the same needed twice", job([{ ...step, needs: ["bench", "bench"] }]), /the same twice/],
    ["no bench at all", { ...job([step]), resources: [{ id: "bench", capacity: 0 }] }, /capacity/],
  ])("is refused with its place: %s", (_, input, words) => {
    expect(() => readShop(input)).toThrow(expect.objectContaining({ code: "bad-shop" }));
    try {
      readShop(input);
    } catch (error) {
      const { what, where } = (error as { detail: () => { what: string; where: string } }).detail();
      expect(`${where}: ${what}`).toMatch(words);
    }
  });

  it("says which step is longer than the opening hours, and which is held too early", () => {
    const closed = Array.from({ length: 8 }, (_, day) => ({ fromMin: 480 + 1440 * day, untilMin: 1440 * (day + 1) }));
    const long = {
      resources: [{ id: "bench", capacity: 1, closed }],
      jobs: [{ id: "c", steps: [{ ...step, durationMin: 600 }] }],
    };
    expect(() => readShop(long)).toThrow(/longer than “bench” is ever open/);
    const early = readShop(job([step, { ...step, id: "b", heldMin: 2 }]));
    expect(() => schedule(early, { most: 5 })).toThrow(/“b” of “card” is held before/);
    const twice = readShop({
      ...bench,
      jobs: ["x", "y"].map((id) => ({ id, steps: [{ ...step, heldMin: 2 }] })),
    });
    expect(() => schedule(twice, { most: 5 })).toThrow(
      /“a” of “x” and “a” of “y” are held on “bench” at the same time/,
    );
  });
});
