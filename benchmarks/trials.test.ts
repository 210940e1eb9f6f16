import { describe, expect, it } from "vitest";
import { fieldTrials, missesAllowed, pairTrials, riseTrials } from "./trials.ts";

/**
 * Samples of what `npm run bench honesty` counts over 200 runs: a sound computation fails one of these in fifty choices of seeds at the
 * most, one that is broken fails nearly always. In two files, so that two cores share them.
 */
it("so many misses are allowed: by hand, three or more of ten at one in ten each come in 7 of 100, four or more in 1.3", () => {
  expect([missesAllowed(10, 0.9), missesAllowed(10, 0.95), missesAllowed(1, 0.99)]).toEqual([3, 2, 0]);
});

describe("honesty of figures and comparisons over simulated runs", () => {
  it("holds the true rise as often as it says", () => {
    const found = riseTrials(12, 1000);
    expect(found.steady - found.covered).toBeLessThanOrEqual(missesAllowed(found.steady, 0.95));
    expect(found.steady).toBeGreaterThan(8);
  });

  it("holds the settling value of runs stopped early", () => {
    const found = riseTrials(12, 3000, [3, 9]);
    expect(found.unsettled).toBeGreaterThan(8);
    expect(found.unsettled - found.finalsCovered).toBeLessThanOrEqual(missesAllowed(found.unsettled, 0.95));
  });

  it("holds them too on cards of another structure, whose heat flows through cells into a case and a room that drift", () => {
    const found = fieldTrials(13, 7000, [3, 25]);
    expect(found.predicted).toBe(39);
    expect(found.predicted - found.held).toBeLessThanOrEqual(missesAllowed(found.predicted, 0.93));
    expect(found.atRest).toBe(found.steady);
  });

  it("seldom calls a change that is none, and finds one of 3 K", () => {
    expect(8 - pairTrials(8, 500, 0).noChange).toBeLessThanOrEqual(missesAllowed(8, 0.95));
    expect(8 - pairTrials(8, 700, -3).better).toBeLessThanOrEqual(missesAllowed(8, 0.95));
  });
});
