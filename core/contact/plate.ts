/** A rectangular grid: lines at given places, nodes numbered column by column. */
export interface Grid {
  xs: Float64Array;
  ys: Float64Array;
}

/** Deflection and both slopes per node. */
export const PER_NODE = 3;

/** Twelve shape functions of one element at a point, with the numbers of their unknowns. */
export interface PointOnPlate {
  dofs: Int32Array;
  shape: Float64Array;
}

const GAUSS = [
  [-0.8611363115940526, 0.3478548451374538],
  [-0.3399810435848563, 0.6521451548625461],
  [0.3399810435848563, 0.6521451548625461],
  [0.8611363115940526, 0.3478548451374538],
] as const;
const CORNERS = [
  [-1, -1],
  [1, -1],
  [1, 1],
  [-1, 1],
] as const;

export const unknownsOf = ({ xs, ys }: Grid): number => PER_NODE * xs.length * ys.length;
/** Numbers of unknowns that one element couples, at most. */
export const bandOf = ({ ys }: Grid): number => PER_NODE * (ys.length + 1) + PER_NODE - 1;

function dofsOf(grid: Grid, column: number, row: number): Int32Array {
  const rows = grid.ys.length;
  const nodes = [
    column * rows + row,
    (column + 1) * rows + row,
    (column + 1) * rows + row + 1,
    column * rows + row + 1,
  ];
  return Int32Array.from(nodes.flatMap((node) => [PER_NODE * node, PER_NODE * node + 1, PER_NODE * node + 2]));
}

/**
 * Shape functions of the twelve-term rectangle (Adini, Clough and Melosh; given in O. C. Zienkiewicz, The Finite Element Method) at ξ, η.
 * @param width @param height of the element, mm
 */
function shapeAt(xi: number, eta: number, width: number, height: number): Float64Array {
  const shape = new Float64Array(12);
  CORNERS.forEach(([xi1, eta1], corner) => {
    const x0 = xi * xi1;
    const y0 = eta * eta1;
    shape[3 * corner] = ((1 + x0) * (1 + y0) * (2 + x0 + y0 - xi * xi - eta * eta)) / 8;
    shape[3 * corner + 1] = (width / 16) * xi1 * (1 + x0) ** 2 * (x0 - 1) * (1 + y0);
    shape[3 * corner + 2] = (height / 16) * eta1 * (1 + y0) ** 2 * (y0 - 1) * (1 + x0);
  });
  return shape;
}

/** Curvatures w,xx w,yy 2w,xy of the shape functions: rows of twelve. */
function curvaturesAt(xi: number, eta: number, width: number, height: number): Float64Array {
  const rows = new Float64Array(36);
  const sx = (2 / width) ** 2;
  const sy = (2 / height) ** 2;
  const sxy = 8 / (width * height);
  CORNERS.forEach(([xi1, eta1], corner) => {
    const x0 = xi * xi1;
    const y0 = eta * eta1;
    const at = 3 * corner;
    rows[at] = sx * -0.75 * x0 * (1 + y0);
    rows[12 + at] = sy * -0.75 * y0 * (1 + x0);
    rows[24 + at] = sxy * ((xi1 * eta1) / 8) * (4 - 3 * xi * xi - 3 * eta * eta);
    rows[at + 1] = sx * (width / 16) * xi1 * (6 * x0 + 2) * (1 + y0);
    rows[24 + at + 1] = sxy * (width / 16) * (1 + x0) * (3 * x0 - 1) * eta1;
    rows[12 + at + 2] = sy * (height / 16) * eta1 * (6 * y0 + 2) * (1 + x0);
    rows[24 + at + 2] = sxy * (height / 16) * (1 + y0) * (3 * y0 - 1) * xi1;
  });
  return rows;
}

function elementStiffness(width: number, height: number, rigidity: number, poisson: number): Float64Array {
  const stiffness = new Float64Array(144);
  for (const [xi, wx] of GAUSS)
    for (const [eta, wy] of GAUSS) {
      const b = curvaturesAt(xi, eta, width, height);
      const factor = (rigidity * wx * wy * width * height) / 4;
      for (let i = 0; i < 12; i++) {
        const xx = b[i] ?? 0;
        const yy = b[12 + i] ?? 0;
        const xy = b[24 + i] ?? 0;
        const mx = xx + poisson * yy;
        const my = yy + poisson * xx;
        const mxy = ((1 - poisson) / 2) * xy;
        for (let j = 0; j < 12; j++)
          stiffness[12 * i + j] =
            (stiffness[12 * i + j] ?? 0) + factor * (mx * (b[j] ?? 0) + my * (b[12 + j] ?? 0) + mxy * (b[24 + j] ?? 0));
      }
    }
  return stiffness;
}

/** Σ of products of two rows over the columns from `from` to before `to`; all indices lie inside, so that the loop need not ask. */
function dotRows(values: Float64Array, rowA: number, rowB: number, from: number, to: number): number {
  let sum = 0;
  for (let k = from; k < to; k++) sum += (values[rowA - k] as number) * (values[rowB - k] as number);
  return sum;
}

/** A symmetric band matrix: row by row, from the diagonal leftwards. */
export class BandMatrix {
  readonly values: Float64Array;
  constructor(
    readonly size: number,
    readonly band: number,
  ) {
    this.values = new Float64Array(size * (band + 1));
  }

  add(i: number, j: number, value: number): void {
    if (j > i) return;
    const at = i * (this.band + 1) + (i - j);
    this.values[at] = (this.values[at] ?? 0) + value;
  }

  addPoint({ dofs, shape }: PointOnPlate, factor: number): void {
    for (let i = 0; i < 12; i++)
      for (let j = 0; j < 12; j++) this.add(dofs[i] ?? 0, dofs[j] ?? 0, factor * (shape[i] ?? 0) * (shape[j] ?? 0));
  }

  times(vector: Float64Array): Float64Array {
    const { size, band, values } = this;
    const product = new Float64Array(size);
    for (let i = 0; i < size; i++) {
      const row = i * (band + 1);
      let sum = (values[row] ?? 0) * (vector[i] ?? 0);
      for (let k = 1; k <= band && k <= i; k++) {
        const value = values[row + k] ?? 0;
        sum += value * (vector[i - k] ?? 0);
        product[i - k] = (product[i - k] ?? 0) + value * (vector[i] ?? 0);
      }
      product[i] = (product[i] ?? 0) + sum;
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
    const { size, band, values } = this;
    const wide = band + 1;
    for (let i = 0; i < size; i++) {
      const row = i * wide;
      const first = Math.max(0, i - band);
      for (let j = first; j < i; j++) {
        const sum = (values[row + i - j] ?? 0) - dotRows(values, row + i, j * wide + j, Math.max(first, j - band), j);
        values[row + i - j] = sum / (values[j * wide] ?? 1);
      }
      const pivot = (values[row] ?? 0) - dotRows(values, row + i, row + i, first, i);
      if (!(pivot > 0)) return undefined;
      values[row] = Math.sqrt(pivot);
    }
    const x = Float64Array.from(right);
    for (let i = 0; i < size; i++) {
      let sum = x[i] ?? 0;
      for (let k = Math.max(0, i - band); k < i; k++) sum -= (values[i * wide + i - k] ?? 0) * (x[k] ?? 0);
      x[i] = sum / (values[i * wide] ?? 1);
    }
    for (let i = size - 1; i >= 0; i--) {
      let sum = x[i] ?? 0;
      for (let k = i + 1; k <= Math.min(size - 1, i + band); k++) sum -= (values[k * wide + k - i] ?? 0) * (x[k] ?? 0);
      x[i] = sum / (values[i * wide] ?? 1);
    }
    return x;
  }
}

/**
 * Bending stiffness of a thin (Kirchhoff) plate with free edges.
 * @param rigidity D = E t³ / (12 (1 − ν²)) of each element, N·mm, by its middle
 */
export function plateStiffness(
  grid: Grid,
  rigidity: (xMm: number, yMm: number) => number,
  poisson: number,
): BandMatrix {
  const { xs, ys } = grid;
  const matrix = new BandMatrix(unknownsOf(grid), bandOf(grid));
  for (let column = 0; column + 1 < xs.length; column++)
    for (let row = 0; row + 1 < ys.length; row++) {
      const [x0 = 0, x1 = 0] = xs.subarray(column, column + 2);
      const [y0 = 0, y1 = 0] = ys.subarray(row, row + 2);
      const stiffness = elementStiffness(x1 - x0, y1 - y0, rigidity((x0 + x1) / 2, (y0 + y1) / 2), poisson);
      const dofs = dofsOf(grid, column, row);
      for (let i = 0; i < 12; i++)
        for (let j = 0; j < 12; j++) matrix.add(dofs[i] ?? 0, dofs[j] ?? 0, stiffness[12 * i + j] ?? 0);
    }
  return matrix;
}

/** Where a point lies on the plate, so that its deflection is Σ shape · unknown. */
export function pointOn(grid: Grid, xMm: number, yMm: number): PointOnPlate {
  const column = cellOf(grid.xs, xMm);
  const row = cellOf(grid.ys, yMm);
  const [x0 = 0, x1 = 1] = grid.xs.subarray(column, column + 2);
  const [y0 = 0, y1 = 1] = grid.ys.subarray(row, row + 2);
  return {
    dofs: dofsOf(grid, column, row),
    shape: shapeAt((2 * (xMm - x0)) / (x1 - x0) - 1, (2 * (yMm - y0)) / (y1 - y0) - 1, x1 - x0, y1 - y0),
  };
}

function cellOf(lines: Float64Array, at: number): number {
  let cell = 0;
  while (cell + 2 < lines.length && at > (lines[cell + 1] ?? 0)) cell++;
  return cell;
}

export function deflectionAt({ dofs, shape }: PointOnPlate, unknowns: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < 12; i++) sum += (shape[i] ?? 0) * (unknowns[dofs[i] ?? 0] ?? 0);
  return sum;
}

/** Lines through `fixed` places with no wider spacing than `widest`; places closer than a twentieth of that are taken as one. */
export function linesThrough(lengthMm: number, fixed: readonly number[], widestMm: number): Float64Array {
  const places = [0, ...fixed.filter((at) => at > 0 && at < lengthMm), lengthMm].sort((a, b) => a - b);
  const kept = places.filter((at, index) => index === 0 || at - (places[index - 1] ?? 0) > widestMm / 20);
  if ((kept.at(-1) ?? 0) < lengthMm) kept[kept.length - 1] = lengthMm;
  const lines: number[] = [];
  kept.forEach((at, index) => {
    const next = kept[index + 1];
    if (next === undefined) return;
    const parts = Math.max(1, Math.ceil((next - at) / widestMm - 1e-9));
    for (let k = 0; k < parts; k++) lines.push(at + ((next - at) * k) / parts);
  });
  return Float64Array.from([...lines, lengthMm]);
}
