import { describe, expect, it } from "vitest";
import { pairTrials, riseTrials } from "./trials.ts";

/** Smaller, fixed-seed twins of what the bench prints over 200 runs. In two files, so that two cores share them. */
describe("honesty of figures and comparisons over simulated runs", () => {
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
});
