/**
 * Cholesky factor of a small symmetric positive definite matrix, row by row in one array.
 * @param matrix size × size values, not changed
 * @returns the lower factor, or undefined when the matrix is not positive definite
 */
export function cholesky(matrix: Float64Array, size: number): Float64Array | undefined {
  const lower = new Float64Array(size * size);
  for (let row = 0; row < size; row++) {
    for (let col = 0; col <= row; col++) {
      let sum = matrix[row * size + col] ?? 0;
      for (let k = 0; k < col; k++) sum -= (lower[row * size + k] ?? 0) * (lower[col * size + k] ?? 0);
      if (row === col) {
        if (!(sum > 0)) return undefined;
        lower[row * size + row] = Math.sqrt(sum);
      } else lower[row * size + col] = sum / (lower[col * size + col] ?? 1);
    }
  }
  return lower;
}

/** Solves A x = b from the Cholesky factor of A. */
export function solveCholesky(lower: Float64Array, b: Float64Array): Float64Array {
  const size = b.length;
  const x = Float64Array.from(b);
  for (let row = 0; row < size; row++) {
    let sum = x[row] ?? 0;
    for (let k = 0; k < row; k++) sum -= (lower[row * size + k] ?? 0) * (x[k] ?? 0);
    x[row] = sum / (lower[row * size + row] ?? 1);
  }
  for (let row = size - 1; row >= 0; row--) {
    let sum = x[row] ?? 0;
    for (let k = row + 1; k < size; k++) sum -= (lower[k * size + row] ?? 0) * (x[k] ?? 0);
    x[row] = sum / (lower[row * size + row] ?? 1);
  }
  return x;
}
