import { describe, expect, it } from "vitest";
import { inferGaps } from "../gaps/index.ts";
import { padHeat } from "../padheat/index.ts";
import { BandMatrix, dot, factorOf, nth, ofKey, SolveFailed } from "./index.ts";

describe("an index that is wrong", () => {
  it("is an error, not a 0", () => {
    expect(nth([3, 5, 8], 2)).toBe(8);
    for (const index of [-1, 3, 1.5]) expect(() => nth([3, 5, 8], index)).toThrow(RangeError);
    expect(ofKey({ M1: 1.1 }, "M1")).toBe(1.1);
    expect(() => ofKey({ M1: 1.1 }, "M2")).toThrow("M2");
    expect(dot([1, 2], new Float64Array([3, 4]))).toBe(11);
    expect(() => dot([1, 2], [3])).toThrow(RangeError);
  });
});

describe("a solve that fails", () => {
  it("is said by name, never answered with a number", () => {
    // Not positive definite: eigenvalues 3 and −1.
    const indefinite = Float64Array.from([1, 2, 2, 1]);
    expect(() => factorOf(indefinite, 2, "the test")).toThrow(SolveFailed);
    expect(() => factorOf(Float64Array.from([Number.NaN]), 1, "the test")).toThrow(/The equations of the test/);
    expect(new BandMatrix(2, 1).solve(new Float64Array(2))).toBeUndefined();
  });

  it("reaches the caller of what rests on it: no gap, no temperature is made up", () => {
    const reading = {
      id: "r",
      partId: "M1",
      source: "gap" as const,
      valueMm: Number.POSITIVE_INFINITY,
      padState: "unknown" as const,
      softness: "unknown" as const,
      card: "c",
    };
    expect(() => inferGaps([{ id: "M1", kind: "memory" }], [reading], "c")).toThrow(SolveFailed);
    const pad = {
      widthMm: 14,
      heightMm: 12,
      offXMm: 0,
      offYMm: 0,
      bondLineMm: Number.NaN,
      conductivityWPerMK: 6,
      pressureKPa: 50,
      joints: 2,
      filmLeft: false,
    };
    expect(() => padHeat({ widthMm: 14, heightMm: 12, powerW: 2, pad })).toThrow(SolveFailed);
  });
});
