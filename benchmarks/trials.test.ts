import { describe, expect, it } from "vitest";
import { diagnoseTrials, earlyStopTrials, pairTrials, riseTrials } from "./trials.ts";

/** Smaller, fixed-seed twins of what the bench prints over 200 runs. */
describe("honesty over simulated runs", () => {
  it("holds the true rise in nine of ten settled runs or more", () => {
    const found = riseTrials(30, 1000);
    expect(found.covered / found.steady).toBeGreaterThanOrEqual(0.9);
  });

  it("holds the settling value of runs stopped early", () => {
    const found = riseTrials(30, 3000, [3, 9]);
    expect(found.unsettled).toBeGreaterThan(20);
    expect(found.finalsCovered / found.unsettled).toBeGreaterThanOrEqual(0.88);
  });

  it("seldom calls a change that is none, and finds one of 3 K", () => {
    expect(pairTrials(16, 500, 0).noChange).toBeGreaterThanOrEqual(14);
    expect(pairTrials(16, 700, -3).better).toBeGreaterThanOrEqual(14);
  });

  it("names the cause of a simulated fault in 85 of 100, and means the probabilities it gives", () => {
    const found = diagnoseTrials(40, 31_000, true);
    expect(found.right / found.cards).toBeGreaterThanOrEqual(0.85);
    const sure = found.tenths.at(-1);
    expect((sure?.right ?? 0) / (sure?.count ?? 1)).toBeGreaterThanOrEqual(0.9);
  });

  it("lets a soak stop early and keeps the promised half kelvin", () => {
    const found = earlyStopTrials(12, 62_000);
    expect(found.stopped).toBeGreaterThanOrEqual(10);
    expect(found.held / found.stopped).toBeGreaterThanOrEqual(0.9);
    expect(found.minutes[found.minutes.length >> 1]).toBeLessThan(25 * 0.67);
  });
});
