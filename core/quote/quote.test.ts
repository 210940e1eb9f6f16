import { describe, expect, it } from "vitest";
import { fanFactor, USUAL_COOLING } from "../compare/index.ts";
import { seeded } from "../random/index.ts";
import { bringing, earned, type OfferedWork, priceTask, quieterBy } from "./index.ts";

describe("what work is expected to bring", () => {
  const causes = [
    { cause: "dry-paste", probability: 0.5 },
    { cause: "dust-or-airflow", probability: 0.2 },
    { cause: "memory-pads", probability: 0.1 },
    { cause: "healthy", probability: 0.2 },
  ] as const;

  it("is the share of causes that it mends, a healthy card's left out", () => {
    const of = (work: OfferedWork) => bringing(work, causes, { gainK: 8, sdK: 0 });
    expect(of("leave")).toEqual({ gainK: 0, u95K: 0, mends: 0 });
    expect(of("clean").mends).toBeCloseTo(0.2 / 0.8, 12);
    expect(of("repaste").gainK).toBeCloseTo((8 * 0.7) / 0.8, 12);
    expect(of("pads")).toMatchObject({ gainK: 8, mends: 1, u95K: 0 });
    expect(bringing("pads", [{ cause: "healthy", probability: 1 }], { gainK: 8, sdK: 2 }).gainK).toBe(0);
  });

  it("has the spread of drawing a cause and then a gain", () => {
    const chance = seeded(3);
    const drawn = Array.from({ length: 40_000 }, () => (chance.uniform() < 0.7 / 0.8 ? 8 + 2 * chance.normal() : 0));
    const mean = drawn.reduce((sum, one) => sum + one, 0) / drawn.length;
    const sd = Math.sqrt(drawn.reduce((sum, one) => sum + (one - mean) ** 2, 0) / drawn.length);
    const { gainK, u95K } = bringing("repaste", causes, { gainK: 8, sdK: 2 });
    expect(Math.abs(gainK - mean)).toBeLessThan(0.06);
    expect(Math.abs(u95K / 1.96 - sd)).toBeLessThan(0.06);
  });

  it("as sound: slowed until the rise is what it was, the card is as warm and the fan quieter", () => {
    const db = quieterBy(50, 8, 2000) ?? Number.NaN;
    expect(db).toBeLessThan(-2);
    // 50 dB a tenfold of speed.
    const rpm = 2000 * 10 ** (db / 50);
    expect(42 * fanFactor(USUAL_COOLING, USUAL_COOLING.share, 2000, rpm).factor).toBeCloseTo(50, 6);
    expect(quieterBy(50, 0, 2000)).toBe(0);
    expect(quieterBy(50, 60, 2000)).toBeNull();
    expect(quieterBy(Number.NaN, 5, 2000)).toBeNull();
  });
});

describe("what it costs", () => {
  const terms = { ratePerHour: 4800, benchPerHour: 300, taxPct: 19, worthTimes: 3 };

  it("is material, hands and bench with tax, by hand: 22.00, 70 min at 48.00, 70 min at 3.00, 19 %", () => {
    const found = priceTask({ materialUnits: 2200, minutes: 70, benchMinutes: 70 }, terms, 30_000);
    expect(found.lines.map(({ units }) => units)).toEqual([2200, 5600, 350]);
    expect(found).toMatchObject({ net: 8150, tax: 1549, gross: 9699, isSensible: true });
    expect(found.times).toBeCloseTo(30_000 / 9699, 12);
  });

  it("is rarely sensible where the card is worth less than so many times that, and not judged where nobody knows", () => {
    const task = { materialUnits: 4800, minutes: 80, benchMinutes: 70 };
    expect(priceTask(task, terms, 20_000).isSensible).toBe(false);
    expect(priceTask(task, terms, null)).toMatchObject({ times: null, isSensible: null });
    expect(priceTask({ materialUnits: 0, minutes: 0, benchMinutes: 0 }, terms, 100)).toMatchObject({
      gross: 0,
      times: null,
    });
  });

  it("of a card of one's own: sold for 240.00, bought for 150.00, 22.50 put in, 75 min: 67.50, or 54.00 an hour", () => {
    const putIn = { materialUnits: 2250, minutes: 75 };
    expect(earned({ boughtUnits: 15_000, soldUnits: 24_000 }, putIn)).toEqual({ units: 6750, perHour: 5400 });
    expect(earned({ boughtUnits: 15_000, soldUnits: null }, putIn)).toBeNull();
    expect(earned({ boughtUnits: 1, soldUnits: 0 }, { materialUnits: 0, minutes: 0 })).toEqual({
      units: -1,
      perHour: null,
    });
  });
});
