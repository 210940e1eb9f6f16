import { expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { fromUnits, priced, shared, toUnits, withTax } from "./index.ts";

it("takes amounts as people write them, half away from nought", () => {
  expect([1.005, 0.285, 19.99, 1e6, -2.5, 0].map((amount) => toUnits(amount, 2))).toEqual([
    101, 29, 1999, 1e8, -250, 0,
  ]);
  expect([toUnits(12.5, 0), toUnits(-12.5, 0), toUnits(1.2345, 3)]).toEqual([13, -13, 1235]);
  expect(fromUnits(1999, 2)).toBe(19.99);
  expect(() => toUnits(Number.NaN, 2)).toThrow(/no amount/);
  expect(() => toUnits(1e15, 2)).toThrow(/no amount/);
});

it("prices what was used: 1.35 g at 8.50 a gram, 40 minutes at 48.00 an hour", () => {
  expect(priced(1.35, 850)).toBe(1148);
  expect(priced(40 / 60, 4800)).toBe(3200);
});

it("closes: net and tax are what is paid, shares are the sum, whatever the figures", () => {
  // 19 % of 20.05 is 3.8095.
  expect(withTax([1999, 6], 19)).toEqual({ net: 2005, tax: 381, gross: 2386 });
  expect(() => withTax([1], -1)).toThrow(/is none/);
  const chance = seeded(6);
  for (let k = 0; k < 300; k++) {
    const weights = Array.from({ length: 1 + Math.floor(7 * chance.uniform()) }, () => chance.between(0.01, 9));
    const sum = Math.floor(chance.between(0, 100_000));
    const parts = shared(sum, weights);
    expect(parts.reduce((total, part) => total + part, 0)).toBe(sum);
    const all = weights.reduce((total, weight) => total + weight, 0);
    for (const [at, part] of parts.entries()) expect(Math.abs(part - (sum * (weights[at] ?? 0)) / all)).toBeLessThan(1);
  }
  expect(() => shared(5, [0, 0])).toThrow(/nothing to share/);
});
