import { describe, expect, it } from "vitest";
import { diagnoseTrials, earlyStopTrials, simulatedSoak } from "./trials.ts";

/** Smaller, fixed-seed twins of what the bench prints over 200 runs. */
describe("honesty of verdicts over simulated runs", () => {
  it("names the cause of a simulated fault in 85 of 100, and means the probabilities it gives", () => {
    const found = diagnoseTrials(32, 31_000, true);
    expect(found.right / found.cards).toBeGreaterThanOrEqual(0.85);
    const sure = found.tenths.at(-1);
    expect((sure?.right ?? 0) / (sure?.count ?? 1)).toBeGreaterThanOrEqual(0.9);
  });

  it("names it in 80 of 100 without a healthy run to compare with (the bench counts 200 cards, and asks for 85)", () => {
    const found = diagnoseTrials(32, 31_000, false);
    expect(found.right / found.cards).toBeGreaterThanOrEqual(0.8);
  });

  it("lets a soak stop early only where it keeps the promised half kelvin", () => {
    const found = earlyStopTrials(2, 60_006, simulatedSoak);
    expect(found.stopped).toBeGreaterThanOrEqual(1);
    expect(found.held).toBe(found.stopped);
  });
});
