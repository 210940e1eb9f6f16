/** A symmetric band matrix: its lower half row by row, each row ending on the diagonal. */
export class BandMatrix {
  readonly values: Float64Array;
  constructor(
    readonly size: number,
    readonly band: number,
  ) {
    this.values = new Float64Array(size * (band + 1));
  }

  /** Where an entry of the lower half stands. */
  private at(i: number, j: number): number {
    return (i + 1) * (this.band + 1) - 1 - i + j;
  }

  add(i: number, j: number, value: number): void {
    if (j > i) return;
    const at = this.at(i, j);
    this.values[at] = (this.values[at] as number) + value;
  }

  times(vector: Float64Array): Float64Array {
    const { size, band, values } = this;
    const product = new Float64Array(size);
    for (let i = 0; i < size; i++) {
      const row = this.at(i, 0);
      const own = vector[i] as number;
      let sum = (values[row + i] as number) * own;
      for (let j = Math.max(0, i - band); j < i; j++) {
        const value = values[row + j] as number;
        sum += value * (vector[j] as number);
        product[j] = (product[j] as number) + value * own;
      }
      product[i] = (product[i] as number) + sum;
    }
    return product;
  }

  copy(): BandMatrix {
    const twin = new BandMatrix(this.size, this.band);
    twin.values.set(this.values);
    return twin;
  }

  /** Cholesky in place, then the solution. @returns undefined where the matrix is not positive definite */
  solve(right: Float64Array): Float64Array | undefined {
    if (!this.factor()) return undefined;
    const { size, band, values } = this;
    const x = Float64Array.from(right);
    for (let i = 0; i < size; i++) {
      const row = this.at(i, 0);
      let sum = x[i] as number;
      for (let k = Math.max(0, i - band); k < i; k++) sum -= (values[row + k] as number) * (x[k] as number);
      x[i] = sum / (values[row + i] as number);
    }
    for (let i = size - 1; i >= 0; i--) {
      const row = this.at(i, 0);
      const found = (x[i] as number) / (values[row + i] as number);
      x[i] = found;
      for (let k = Math.max(0, i - band); k < i; k++) x[k] = (x[k] as number) - (values[row + k] as number) * found;
    }
    return x;
  }

  /** All indices lie inside, so the loops need not ask; four columns at a time share the row that all need. */
  private factor(): boolean {
    const { size, band } = this;
    const v = this.values;
    for (let i = 0; i < size; i++) {
      const first = Math.max(0, i - band);
      const row = this.at(i, 0);
      let j = first;
      for (; j + 3 < i; j += 4) {
        const rowA = this.at(j, 0);
        const rowB = rowA + band;
        const rowC = rowB + band;
        const rowD = rowC + band;
        let a = v[row + j] as number;
        let b = v[row + j + 1] as number;
        let c = v[row + j + 2] as number;
        let d = v[row + j + 3] as number;
        for (let k = first; k < j; k++) {
          const own = v[row + k] as number;
          a -= own * (v[rowA + k] as number);
          b -= own * (v[rowB + k] as number);
          c -= own * (v[rowC + k] as number);
          d -= own * (v[rowD + k] as number);
        }
        a /= v[rowA + j] as number;
        b = (b - a * (v[rowB + j] as number)) / (v[rowB + j + 1] as number);
        c = (c - a * (v[rowC + j] as number) - b * (v[rowC + j + 1] as number)) / (v[rowC + j + 2] as number);
        d =
          (d - a * (v[rowD + j] as number) - b * (v[rowD + j + 1] as number) - c * (v[rowD + j + 2] as number)) /
          (v[rowD + j + 3] as number);
        v[row + j] = a;
        v[row + j + 1] = b;
        v[row + j + 2] = c;
        v[row + j + 3] = d;
      }
      for (; j < i; j++) {
        const other = this.at(j, 0);
        let sum = v[row + j] as number;
        for (let k = first; k < j; k++) sum -= (v[row + k] as number) * (v[other + k] as number);
        v[row + j] = sum / (v[other + j] as number);
      }
      let pivot = v[row + i] as number;
      for (let k = first; k < i; k++) pivot -= (v[row + k] as number) ** 2;
      if (!(pivot > 0)) return false;
      v[row + i] = Math.sqrt(pivot);
    }
    return true;
  }
}
