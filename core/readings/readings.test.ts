import { describe, expect, it } from "vitest";
import { correctInfrared } from "./index.ts";

describe("infrared correction (Stefan–Boltzmann)", () => {
  it("undoes what an instrument set to 1 sees: own radiation plus mirrored room", () => {
    for (const [trueC, emissivity] of [
      [90, 0.93],
      [60, 0.8],
      [110, 0.5],
    ] as const) {
      const seen = (emissivity * (trueC + 273.15) ** 4 + (1 - emissivity) * (22 + 273.15) ** 4) ** 0.25 - 273.15;
      expect(correctInfrared({ shownC: seen, emissivity, surroundC: 22 }).valueC).toBeCloseTo(trueC, 9);
    }
  });

  it("warns on bare metal and refuses what can't be", () => {
    expect(correctInfrared({ shownC: 30, emissivity: 0.07, surroundC: 22 }).warning).toMatch(/mirrors the room/);
    expect(() => correctInfrared({ shownC: 0, emissivity: 0.05, surroundC: 60 })).toThrow(/No surface/);
    expect(() => correctInfrared({ shownC: 50, emissivity: 1.2, surroundC: 20 })).toThrow(/between 0 and 1/);
  });
});
