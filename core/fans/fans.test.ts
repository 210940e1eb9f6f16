import { describe, expect, it } from "vitest";
import { addLevelsDb, bladePassHz, levelChangeDb } from "./index.ts";

describe("fan and level laws", () => {
  it("adds two equal sources to 3.01 dB more (definition of the level)", () => {
    expect(addLevelsDb([40, 40])).toBeCloseTo(43.01, 2);
    // Ten times one source is 10 dB more.
    expect(addLevelsDb(Array(10).fill(33))).toBeCloseTo(43, 9);
  });

  it("makes twice the speed 15 dB louder (50·log₁₀ 2; fan engineering handbooks, from memory)", () => {
    expect(levelChangeDb(1000, 2000)).toBeCloseTo(15.05, 2);
    expect(levelChangeDb(2000, 1000)).toBeCloseTo(-15.05, 2);
    for (const [from, to] of [
      [0, 1000],
      [1000, 0],
      [-1, 1000],
      [Number.NaN, 1000],
    ] as const)
      expect(() => levelChangeDb(from, to)).toThrow(/positive/);
  });

  it("has blades pass so many times a second as there are blades and turns (blades · rpm / 60)", () => {
    expect(bladePassHz(9, 2000)).toBe(300);
    expect(bladePassHz(11, 60)).toBe(11);
  });
});
