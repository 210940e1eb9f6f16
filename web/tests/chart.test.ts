import { describe, expect, it } from "vitest";
import { fitted, roundTicks, timeTicks } from "../charts/axes.ts";
import { movedApart } from "../charts/end-labels.ts";

describe("axes", () => {
  it("mark whole steps of a clock within what is shown, at most nine", () => {
    expect(timeTicks(0, 1350)).toEqual([0, 300, 600, 900, 1200]);
    expect(timeTicks(61, 119)).toEqual([70, 80, 90, 100, 110]);
    expect(timeTicks(0, 86_400)).toHaveLength(7);
    for (const toS of [3, 17, 95, 480, 1350, 5400, 36_000]) expect(timeTicks(0, toS).length).toBeLessThanOrEqual(9);
  });

  it("mark round numbers", () => {
    expect(roundTicks(17.3, 94.1, 6)).toEqual([20, 40, 60, 80]);
    expect(roundTicks(0, 2100, 3)).toEqual([0, 1000, 2000]);
    expect(roundTicks(0.02, 0.31, 6)).toEqual([0.05, 0.1, 0.15, 0.2, 0.25, 0.3]);
    expect(roundTicks(-12, 11, 3)).toEqual([-10, 0, 10]);
  });

  it("hold all that is drawn, a quiet line without being filled by its noise, and nothing below zero that is not", () => {
    for (const [low, high] of [
      [22, 91],
      [0, 3],
      [-5, 12],
    ] as const) {
      const [min, max] = fitted(low, high, 8);
      expect(min <= low && max >= high && max - min >= 5).toBe(true);
      expect(max - min).toBeLessThan(1.2 * Math.max(8, high - low));
    }
    expect(fitted(0.4, 200, 8)[0]).toBeGreaterThanOrEqual(0);
    const [min, max] = fitted(1999, 2001, 20);
    expect(max - min).toBeGreaterThan(100);
    expect(fitted(Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 8)).toEqual([0, 8]);
  });
});

describe("names where lines end", () => {
  it("keep their order and never lie over each other, within the panel where there is room", () => {
    const names = [
      { id: "a", y: 40 },
      { id: "b", y: 41 },
      { id: "c", y: 99 },
      { id: "d", y: 39 },
    ];
    const placed = movedApart(names, 6, 100);
    expect(placed.map(({ id }) => id)).toEqual(["d", "a", "b", "c"]);
    placed.slice(1).forEach(({ y }, k) => expect(y - (placed[k]?.y ?? 0)).toBeGreaterThanOrEqual(13));
    expect([placed[0]!.y >= 6, placed[3]!.y <= 100]).toEqual([true, true]);
    expect(movedApart([{ y: 50 }], 6, 100)).toEqual([{ y: 50 }]);
  });
});
