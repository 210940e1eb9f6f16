import { expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { durationOf, posterior, type UsualTime } from "./index.ts";

const USUAL: UsualTime = { minutes: 25, betweenFactor: 1.6, withinFactor: 1.4 };

it("weighs as in Berger’s example of a test: 115 seen, 100 held, comes to a normal of 110.38 and 69.23", () => {
  // J. O. Berger, Statistical Decision Theory and Bayesian Analysis, 2nd edition 1985, section 4.2 (from memory).
  const { mean, variance } = posterior({ mean: 100, variance: 225 }, { mean: 115, variance: 100 });
  expect(mean).toBeCloseTo((100 * 100 + 115 * 225) / 325, 9);
  expect([mean.toFixed(2), variance.toFixed(2)]).toEqual(["110.38", "69.23"]);
});

it("is the usual time without any, goes to its own with many, and lies between with few", () => {
  expect(durationOf([], USUAL).medianMin).toBeCloseTo(25, 9);
  const few = durationOf([50, 50], USUAL).medianMin;
  expect(few).toBeGreaterThan(30);
  expect(few).toBeLessThan(50);
  expect(
    durationOf(
      Array.from({ length: 400 }, () => 50),
      USUAL,
    ).medianMin,
  ).toBeCloseTo(50, 0);
  // A time of nothing is a mark made in passing, no work.
  expect(durationOf([0, 0.01], USUAL)).toEqual(durationOf([], USUAL));
  expect(() => durationOf([-3], USUAL)).toThrow(/no time of a piece of work/);
});

/** Shops whose usual time and spread differ; of each, times come one after the other, and the next is foretold. */
function held(next: (shop: { log: number; spread: number }, chance: ReturnType<typeof seeded>) => number): number[] {
  const chance = seeded(41);
  return [0, 1, 3, 10, 40].map((count) => {
    let inside = 0;
    const many = 600;
    for (let k = 0; k < many; k++) {
      const shop = {
        log: Math.log(25) + Math.log(1.6) * chance.normal(),
        spread: Math.log(1.4) * Math.exp(0.35 * chance.normal()),
      };
      const { low90Min, high90Min } = durationOf(
        Array.from({ length: count }, () => next(shop, chance)),
        USUAL,
      );
      const come = next(shop, chance);
      if (come >= low90Min && come <= high90Min) inside++;
    }
    return inside / many;
  });
}

it("holds what it says of nine in ten on times as it takes them to be, with none to forty of a shop’s own", () => {
  for (const share of held(({ log, spread }, chance) => Math.exp(log + spread * chance.normal()))) {
    expect(share).toBeGreaterThan(0.87);
    expect(share).toBeLessThan(0.97);
  }
});

it("holds it on times of another structure: a least time and a wait behind it, now and then with trouble", () => {
  const shares = held(({ log, spread }, chance) => {
    const base = Math.exp(log);
    const wait = -Math.log(1 - chance.uniform()) * spread * base;
    return 0.75 * base + wait + (chance.uniform() < 0.07 ? base * chance.between(0.5, 1.5) : 0);
  });
  for (const share of shares) expect(share).toBeGreaterThan(0.86);
});
