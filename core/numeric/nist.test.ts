import { describe, expect, it } from "vitest";
import { leastSquares, type Model } from "./index.ts";

/**
 * NIST Statistical Reference Datasets, nonlinear regression. Data and certified values of Misra1b and DanWood were written
 * down from memory [mem]; that they fit each other to nine digits is the check of the memory.
 */
const MISRA_X = [77.6, 114.9, 141.1, 190.8, 239.9, 289.0, 332.8, 378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760.0];
const MISRA_Y = [10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02, 44.82, 50.76, 55.05, 61.01, 66.4, 75.47, 81.78];

interface Case {
  name: string;
  model: Model;
  x: number[];
  y: number[];
  starts: Array<[number, number]>;
  certified: [number, number];
  residualSum: number;
}

const CASES: Case[] = [
  {
    name: "Misra1b",
    model: (x, [b1 = 0, b2 = 0], slope) => {
      const base = 1 + (b2 * x) / 2;
      slope[0] = 1 - base ** -2;
      slope[1] = b1 * x * base ** -3;
      return b1 * (1 - base ** -2);
    },
    x: MISRA_X,
    y: MISRA_Y,
    starts: [
      [500, 0.0001],
      [300, 0.0002],
    ],
    certified: [337.99746163, 3.9039091287e-4],
    residualSum: 7.5464681533e-2,
  },
  {
    name: "DanWood",
    model: (x, [b1 = 0, b2 = 0], slope) => {
      slope[0] = x ** b2;
      slope[1] = b1 * x ** b2 * Math.log(x);
      return b1 * x ** b2;
    },
    x: [1.309, 1.471, 1.49, 1.565, 1.611, 1.68],
    y: [2.138, 3.421, 3.597, 4.34, 4.882, 5.66],
    starts: [
      [1, 5],
      [0.7, 4],
    ],
    certified: [0.76886226176, 3.8604055871],
    residualSum: 4.3173084083e-3,
  },
];

describe.each(CASES)("NIST StRD $name", ({ model, x, y, starts, certified, residualSum }) => {
  it.each(starts)("reaches the certified values from (%d, %d)", (b1, b2) => {
    const fit = leastSquares(model, x, y, [b1, b2]);
    expect(fit.converged).toBe(true);
    fit.parameters.forEach((value, k) => {
      expect(Math.abs(value / (certified[k] ?? 1) - 1)).toBeLessThan(1e-8);
    });
    expect(Math.abs(fit.residualSum / residualSum - 1)).toBeLessThan(1e-8);
  });
});

describe("leastSquares", () => {
  it("weighs values by their standard deviation: two readings, one four times as sure (weighted mean, by hand)", () => {
    const constant: Model = (_, [level = 0], slope) => {
      slope[0] = 1;
      return level;
    };
    const fit = leastSquares(constant, [0, 0], [10, 20], [0], [1, 0.25]);
    // (10·1 + 20·16) / 17
    expect(fit.parameters[0]).toBeCloseTo(330 / 17, 9);
  });

  it("says when it can't tell: a parameter the data do not touch has no finite deviation", () => {
    const blind: Model = (x, [slopeOf = 0], slope) => {
      slope[0] = x;
      slope[1] = 0;
      return slopeOf * x;
    };
    const fit = leastSquares(blind, [1, 2, 3], [2, 4, 6], [1, 1]);
    expect(fit.deviations[1]).toBe(Number.POSITIVE_INFINITY);
  });
});
