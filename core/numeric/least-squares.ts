import { nth } from "./checked.ts";
import { cholesky, solveCholesky } from "./linear.ts";

export interface Model {
  /** Value at x, and its derivatives by each parameter written into `slope`. */
  (x: number, parameters: Float64Array, slope: Float64Array): number;
}

export interface Fit {
  parameters: Float64Array;
  /** Standard deviations of the parameters, from the residuals. */
  deviations: Float64Array;
  /** Weighted residual sum of squares. */
  residualSum: number;
  converged: boolean;
}

/**
 * Nonlinear least squares by Levenberg and Marquardt's method with Marquardt's scaling.
 * @param x positions
 * @param y values, same length
 * @param start first guess of the parameters
 * @param sd standard deviation of each value, by default 1
 * @param still a step that moves every parameter by less than this share of itself is the last
 * @returns the best parameters found; `converged` is false when the step never settled
 */
export function leastSquares(
  model: Model,
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  start: ArrayLike<number>,
  sd?: ArrayLike<number>,
  still = 1e-11,
): Fit {
  const size = start.length;
  let parameters = Float64Array.from(start);
  let damping = 1e-3;
  let { matrix, gradient, sum } = normal(model, x, y, parameters, sd);
  let converged = false;
  for (let round = 0; round < 400; round++) {
    const damped = Float64Array.from(matrix);
    for (let k = 0; k < size; k++) damped[k * size + k] = (matrix[k * size + k] as number) * (1 + damping) + 1e-300;
    const lower = cholesky(damped, size);
    const step = lower && solveCholesky(lower, gradient);
    const next = step && parameters.map((value, k) => value + (step[k] as number));
    const tried = next && normal(model, x, y, next, sd);
    if (!step || !next || !tried || !(tried.sum <= sum)) {
      damping *= 8;
      if (damping > 1e20) {
        converged = round > 0;
        break;
      }
      continue;
    }
    const moved = step.reduce(
      (most, value, k) => Math.max(most, Math.abs(value) / (Math.abs(parameters[k] as number) + 1e-12)),
      0,
    );
    parameters = next;
    ({ matrix, gradient, sum } = tried);
    damping = Math.max(damping / 5, 1e-14);
    if (moved < still) {
      converged = true;
      break;
    }
  }
  return { parameters, deviations: spread(matrix, size, sum, x.length), residualSum: sum, converged };
}

function normal(
  model: Model,
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  parameters: Float64Array,
  sd?: ArrayLike<number>,
) {
  const size = parameters.length;
  const matrix = new Float64Array(size * size);
  const gradient = new Float64Array(size);
  const slope = new Float64Array(size);
  let sum = 0;
  for (let i = 0; i < x.length; i++) {
    const weight = 1 / (sd?.[i] ?? 1) ** 2;
    const residual = (y[i] as number) - model(x[i] as number, parameters, slope);
    sum += weight * residual * residual;
    for (let row = 0; row < size; row++) {
      const left = weight * (slope[row] as number);
      gradient[row] = (gradient[row] as number) + left * residual;
      for (let col = 0; col < size; col++)
        matrix[row * size + col] = (matrix[row * size + col] as number) + left * (slope[col] as number);
    }
  }
  return { matrix, gradient, sum };
}

function spread(matrix: Float64Array, size: number, sum: number, count: number): Float64Array {
  const lower = cholesky(matrix, size);
  const variance = sum / Math.max(1, count - size);
  return Float64Array.from({ length: size }, (_, k) => {
    if (!lower) return Number.POSITIVE_INFINITY;
    const unit = new Float64Array(size);
    unit[k] = 1;
    return Math.sqrt(nth(solveCholesky(lower, unit), k) * variance);
  });
}
