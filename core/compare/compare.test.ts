import { describe, expect, it } from "vitest";
import { readRun } from "../runfile/index.ts";
import { type Analysis, analyse } from "../soak/index.ts";
import { logText, MIDSIZE, type RunSpec, settledRises, simulate } from "../virtualcard/index.ts";
import { compare, fitCooling, pairRuns, USUAL_COOLING } from "./index.ts";

const STEPS = [
  { durationS: 40, load: 0 },
  { durationS: 1300, load: 1 },
];
const spec = (more: Partial<RunSpec>): RunSpec => ({ seed: 1, build: MIDSIZE, steps: STEPS, ...more });
const judged = (more: Partial<RunSpec>, options = {}): Analysis =>
  analyse(readRun([new TextEncoder().encode(logText(simulate(spec(more))))]), options);
const worn = { dryPaste: 0.4, dust: 0.2 };

describe("compare", () => {
  it("finds a gain that a warmer room hides in degrees", () => {
    const before = judged({ seed: 2, faults: worn, bench: { roomC: 18 } });
    const after = judged({ seed: 3, bench: { roomC: 28 } });
    const truth = settledRises(spec({})).edgeK - settledRises(spec({ faults: worn })).edgeK;
    const found = compare(before, after);
    expect(found.verdict).toBe("better");
    expect(Math.abs((found.roles.edge?.changeK ?? 0) - truth)).toBeLessThan(0.6);
    expect(found.differences.find((one) => one.what === "ambient")?.handled).toBe("corrected");
  });

  it("finds a gain that an automatic fan hides, and says what it is worth as fan speed", () => {
    const before = judged({ seed: 2, faults: worn, bench: { fan: "automatic" } });
    const after = judged({ seed: 3, bench: { fan: "automatic" } });
    const atFixed =
      settledRises(spec({ bench: { fan: 60 } })).edgeK - settledRises(spec({ faults: worn, bench: { fan: 60 } })).edgeK;
    const found = compare(before, after);
    const equal = found.atEqualConditions?.roles.edge;
    expect(Math.abs((equal?.changeK ?? 0) - atFixed)).toBeLessThan(equal?.u95K ?? 0);
    expect(equal?.correctionK.fan).toBeLessThan(-1);
    expect(found.worth?.changeRpm).toBeLessThan(-300);
    expect(found.worth?.soundDb).toBeLessThan(-3);
  });

  it("compares a throttled baseline by rise per watt", () => {
    const build = { ...MIDSIZE, edgeLimitC: 70 };
    const before = judged({ seed: 2, build, faults: { dryPaste: 1, dust: 0.8 }, bench: { fan: 45 } });
    const after = judged({ seed: 3, build, bench: { fan: 45 } });
    const found = compare(before, after);
    expect(before.throttling.detected).toBe(true);
    expect(found.differences.find((one) => one.what === "power")?.handled).toBe("corrected");
    expect(found.atEqualConditions?.roles.edge?.changeK ?? 0).toBeLessThan((found.roles.edge?.changeK ?? 0) - 2);
  });

  it("says no real change when that is the truth, and how small a change it could have seen", () => {
    const found = compare(judged({ seed: 2 }), judged({ seed: 3 }));
    expect(found.verdict).toBe("no-real-change");
    expect(found.detectableK).toBeGreaterThan(2);
    expect(found.detectableK).toBeLessThan(6);
  });

  it("counts one mounting and one run on each side: √2·√(0.7² + 0.5²)·1.96 = 2.38 K at the least (GUM, uncorrelated sum)", () => {
    const before = judged({ seed: 2, sensors: { stepK: 0.1 } });
    const after = judged({ seed: 3, sensors: { stepK: 0.1 } });
    const usual = compare(before, after).roles.edge?.u95K ?? 0;
    expect(usual).toBeGreaterThan(2.384);
    expect(usual).toBeLessThan(2.5);
    const careful = compare(before, after, { scatterMountK: 0, scatterRunK: 0 }).roles.edge?.u95K ?? 1;
    expect(careful).toBeLessThan(0.5);
  });

  it("warns of a cooler held off the die: hotter, and a larger gap", () => {
    const found = compare(
      judged({ seed: 2, faults: { memoryPads: "thin" } }),
      judged({ seed: 3, faults: { heldOffMm: 0.12 } }),
    );
    expect(found.verdict).toBe("worse");
    expect(found.hotspotGap?.verdict).toBe("larger");
    expect(found.roles.memory?.verdict).toBe("cooler");
  });

  it("can't compare without room air, and says which run lacks it", () => {
    const found = compare(judged({ sensors: { room: null } }), judged({}));
    expect(found).toMatchObject({ comparable: false, verdict: "not-comparable", atEqualConditions: null });
    expect(found.reason).toMatch(/first run/);
  });

  it("widens what it says when fan or power were not logged", () => {
    const bare = (seed: number): Analysis => {
      const text = logText(simulate(spec({ seed })));
      const rows = text
        .trim()
        .split("\n")
        .map((line) =>
          line
            .split(",")
            .filter((_, column) => column < 6)
            .join(","),
        );
      return analyse(readRun([new TextEncoder().encode(`${rows.join("\n")}\n`)]));
    };
    const found = compare(bare(2), bare(3));
    expect(found.atEqualConditions).toMatchObject({ fanRpm: null, powerW: null });
    expect(found.differences.filter((one) => one.handled === "not-correctable").map((one) => one.what)).toEqual([
      "fan",
      "power",
    ]);
    expect(found.atEqualConditions?.roles.edge?.u95K ?? 0).toBeGreaterThan(2 * (found.roles.edge?.u95K ?? 0));
    expect(found.verdict).toBe("no-real-change");
  });

  it("counts an independent thermometer on each side, while a shared one cancels", () => {
    const column = judged({ seed: 2 });
    const typed = judged({ seed: 3, sensors: { room: null } }, { ambientC: 22 });
    const mixed = compare(column, typed).roles.edge?.u95K ?? 0;
    const shared = compare(column, judged({ seed: 3 })).roles.edge?.u95K ?? 0;
    expect(mixed ** 2 - shared ** 2).toBeGreaterThan(0.9 * (0.6 ** 2 + 1));
  });
});

describe("what is claimed of all sensors", () => {
  it("names the largest real worsening and improvement, or neither", () => {
    const found = compare(
      judged({ faults: { dryPaste: 0.6 } }),
      judged({ seed: 2, faults: { memoryPads: "missing" } }),
    );
    expect(found.best).toMatchObject({ role: expect.stringMatching(/edge|hotspot/) });
    expect(found.worst?.role).toBe("memory");
    expect(found.worst).toMatchObject({
      changeK: found.atEqualConditions?.roles.memory?.changeK,
      u95K: found.atEqualConditions?.roles.memory?.u95K,
    });
    expect(compare(judged({}), judged({ seed: 2 }))).toMatchObject({ worst: null, best: null, sameRun: false });
  });

  it("is nothing where both are the same run, however its file is written", () => {
    const spec = {
      seed: 2,
      build: MIDSIZE,
      steps: [
        { durationS: 40, load: 0 },
        { durationS: 1100, load: 1 },
      ],
    };
    const [plain, german] = [{}, { delimiter: ";", decimal: ",", headers: "german" } as const].map((way) =>
      analyse(readRun([new TextEncoder().encode(logText(simulate(spec), way))])),
    );
    expect(compare(plain!, german!)).toMatchObject({
      sameRun: true,
      comparable: false,
      verdict: "not-comparable",
      atEqualConditions: null,
      worst: null,
      best: null,
    });
  });
});

describe("cooling learnt from a card's own runs", () => {
  it("narrows the usual values when three fan speeds are there", () => {
    const points = [1000, 1500, 2200].map((fanRpm) => ({
      fanRpm,
      thetaKPerW: 0.1 + 0.15 * (fanRpm / 1500) ** -0.6,
      sd: 0.001,
    }));
    const found = fitCooling(points);
    expect(found.source).toBe("own runs");
    expect(found.shareSd).toBeLessThan(USUAL_COOLING.shareSd);
    const ratio = (rpm: number): number => 1 - found.share + found.share * (rpm / 1000) ** -found.exponent;
    expect(ratio(2200) / ratio(1000)).toBeCloseTo((points[2]?.thetaKPerW ?? 0) / (points[0]?.thetaKPerW ?? 1), 2);
  });

  it("keeps the usual values for one speed", () => {
    expect(fitCooling([{ fanRpm: 1500, thetaKPerW: 0.25, sd: 0.002 }])).toEqual(USUAL_COOLING);
  });
});

describe("pairs", () => {
  const run = (name: string, fanMode: "fixed" | "automatic" | "unknown", fanPct: number | null) => ({
    name,
    fanMode,
    fanPct,
    loadName: "loop",
  });

  it("puts fixed with fixed at the nearest setting and automatic with automatic, each once", () => {
    const pairs = pairRuns(
      [run("a", "automatic", null), run("f60", "fixed", 60), run("f80", "fixed", 80)],
      [run("F79", "fixed", 79), run("A", "automatic", null), run("F61", "fixed", 61), run("F30", "fixed", 30)],
    );
    expect(pairs.map(({ before, after }) => `${before.name}-${after.name}`)).toEqual(["a-A", "f60-F61", "f80-F79"]);
  });
});
