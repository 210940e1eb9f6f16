import jstat from "jstat";
import { Matrix, solve } from "ml-matrix";
import { describe, expect, it } from "vitest";
import {
  cholesky,
  leastSquares,
  median,
  normalQuantile,
  normalShare,
  quantile,
  solveCholesky,
  studentT,
} from "./index.ts";

/** NIST StRD, data set Misra1a (Misra, 1978: dental research, monomolecular adsorption). */
const MISRA1A = {
  x: [77.6, 114.9, 141.1, 190.8, 239.9, 289.0, 332.8, 378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760.0],
  y: [10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02, 44.82, 50.76, 55.05, 61.01, 66.4, 75.47, 81.78],
};

describe("leastSquares", () => {
  it.each([
    ["NIST's far start", 500, 0.0001],
    ["NIST's near start", 250, 0.0005],
  ])("reaches the certified values of NIST StRD Misra1a from %s", (_, b1, b2) => {
    const fit = leastSquares(
      (x, p, slope) => {
        const [limit = 0, rate = 0] = p;
        const decay = Math.exp(-rate * x);
        slope[0] = 1 - decay;
        slope[1] = limit * x * decay;
        return limit * (1 - decay);
      },
      MISRA1A.x,
      MISRA1A.y,
      [b1, b2],
    );
    expect(fit.converged).toBe(true);
    expect(fit.parameters[0]).toBeCloseTo(238.94212918, 5);
    expect((fit.parameters[1] ?? 0) * 1e4).toBeCloseTo(5.5015643181, 7);
    expect(fit.residualSum).toBeCloseTo(0.12455138894, 9);
    // Certified standard deviations, NIST StRD Misra1a [mem]
    expect(fit.deviations[0]).toBeCloseTo(2.7070075241, 4);
    expect((fit.deviations[1] ?? 0) * 1e6).toBeCloseTo(7.2668688436, 4);
  });
});

describe("Student's t and the normal distribution", () => {
  it.each([
    [5, 2.571],
    [10, 2.228],
    [20, 2.086],
    [Number.POSITIVE_INFINITY, 1.96],
  ])("gives the two-sided 95 %% value of the usual tables for %d degrees of freedom", (freedom, t) => {
    expect(studentT(freedom)).toBeCloseTo(t, 3);
  });

  it("agrees with a general statistics package over levels and degrees of freedom", () => {
    for (const freedom of [1, 2, 3, 4, 7, 15, 60, 400])
      for (const level of [0.5, 0.8, 0.95, 0.99]) {
        const other = jstat.studentt.inv(1 - (1 - level) / 2, freedom);
        expect(Math.abs(studentT(freedom, level) / other - 1)).toBeLessThan(2e-3);
      }
    for (const z of [-4, -1.3, 0.2, 2.2, 3.7]) expect(normalShare(z)).toBeCloseTo(jstat.normal.cdf(z, 0, 1), 9);
    expect(normalQuantile(0.975)).toBeCloseTo(1.959964, 6);
  });

  it("refuses fewer than one degree of freedom", () => {
    expect(() => studentT(0.5)).toThrow(/studentT/);
  });
});

describe("order and matrices", () => {
  it("takes quantiles between ranks and passes over missing values", () => {
    expect(median([4, Number.NaN, 1, 3])).toBe(3);
    expect(quantile([0, 10], 0.25)).toBe(2.5);
    expect(median([])).toBeNaN();
  });

  it("solves as a general matrix package does, and says when a matrix is not positive definite", () => {
    const rows = [
      [4, 1, 0.5],
      [1, 3, 0.2],
      [0.5, 0.2, 2],
    ];
    const b = [1, 2, 3];
    const lower = cholesky(Float64Array.from(rows.flat()), 3);
    const other = solve(new Matrix(rows), Matrix.columnVector(b)).to1DArray();
    expect(lower).toBeDefined();
    solveCholesky(lower ?? new Float64Array(9), Float64Array.from(b)).forEach((value, k) => {
      expect(value).toBeCloseTo(other[k] ?? 0, 12);
    });
    expect(cholesky(Float64Array.from([1, 2, 2, 1]), 2)).toBeUndefined();
  });
});
