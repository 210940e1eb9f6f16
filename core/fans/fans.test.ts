import { describe, expect, it } from "vitest";
import { addLevelsDb, levelChangeDb } from "./index.ts";

describe("fan and level laws", () => {
  it("adds two equal sources to 3.01 dB more (definition of the level)", () => {
    expect(addLevelsDb([40, 40])).toBeCloseTo(43.01, 2);
  });

  it("makes twice the speed 15 dB louder (50·log₁₀ 2; fan engineering handbooks, from memory)", () => {
    expect(levelChangeDb(1000, 2000)).toBeCloseTo(15.05, 2);
    expect(levelChangeDb(2000, 1000)).toBeCloseTo(-15.05, 2);
    expect(() => levelChangeDb(0, 1000)).toThrow(/positive/);
  });
});
