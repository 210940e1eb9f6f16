import { describe, expect, it } from "vitest";
import { diagnoseTrials, earlyStopTrials, missesAllowed, simulatedSoak } from "./trials.ts";

/** Samples of what `npm run bench honesty` counts over 200 cards, as in `trials.test.ts`. */
describe("honesty of verdicts over simulated runs", () => {
  it("names the cause of a simulated fault, and means the probabilities it gives", () => {
    const found = diagnoseTrials(24, 31_000, true);
    expect(found.cards - found.right).toBeLessThanOrEqual(missesAllowed(found.cards, 0.9));
    const sure = found.tenths.at(-1);
    expect((sure?.count ?? 0) - (sure?.right ?? 0)).toBeLessThanOrEqual(missesAllowed(sure?.count ?? 0, 0.95));
  });

  it("names it without a healthy run to compare with", () => {
    const found = diagnoseTrials(24, 31_000, false);
    expect(found.cards - found.right).toBeLessThanOrEqual(missesAllowed(found.cards, 0.87));
  });

  it("lets a soak stop early only where it keeps the promised half kelvin", () => {
    const found = earlyStopTrials(1, 60_007, simulatedSoak);
    expect([found.stopped, found.held]).toEqual([1, 1]);
  });
});
