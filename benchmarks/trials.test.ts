import { describe, expect, it } from "vitest";
import { fieldTrials, pairTrials, riseTrials } from "./trials.ts";

/** Smaller, fixed-seed twins of what the bench prints over 200 runs. In two files, so that two cores share them. */
describe("honesty of figures and comparisons over simulated runs", () => {
  it("holds the true rise in nine of ten settled runs or more", () => {
    const found = riseTrials(20, 1000);
    expect(found.covered / found.steady).toBeGreaterThanOrEqual(0.9);
  });

  it("holds the settling value of runs stopped early", () => {
    const found = riseTrials(20, 3000, [3, 9]);
    expect(found.unsettled).toBeGreaterThan(14);
    expect(found.finalsCovered / found.unsettled).toBeGreaterThanOrEqual(0.88);
  });

  it("holds them too on cards of another structure, whose heat flows through cells into a case and a room that drift", () => {
    const found = fieldTrials(24, 7000, [3, 25]);
    expect(found.predicted).toBe(72);
    expect(found.held / found.predicted).toBeGreaterThanOrEqual(0.86);
    expect(found.atRest).toBe(found.steady);
  });

  it("seldom calls a change that is none, and finds one of 3 K", () => {
    expect(pairTrials(10, 500, 0).noChange).toBeGreaterThanOrEqual(8);
    expect(pairTrials(10, 700, -3).better).toBeGreaterThanOrEqual(8);
  });
});
