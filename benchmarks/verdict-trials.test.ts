import { describe, expect, it } from "vitest";
import { diagnoseTrials, earlyStopTrials } from "./trials.ts";

/** Smaller, fixed-seed twins of what the bench prints over 200 runs. */
describe("honesty of verdicts over simulated runs", () => {
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
