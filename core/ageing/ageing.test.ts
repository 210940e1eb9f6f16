import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { ageing, arrheniusFactor, countCycles, turningPoints } from "./index.ts";

/** Counts by range, the smallest first. */
const byRange = (cycles: ReadonlyArray<{ range: number; count: number }>): Array<[number, number]> => {
  const counts = new Map<number, number>();
  for (const { range, count } of cycles) counts.set(range, (counts.get(range) ?? 0) + count);
  return [...counts].toSorted((a, b) => a[0] - b[0]);
};
/** ASTM E1049-85, the example of 5.4.4 and its table of counts. */
const HISTORY = [-2, 1, -3, 5, -1, 3, -4, 4, -2];
const COUNTED = [
  [3, 0.5],
  [4, 1.5],
  [6, 0.5],
  [8, 1],
  [9, 0.5],
];

/** What four points enclose is a cycle; what is left, halves: the other way to the same counts. */
function fourPoints(points: readonly number[]): Array<{ range: number; count: number }> {
  const left = [...points];
  const cycles: Array<{ range: number; count: number }> = [];
  for (let at = 0; at + 3 < left.length; ) {
    const [a, b, c, d] = left.slice(at, at + 4) as [number, number, number, number];
    const inner = Math.abs(c - b);
    if (inner <= Math.abs(b - a) && inner <= Math.abs(d - c)) {
      cycles.push({ range: inner, count: 1 });
      left.splice(at + 1, 2);
      at = Math.max(0, at - 2);
    } else at++;
  }
  for (let at = 1; at < left.length; at++) cycles.push({ range: Math.abs(left[at]! - left[at - 1]!), count: 0.5 });
  return cycles;
}

const series = (values: number[], more: { stepK?: number; intervalS?: number } = {}) => ({
  values: Float64Array.from(values),
  durationS: (values.length - 1) * (more.intervalS ?? 1),
  stepK: more.stepK ?? 0,
});

describe("rainflow counting", () => {
  it("counts the standard’s example as its table does", () => {
    expect(byRange(countCycles(HISTORY))).toEqual(COUNTED);
    const found = ageing([series(HISTORY, { stepK: 1, intervalS: 600 })], { referenceRangeK: 4, exponent: 2 });
    expect(found.cycles.map(({ rangeK, count }) => [rangeK, count])).toEqual(COUNTED);
    const worth = COUNTED.reduce((sum, [range, count]) => sum + count! * (range! / 4) ** 2, 0);
    expect(found.equivalentCycles).toBeCloseTo(worth, 9);
    expect(found.hours).toBeCloseTo(8 / 6, 9);
    expect(found.cyclesPerHour).toBeCloseTo(4 / (8 / 6), 9);
  });

  it("agrees with four points at a time on made-up histories of kept seeds", () => {
    const random = seeded(12);
    for (let k = 0; k < 200; k++) {
      const points = turningPoints(
        Array.from({ length: 4 + Math.floor(30 * random.uniform()) }, () => random.normal()),
      );
      const [one, other] = [byRange(countCycles(points)), byRange(fourPoints(points))];
      expect(one.length).toBe(other.length);
      for (const [at, [range, count]] of one.entries()) {
        expect(range).toBeCloseTo(other[at]![0], 12);
        expect(count).toBe(other[at]![1]);
      }
    }
  });

  it("takes turns by less than the least as none, from the first value on", () => {
    expect(turningPoints([5, 6, 20, 19, 18.5, 30, 10, 11, 9], 3)).toEqual([5, 30, 9]);
    expect(turningPoints([20, 20.5, 19.9, 20.2], 3)).toEqual([20]);
    expect(turningPoints([Number.NaN, 20, Number.NaN, 30, 20], 3)).toEqual([20, 30, 20]);
  });
});

/** A card that is loaded and let cool: exponential approach, display step, noise, now and then a spike. */
function sessions(count: number, { noise = 0.3, stepK = 0, rise = 42, every = 900 } = {}): number[] {
  const random = seeded(9);
  let level = 32;
  return Array.from({ length: (count * 2 + 1) * every }, (_, second) => {
    const target = Math.floor(second / every) % 2 === 1 ? 32 + rise : 32;
    level += (target - level) / 60;
    const read = level + noise * random.normal();
    return stepK > 0 ? stepK * Math.round(read / stepK) : read;
  });
}

describe("a card’s own log", () => {
  it.each([
    ["fine noise", { noise: 0.3, stepK: 0 }],
    ["whole degrees", { noise: 0.3, stepK: 1 }],
    ["coarse noise", { noise: 0.6, stepK: 0 }],
  ])("counts sessions through %s, and nothing besides", (_, how) => {
    const found = ageing([series(sessions(4, how), { stepK: how.stepK })]);
    expect(found.cycles.reduce((sum, { count }) => sum + count, 0)).toBe(4);
    // Four of 42 K: 4 × (42/40)² = 4.41.
    expect(found.equivalentCycles).toBeGreaterThan(4.3);
    expect(found.equivalentCycles).toBeLessThan(4.41 * 1.15);
  });

  it("adds runs, each counted on its own: a cold start after a warm end is no cycle", () => {
    const warm = series([40, 60, 80], { stepK: 1, intervalS: 60 });
    const cold = series([30, 35, 38], { stepK: 1, intervalS: 60 });
    expect(ageing([warm, cold]).cycles.map(({ rangeK, count }) => [rangeK, count])).toEqual([
      [8, 0.5],
      [40, 0.5],
    ]);
  });

  it.each([
    ["reference", { referenceRangeK: 0 }],
    ["exponent", { exponent: -1 }],
  ])("refuses a %s that is none", (name, options) => {
    expect(() => ageing([], options)).toThrow(name);
  });
});

it("ages by temperature as the tabled factors say", () => {
  // 0.7 eV: 104 to 86 °C a factor 2.94, 104 to 92 °C 2.03 (JEDEC JEP122 practice, recomputed).
  expect(arrheniusFactor(104, 86)).toBeCloseTo(2.94, 2);
  expect(arrheniusFactor(104, 92)).toBeCloseTo(2.03, 2);
  expect(arrheniusFactor(86, 104)).toBeCloseTo(1 / 2.94, 2);
});

describe("counts that can’t depend on how they are taken", () => {
  const random = seeded(44);
  const history = Array.from({ length: 60 }, () => Math.round(20 + 60 * random.uniform()));
  const rangesOf = (values: readonly number[]) => byRange(countCycles(turningPoints(values)));

  it("a history upside down has the same ranges", () => {
    expect(rangesOf(history.map((value) => 100 - value))).toEqual(rangesOf(history));
  });

  it("a history twice as wide has ranges twice as wide, worth four times as much", () => {
    expect(rangesOf(history.map((value) => 2 * value))).toEqual(rangesOf(history).map(([range, n]) => [2 * range, n]));
    const worth = (times: number): number =>
      ageing([
        series(
          history.map((value) => times * value),
          { intervalS: 60 },
        ),
      ]).equivalentCycles;
    expect(worth(2)).toBeCloseTo(4 * worth(1), 9);
  });

  it("values between reversals, and values that are held, add nothing", () => {
    const slow = history.flatMap((value, at) => {
      const next = history[at + 1] ?? value;
      return [value, value, (2 * value + next) / 3, (value + 2 * next) / 3];
    });
    expect(rangesOf(slow)).toEqual(rangesOf(history));
  });

  it("each reversal is half a cycle, whichever way it is counted", () => {
    const points = turningPoints(history);
    const total = countCycles(points).reduce((sum, { count }) => sum + count, 0);
    expect(total).toBeCloseTo((points.length - 1) / 2, 9);
  });

  it("a higher exponent gives the large ranges more weight", () => {
    const worth = (exponent: number): number =>
      ageing([series([30, 70, 50, 70, 30], { intervalS: 60 })], { exponent }).equivalentCycles;
    // One of 40 K and one of 20 K: 1 + 2^-exponent.
    expect([worth(0), worth(1), worth(2), worth(4)]).toEqual([2, 1.5, 1.25, 1.0625]);
  });
});
