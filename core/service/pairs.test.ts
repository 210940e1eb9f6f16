import { describe, expect, it } from "vitest";
import { headlineOf } from "../outcome/index.ts";
import { compareAttempt, comparePairs, leadingPair, mountAgain } from "./index.ts";
import { run, temperature } from "./tests/made-run.ts";

const CONTEXT = {
  limits: { edgeC: 90, hotspotC: 105, memoryC: 95, vrmC: 110 },
  warmestRoomC: null,
  complaint: "",
  scatterMountK: 0.7,
  scatterRunK: 0.5,
};

describe("attempts", () => {
  const before = run("b", "before", 80);
  const bad = run("bad", "after", 92);
  const good = run("good", "after", 72, { attempt: 2 });

  it("are judged by the last one that has a run which counts", () => {
    expect(leadingPair(comparePairs([before, bad], CONTEXT))?.outcome.verdict).toBe("over-limit");
    const [pair] = comparePairs([before, bad, good], CONTEXT);
    expect([pair?.afterId, pair?.outcome.verdict]).toEqual(["good", "better"]);
    expect(compareAttempt([before, bad, good], 1, CONTEXT)[0]?.afterId).toBe("bad");
  });

  it("go back to the one before where the last run is left out with a reason", () => {
    const left = { ...good, leftOut: "side panel was off" };
    expect(comparePairs([before, bad, left], CONTEXT)[0]?.afterId).toBe("bad");
  });

  it("pool repeated runs: the mean of both, scatter of one run by 1/√2 on that side (JCGM 100:2008, 4.2.3)", () => {
    const twice = [run("a1", "after", 72), run("a2", "after", 74)];
    const [pair] = comparePairs([before, ...twice], CONTEXT);
    expect(pair?.afterIds).toEqual(["a1", "a2"]);
    expect(pair?.comparison.roles.edge?.changeK).toBeCloseTo(-7, 9);
    // Scatter of one run: the workshop's 0.5 K is worth four, the pair's own variance is (1² + 1²)/1: √((4·0.25 + 2)/5) = 0.7746.
    // √(0.102² + 0.0722² + 2·0.7² + 0.6 + 0.6/2) = 1.3767; × 1.959964 = 2.698
    expect(pair?.comparison.roles.edge?.u95K).toBeCloseTo(2.698, 2);
  });

  it.each([
    ["another fan setting", { fanPct: 75 }],
    ["another load", { loadName: "game" }],
    ["another undervolt", { undervoltMv: 50 }],
  ])("do not pool runs with %s", (_, more) => {
    const [pair] = comparePairs([before, run("a1", "after", 72), run("a2", "after", 60, more)], CONTEXT);
    expect(pair?.afterIds).toHaveLength(1);
  });
});

describe("always an answer or a reason", () => {
  it("where one fan was fixed and the other automatic: speeds make up for it", () => {
    const fixed = run("b", "before", 80);
    const automatic = run("a", "after", 76, { fanMode: "automatic", fanPct: null }, { fanRpm: { mean: 2200, u95: 5 } });
    const [pair] = comparePairs([fixed, automatic], CONTEXT);
    expect(pair?.comparison.differences.find(({ what }) => what === "fan")).toMatchObject({ handled: "corrected" });
    // At the slower fan of before it would be warmer than it was measured.
    expect(pair?.outcome.sensors[0]?.changeK).toBeGreaterThan(-4);
    expect(pair && headlineOf(pair.outcome)).not.toBe("");
  });

  it("a run of something else is not taken into the mean", () => {
    const all = [run("b", "before", 80), run("a1", "after", 72), run("alien", "after", 58), run("a2", "after", 72.5)];
    const pairs = comparePairs(all, CONTEXT);
    const [pair] = pairs;
    expect(pair?.afterIds).toEqual(["a1", "a2"]);
    expect(pairs).toHaveLength(1);
  });

  it("a cut run warns of nothing, though its foretold memory is far hotter", () => {
    const memory = (meanC: number | null, finalC: number) => ({
      memory: { ...temperature(finalC), meanC, finalU95K: 2, riseK: null, riseU95K: null },
    });
    const whole = run("b", "before", 80, {}, memory(60, 60));
    const after = run("a", "after", 72, {}, memory(null, 90));
    const cut = {
      ...after,
      analysis: {
        ...after.analysis,
        steady: { reached: false, fromS: null, toS: null, minutesNeeded: 7, byHand: false },
        roles: { ...after.analysis.roles, edge: { ...temperature(72), meanC: null, finalU95K: 3 } },
      },
    };
    const [pair] = comparePairs([whole, cut], CONTEXT);
    expect(pair && headlineOf(pair.outcome)).toMatch(
      /^The run after the work was too short to tell: run the load 7 more minutes/,
    );
    expect(pair && headlineOf(pair.outcome)).not.toMatch(/Memory/);
    expect(mountAgain(pair?.outcome)).toBeUndefined();
  });

  it("asks whether it is the same card where power is too far apart for one", () => {
    const other = run("a", "after", 72, {}, { power: { mean: 320, u95: 1 } });
    const [pair] = comparePairs([run("b", "before", 80), other], CONTEXT);
    expect(pair?.comparison.doubts).toEqual([{ code: "power", before: 200, after: 320 }]);
    const near = run("a", "after", 72, {}, { power: { mean: 230, u95: 1 } });
    expect(comparePairs([run("b", "before", 80), near], CONTEXT)[0]?.comparison.doubts).toEqual([]);
  });
});

describe("what a gain is worth", () => {
  const clocked = (mean: number) => ({ coreClock: { mean, u95: 0 } });

  it("is told as clock, frame rate and offsets that held, none of them surer than a clock's step or a benchmark's scatter", () => {
    const [pair] = comparePairs(
      [
        run("b", "before", 80, { frameRateFps: 100, memoryOffsetMHz: 500 }, clocked(1800)),
        run("a", "after", 72, { frameRateFps: 106, memoryOffsetMHz: 500 }, clocked(1845)),
      ],
      CONTEXT,
    );
    expect(pair?.gains.coreClockMHz).toMatchObject({ change: 45 });
    // A clock's step of 15 MHz on both sides: 1.96 · √2 · 15/√12 (JCGM 100:2008, F.2.2.1).
    expect(pair?.gains.coreClockMHz?.u95).toBeCloseTo(12.0, 1);
    // 0.7 % of one run, both sides: 1.96 · 0.007 · √(100² + 106²).
    expect(pair?.gains.frameRateFps).toMatchObject({ change: 6, u95: expect.closeTo(1.999, 2) });
    expect(pair?.gains.memoryRoomMHz).toBeNull();
  });

  it("claims no clock and no frame rate that a setting explains, and says which", () => {
    const [pair] = comparePairs(
      [
        run("b", "before", 80, { frameRateFps: 100, coreOffsetMHz: 50 }, clocked(1800)),
        run("a", "after", 72, { frameRateFps: 106, coreOffsetMHz: 150 }, clocked(1900)),
      ],
      CONTEXT,
    );
    expect(pair?.tuning.map((one) => one.what)).toEqual(["coreOffsetMHz"]);
    expect([pair?.gains.coreClockMHz, pair?.gains.frameRateFps]).toEqual([null, null]);
    expect(pair?.gains.coreRoomMHz).toEqual({ before: 50, after: 150, change: 100 });
  });

  it("takes nothing said for stock", () => {
    const [pair] = comparePairs(
      [run("b", "before", 80, { powerLimitPct: 100 }), run("a", "after", 72, { undervoltMv: 0 })],
      CONTEXT,
    );
    expect(pair?.tuning).toEqual([]);
  });
});

describe("case and air at the intake", () => {
  const inCase = { sidePanel: "panel on", inletC: 33 } as const;

  it("keep a run in a case from a run on the bench, until the air at both intakes is told", () => {
    const bench = run("b", "before", 80);
    const [apart] = comparePairs([bench, run("a", "after", 84, { sidePanel: "panel on" })], CONTEXT);
    expect(apart?.outcome.verdict).toBe("not-comparable");
    // 80 over air of 21 °C before, 84 over air of 33 °C after: 8 K better.
    const [told] = comparePairs([run("b", "before", 80, { inletC: 21 }), run("a", "after", 84, inCase)], CONTEXT);
    expect(told?.comparison.roles.edge?.changeK).toBeCloseTo(-8, 6);
    // It works in that air: 84 °C there, not the 71 °C that the room would make of it.
    expect(told?.outcome.sensors.find(({ role }) => role === "edge")?.afterC).toBeCloseTo(84, 6);
    expect(told?.outcome.warmestRoomC).toBe(33);
    expect(told?.outcome.verdict).toBe("better");
  });

  it("hold a limit also where nobody knows the room", () => {
    const airless = (made: ReturnType<typeof run>) => ({ ...made, analysis: { ...made.analysis, ambient: null } });
    const runs = [airless(run("b", "before", 80, { inletC: 21 })), airless(run("a", "after", 96, inCase))];
    const [pair] = comparePairs(runs, CONTEXT);
    expect(pair?.outcome).toMatchObject({ verdict: "over-limit", warmestRoomC: 33 });
  });

  it("take the mean of repeated runs", () => {
    const warmer = { ...inCase, inletC: 34 };
    const runs = [run("a", "after", 84, inCase), run("c", "after", 84, warmer)];
    const [pair] = comparePairs([run("b", "before", 80, { inletC: 21 }), ...runs], CONTEXT);
    expect(pair?.afterIds).toEqual(["a", "c"]);
    expect(pair?.comparison.roles.edge?.afterRiseK).toBeCloseTo(84 - 33.5, 6);
  });

  it("do not make repeated runs of those from another case", () => {
    const runs = [run("a", "after", 80), run("c", "after", 80, { sidePanel: "panel on" })];
    const [pair] = comparePairs([run("b", "before", 90), ...runs], CONTEXT);
    expect(pair?.afterIds).toEqual(["a"]);
  });
});
