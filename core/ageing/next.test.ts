import { describe, expect, it } from "vitest";
import { posterior } from "../durations/index.ts";
import { seeded } from "../random/index.ts";
import { cyclesPerMonth, nextService, type Returned, USUAL_USE, WORN_GAP_K, wearOf } from "./next.ts";

const games = { kind: "games", use: USUAL_USE.games!, source: "usual" as const, riseK: 40 };

describe("how long a layer lasts", () => {
  it("is one to two years of hard use and about three of light for paste, more for a sheet (common practice, no source)", () => {
    const paste = nextService("paste", [], games);
    expect(paste.months).toBeGreaterThan(12);
    expect(paste.months).toBeLessThan(30);
    const light = nextService("paste", [], { ...games, kind: "unknown", use: USUAL_USE.unknown! });
    expect(light.months / paste.months).toBeGreaterThan(1.5);
    expect(nextService("phase-change", [], games).months / paste.months).toBeCloseTo(2.3, 1);
    expect(nextService("paste", [], { ...games, kind: "office", use: USUAL_USE.office! })).toMatchObject({
      months: 60,
      highMonths: null,
    });
  });

  it("counts cycles by the square of their range, and a log’s own count as it is", () => {
    // Two sessions a day of 40 K, seven days, 365.25/12/7 weeks: 60.9 of them a month; changes of load come on top.
    const quiet = { hoursPerWeek: 0, sessionsPerDay: 2, cyclesPerHour: null };
    expect(cyclesPerMonth("games", quiet, 40)).toBeCloseTo((2 * 365.25) / 12, 9);
    expect(cyclesPerMonth("games", quiet, 20)).toBeCloseTo((2 * 365.25) / 12 / 4, 9);
    const logged = { hoursPerWeek: 10, sessionsPerDay: 99, cyclesPerHour: 1.5 };
    expect(cyclesPerMonth("games", logged, 40)).toBeCloseTo((15 * 365.25) / 12 / 7, 9);
  });

  it("draws one card that came back between what is usual and what it shows, as Bayes weighs two normals", () => {
    // Twice the usual rate, seen exactly but for how cards differ: 0.4 and 0.3 against 0.4 of the kinds.
    const back: Returned = { driftK: 2 * WORN_GAP_K, u95K: 1e-6, cycles: 1600 };
    const { mean } = posterior({ mean: 1, variance: 0.16 }, { mean: 2, variance: 0.25 });
    expect(wearOf("paste", [back]).lifeCycles).toBeCloseTo(1600 / mean, 6);
    const many = wearOf(
      "paste",
      Array.from({ length: 60 }, () => back),
    );
    expect(many.lifeCycles).toBeLessThan(920);
    expect(many.lifeCycles).toBeGreaterThan(760);
    // A gap that shrank tells of no wear, never of a life without end.
    expect(
      wearOf(
        "paste",
        Array.from({ length: 40 }, () => ({ ...back, driftK: -3 })),
      ).lifeCycles,
    ).toBeLessThan(15_000);
    expect(wearOf("paste", [{ ...back, cycles: 0 }])).toEqual(wearOf("paste", []));
  });

  /** Share of made-up cards whose end falls into the interval that was said as they left. */
  const held = (
    life: (shop: number, random: ReturnType<typeof seeded>) => number,
    shown: (driftK: number) => number,
  ) => {
    const random = seeded(23);
    let inside = 0;
    const many = 500;
    for (let k = 0; k < many; k++) {
      const shop = Math.exp(0.4 * random.normal());
      const returned = Array.from({ length: Math.floor(8 * random.uniform()) }, (): Returned => {
        const cycles = random.between(500, 2500);
        const driftK = shown((WORN_GAP_K * cycles) / life(shop, random));
        return { driftK: driftK + 0.6 * random.normal(), u95K: 1.2, cycles: cycles * Math.exp(0.25 * random.normal()) };
      });
      const { lowMonths, highMonths, cyclesPerMonth: perMonth } = nextService("paste", returned, games);
      const months = life(shop, random) / perMonth / Math.exp(0.4 * random.normal());
      if (months >= lowMonths && (highMonths === null || months <= highMonths)) inside++;
    }
    return inside / many;
  };

  it("holds its 95 % on cards that wear evenly, with none to seven of a shop’s own", () => {
    const share = held(
      (shop, random) => 1600 * shop * Math.exp(0.35 * random.normal()),
      (drift) => drift,
    );
    expect(share).toBeGreaterThan(0.92);
  });

  it("holds nine in ten where wear is of another kind: slow at first, then fast, and some layers bad from the start", () => {
    const share = held(
      (shop, random) =>
        (random.uniform() < 0.08 ? 0.4 : 1) * 960 * shop * (1 - Math.log(1 - random.uniform())) ** 0.5 * 1.3,
      (drift) => (drift / WORN_GAP_K) ** 1.5 * WORN_GAP_K,
    );
    expect(share).toBeGreaterThan(0.88);
  });
});
