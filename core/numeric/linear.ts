import { SolveFailed } from "./checked.ts";

/**
 * Cholesky factor of a small symmetric positive definite matrix, row by row in one array.
 * @param matrix size × size values, not changed
 * @returns the lower factor, or undefined when the matrix is not positive definite
 * @example
 * ```ts
 * [...cholesky(Float64Array.from([4, 2, 2, 5]), 2)] // => [2, 0, 1, 2]
 * ```
 */
export function cholesky(matrix: Float64Array, size: number): Float64Array | undefined {
  const lower = new Float64Array(size * size);
  for (let row = 0; row < size; row++) {
    for (let col = 0; col <= row; col++) {
      let sum = matrix[row * size + col] as number;
      for (let k = 0; k < col; k++) sum -= (lower[row * size + k] as number) * (lower[col * size + k] as number);
      if (row === col) {
        if (!(sum > 0)) return undefined;
        lower[row * size + row] = Math.sqrt(sum);
      } else lower[row * size + col] = sum / (lower[col * size + col] as number);
    }
  }
  return lower;
}

/**
 * Solves A x = b from the Cholesky factor of A.
 * @example
 * ```ts
 * [...solveCholesky(Float64Array.from([2, 0, 1, 2]), Float64Array.from([8, 12]))] // => [1, 2]
 * ```
 */
export function solveCholesky(lower: Float64Array, b: Float64Array): Float64Array {
  const size = b.length;
  const x = Float64Array.from(b);
  for (let row = 0; row < size; row++) {
    let sum = x[row] as number;
    for (let k = 0; k < row; k++) sum -= (lower[row * size + k] as number) * (x[k] as number);
    x[row] = sum / (lower[row * size + row] as number);
  }
  for (let row = size - 1; row >= 0; row--) {
    let sum = x[row] as number;
    for (let k = row + 1; k < size; k++) sum -= (lower[k * size + row] as number) * (x[k] as number);
    x[row] = sum / (lower[row * size + row] as number);
  }
  return x;
}

/**
 * The Cholesky factor, where there must be one.
 * @param of what is being solved, for the words of the error
 * @throws SolveFailed when the matrix is not positive definite
 */
export function factorOf(matrix: Float64Array, size: number, of: string): Float64Array {
  const lower = cholesky(matrix, size);
  if (!lower) throw new SolveFailed(of);
  return lower;
}
