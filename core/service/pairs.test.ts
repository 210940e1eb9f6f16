import { describe, expect, it } from "vitest";
import { compareAttempt, comparePairs, leadingPair } from "./index.ts";
import { run } from "./tests/made-run.ts";

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
