import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Analysis, TemperatureFigures } from "../soak/index.ts";
import { fanFactor, speedForFactor } from "./cooling.ts";
import { compare, pairRuns, USUAL_COOLING } from "./index.ts";

interface Made {
  edgeC: number;
  hotspotC?: number;
  roomC?: number | null;
  powerW?: number | null;
  fanRpm?: number | null;
  u95K?: number;
}

const temperature = (meanC: number, u95K: number): TemperatureFigures => ({
  meanC,
  u95K,
  maxC: meanC,
  riseK: null,
  riseU95K: null,
  thetaKPerW: null,
  finalC: meanC,
  finalU95K: u95K,
  budget: null,
  timeConstantsS: [],
});

/** A run's figures written down by hand, so that the sums can be done by hand too. */
function made({ edgeC, hotspotC, roomC = 20, powerW = 150, fanRpm = 1500, u95K = 0 }: Made): Analysis {
  return {
    samples: 1000,
    durationS: 1000,
    intervalS: 1,
    columns: [],
    phases: [{ kind: "steady", fromS: 0, toS: 1000 }],
    ambient: roomC === null ? null : { valueC: roomC, u95K: 0.6, source: "column" },
    steady: { reached: true, fromS: 500, toS: 1000, minutesNeeded: null, byHand: false },
    roles: {
      edge: temperature(edgeC, u95K),
      ...(hotspotC === undefined ? {} : { hotspot: temperature(hotspotC, u95K) }),
      ...(powerW === null ? {} : { power: { mean: powerW, u95: 0 } }),
      ...(fanRpm === null ? {} : { fanRpm: { mean: fanRpm, u95: 0 } }),
    },
    probes: [],
    hotspotGapK: hotspotC === undefined ? null : { mean: hotspotC - edgeC, u95: 0 },
    throttling: { detected: false, shareOfLoad: 0, kinds: [] },
    spikes: 0,
    notices: [],
    version: 1,
  };
}

describe("a budget worked by hand (JCGM 100:2008, sum of squares of uncorrelated parts)", () => {
  it("with equal conditions: 1.96·√(u₁² + u₂² + 2·0.7² + 2·0.5²)", () => {
    const found = compare(made({ edgeC: 80, u95K: 0.98 }), made({ edgeC: 75, u95K: 0.98 }));
    expect(found.roles.edge?.changeK).toBe(-5);
    // √(0.5² + 0.5² + 0.98 + 0.5) = 1.4071; × 1.959964 = 2.7579
    expect(found.roles.edge?.u95K).toBeCloseTo(2.7579, 3);
    expect(found.atEqualConditions?.roles.edge?.u95K).toBeCloseTo(2.7579, 3);
  });

  it("brings power to the run before: 50 K at 165 W are 45.45 K at 150 W", () => {
    const found = compare(made({ edgeC: 70 }), made({ edgeC: 70, powerW: 165 }));
    const edge = found.atEqualConditions?.roles.edge;
    expect(edge?.changeK).toBeCloseTo(50 * (150 / 165) - 50, 6);
    expect(edge?.correctionK.power).toBeCloseTo(-4.5455, 3);
    expect(edge?.budget.power).toBeCloseTo(0.4545, 3);
    expect(found.differences.find((one) => one.what === "power")).toEqual({
      what: "power",
      before: 150,
      after: 165,
      handled: "corrected",
    });
  });

  it("scales only the convective share with the fan: 0.35 + 0.65·(1500/1200)^−0.7", () => {
    const found = compare(made({ edgeC: 70 }), made({ edgeC: 70, fanRpm: 1200 }));
    const factor = 0.35 + 0.65 * (1500 / 1200) ** -0.7;
    expect(found.atEqualConditions?.roles.edge?.changeK).toBeCloseTo(50 * factor - 50, 6);
  });

  it("lets a warmer room change nothing but the uncertainty of the air", () => {
    const found = compare(made({ edgeC: 70 }), made({ edgeC: 78, roomC: 28 }));
    expect(found.roles.edge?.changeK).toBeCloseTo(0, 9);
    expect(found.atEqualConditions?.roles.edge?.budget.air).toBeCloseTo(0.0015 * 50 * 8, 6);
  });
});

describe("verdicts", () => {
  it.each([
    ["far cooler", 80, 60, "better", "cooler"],
    ["far hotter", 60, 80, "worse", "hotter"],
    ["2.3 K, inside the interval of one sensor", 70, 67.7, "no-real-change", "no-real-change"],
    ["2.5 K, outside for one sensor alone", 70, 67.5, "better", "cooler"],
  ])("%s", (_, before, after, overall, role) => {
    const found = compare(made({ edgeC: before }), made({ edgeC: after }));
    expect(found.verdict).toBe(overall);
    expect(found.roles.edge?.verdict).toBe(role);
  });

  it("asks more of two sensors together: 2.5 K is no claim when the hotspot agrees (Šidák, 2.236)", () => {
    const found = compare(made({ edgeC: 70, hotspotC: 80 }), made({ edgeC: 67.5, hotspotC: 77.5 }));
    expect(found.roles.edge?.verdict).toBe("cooler");
    expect(found.verdict).toBe("no-real-change");
  });

  it("calls a hotter hotspot worse even when the edge is cooler", () => {
    expect(compare(made({ edgeC: 70, hotspotC: 80 }), made({ edgeC: 65, hotspotC: 90 })).verdict).toBe("worse");
  });

  it("turns its sign when the runs change places, and never calls a run different from itself", () => {
    const degrees = fc.double({ min: 30, max: 95, noNaN: true });
    fc.assert(
      fc.property(degrees, degrees, (a, b) => {
        const there = compare(made({ edgeC: a }), made({ edgeC: b }));
        const back = compare(made({ edgeC: b }), made({ edgeC: a }));
        expect(there.roles.edge?.changeK).toBeCloseTo(-(back.roles.edge?.changeK ?? 0), 9);
        expect(compare(made({ edgeC: a }), made({ edgeC: a })).verdict).toBe("no-real-change");
      }),
      { seed: 2, numRuns: 60 },
    );
  });
});

describe("what is not known", () => {
  it.each([
    ["fan", { fanRpm: null }],
    ["power", { powerW: null }],
  ])("a missing %s is not correctable and widens the interval", (what, missing) => {
    const known = compare(made({ edgeC: 80 }), made({ edgeC: 70 }));
    const found = compare(made({ edgeC: 80, ...missing }), made({ edgeC: 70, ...missing }));
    expect(found.differences.find((one) => one.what === what)?.handled).toBe("not-correctable");
    expect(found.atEqualConditions?.roles.edge?.u95K ?? 0).toBeGreaterThan(
      (known.atEqualConditions?.roles.edge?.u95K ?? 0) * 1.3,
    );
  });
  it("a fan that stood still in one run only can't be scaled", () => {
    const found = compare(made({ edgeC: 80, fanRpm: 0 }), made({ edgeC: 60 }));
    expect(found.differences.find((one) => one.what === "fan")?.handled).toBe("not-correctable");
    expect(found.atEqualConditions?.roles.edge?.u95K ?? 0).toBeGreaterThan(15);
  });
  it.each([
    ["the first run", { roomC: null }, {}, /first run/],
    ["both runs", { roomC: null }, { roomC: null }, /first and the second run/],
  ])("room air missing from %s", (_, before, after, words) => {
    expect(compare(made({ edgeC: 80, ...before }), made({ edgeC: 70, ...after })).reason).toMatch(words);
  });
});

describe("fan law", () => {
  it("finds the speed that a factor stands for, back and forth", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 600, max: 3000, noNaN: true }),
        fc.double({ min: 600, max: 3000, noNaN: true }),
        (from, to) => {
          const { factor } = fanFactor(USUAL_COOLING, 0.6, from, to);
          expect(speedForFactor(USUAL_COOLING, 0.6, from, factor)).toBeCloseTo(to, 6);
        },
      ),
      { seed: 8, numRuns: 60 },
    );
  });
  it("knows no speed for what the fan can't carry", () => {
    expect(speedForFactor(USUAL_COOLING, 0.6, 1500, 0.3)).toBeUndefined();
  });
});

describe("pairRuns", () => {
  it("uses every run once, and fixed with automatic only where nothing goes together better", () => {
    const one = fc.record({
      fanMode: fc.constantFrom("fixed" as const, "automatic" as const),
      fanPct: fc.integer({ min: 30, max: 100 }),
      loadName: fc.constantFrom("a", "b"),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 6 }), fc.array(one, { maxLength: 6 }), (before, after) => {
        const pairs = pairRuns(before, after);
        expect(new Set(pairs.map((pair) => pair.before)).size).toBe(pairs.length);
        expect(new Set(pairs.map((pair) => pair.after)).size).toBe(pairs.length);
        const fixed = (runs: typeof before) => runs.filter((run) => run.fanMode === "fixed").length;
        const possible =
          Math.min(fixed(before), fixed(after)) + Math.min(before.length - fixed(before), after.length - fixed(after));
        const isAlike = pairs.every((pair) => pair.before.fanMode === pair.after.fanMode);
        expect([isAlike, pairs.length]).toEqual(
          possible > 0 ? [true, possible] : [pairs.length === 0, Math.min(before.length, after.length)],
        );
      }),
      { seed: 6, numRuns: 100 },
    );
  });
});
