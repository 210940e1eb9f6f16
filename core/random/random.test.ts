import { describe, expect, it } from "vitest";
import { seeded } from "./index.ts";

const draw = (seed: number): number[] => {
  const random = seeded(seed);
  return Array.from({ length: 5 }, () => random.uniform());
};

describe("seeded chance", () => {
  it("repeats itself for a seed and differs between seeds", () => {
    expect(draw(7)).toEqual(draw(7));
    expect(draw(7)).not.toEqual(draw(8));
  });

  it("draws normals with mean 0, variance 1 and 5 % outside 1.96 (any table of the normal distribution)", () => {
    const random = seeded(11);
    const draws = Array.from({ length: 40_000 }, () => random.normal());
    const mean = draws.reduce((sum, x) => sum + x, 0) / draws.length;
    const variance = draws.reduce((sum, x) => sum + (x - mean) ** 2, 0) / draws.length;
    expect(Math.abs(mean)).toBeLessThan(0.02);
    expect(Math.abs(variance - 1)).toBeLessThan(0.03);
    expect(draws.filter((x) => Math.abs(x) > 1.96).length / draws.length).toBeCloseTo(0.05, 2);
  });
});
