import { describe, expect, it } from "vitest";
import { USUAL_COOLING } from "../compare/index.ts";
import { asSettings, heard, type QuietInput, quietSteps } from "./index.ts";

const EXACT = { ...USUAL_COOLING, shareSd: 0, exponentSd: 0 };
const INPUT: QuietInput = {
  sensors: [
    { role: "edge", riseK: 40, sd: 0, limitC: 85, share: 0.65 },
    { role: "memory", riseK: 50, sd: 0, limitC: 95, share: 0.5 },
  ],
  cooling: EXACT,
  fanPct: 60,
  fanRpm: 1800,
  roomC: 30,
  marginK: 8,
  leastPct: 25,
};

describe("the quietest fan steps", () => {
  it("keep every sensor its margin under its limit, and one per cent slower would not", () => {
    const steps = quietSteps(INPUT);
    expect(steps.map(({ loadPct }) => loadPct)).toEqual([25, 50, 75, 100]);
    const riseAt = (index: number, pct: number): number => {
      const { riseK, share } = INPUT.sensors[index]!;
      return riseK * (1 - share + share * (pct / 60) ** -EXACT.exponent);
    };
    const full = steps.at(-1)?.fanPct ?? 0;
    for (const [index, limit] of [77, 87].entries()) expect(30 + riseAt(index, full)).toBeLessThanOrEqual(limit);
    expect([0, 1].some((index) => 30 + riseAt(index, full - 1) > (index === 0 ? 77 : 87))).toBe(true);
    expect(steps.at(-1)?.upToC).toBeCloseTo(30 + riseAt(0, full), 6);
    expect(steps.at(-1)?.fanRpm).toBeCloseTo(30 * full, 6);
  });

  it("never fall with the load, and ask for more the less is known", () => {
    const known = quietSteps(INPUT).map(({ fanPct }) => fanPct ?? 101);
    const vague = quietSteps({
      ...INPUT,
      cooling: USUAL_COOLING,
      sensors: INPUT.sensors.map((one) => ({ ...one, sd: 2 })),
    }).map(({ fanPct }) => fanPct ?? 101);
    expect(known).toEqual(known.toSorted((a, b) => a - b));
    expect(vague.at(-1)).toBeGreaterThan(known.at(-1) ?? 0);
  });

  it("are typed in once for each fan speed", () => {
    const steps = quietSteps({ ...INPUT, marginK: 0, leastPct: 60 });
    expect(new Set(steps.map(({ fanPct }) => fanPct)).size).toBeLessThan(steps.length);
    const settings = asSettings(steps);
    expect(settings.map(({ fanPct }) => fanPct)).toEqual([...new Set(steps.map(({ fanPct }) => fanPct))]);
    expect(settings.at(-1)).toEqual(steps.at(-1));
  });

  it("say which sensor full speed is not enough for", () => {
    const hot = { role: "vrm", riseK: 120, sd: 1, limitC: 110, share: 0.4 };
    expect(quietSteps({ ...INPUT, sensors: [...INPUT.sensors, hot] }).at(-1)).toMatchObject({
      fanPct: null,
      leads: "vrm",
    });
  });

  it("half the speed is some 15 dB quieter (50·log₁₀, fan engineering handbooks, from memory)", () => {
    expect(heard(2000, 1000)).toEqual({ rpm: -1000, db: expect.closeTo(-15.05, 1) });
  });
});
