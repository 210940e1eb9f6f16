import { BandMatrix, last, nth } from "../numeric/index.ts";

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
const bandOf = ({ ys }: Grid): number => PER_NODE * (ys.length + 1) + PER_NODE - 1;

function dofsOf(grid: Grid, column: number, row: number): Int32Array {
  const here = PER_NODE * (column * grid.ys.length + row);
  const beside = here + PER_NODE * grid.ys.length;
  const dofs = new Int32Array(12);
  for (let k = 0; k < PER_NODE; k++) {
    dofs[k] = here + k;
    dofs[PER_NODE + k] = beside + k;
    dofs[2 * PER_NODE + k] = beside + PER_NODE + k;
    dofs[3 * PER_NODE + k] = here + PER_NODE + k;
  }
  return dofs;
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

/** Slopes w,x and w,y of the shape functions: two rows of twelve. */
function slopesAt(xi: number, eta: number, width: number, height: number): Float64Array {
  const rows = new Float64Array(24);
  CORNERS.forEach(([xi1, eta1], corner) => {
    const x0 = xi * xi1;
    const y0 = eta * eta1;
    const at = 3 * corner;
    rows[at] = ((2 / width) * xi1 * (1 + y0) * (3 + y0 - eta * eta - 3 * xi * xi)) / 8;
    rows[at + 1] = (1 / 8) * (1 + x0) * (3 * x0 - 1) * (1 + y0);
    rows[at + 2] = (2 / width) * (height / 16) * eta1 * (1 + y0) ** 2 * (y0 - 1) * xi1;
    rows[12 + at] = ((2 / height) * eta1 * (1 + x0) * (3 + x0 - xi * xi - 3 * eta * eta)) / 8;
    rows[12 + at + 1] = (2 / height) * (width / 16) * xi1 * (1 + x0) ** 2 * (x0 - 1) * eta1;
    rows[12 + at + 2] = (1 / 8) * (1 + y0) * (3 * y0 - 1) * (1 + x0);
  });
  return rows;
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
        const xx = b[i] as number;
        const yy = b[12 + i] as number;
        const xy = b[24 + i] as number;
        const mx = xx + poisson * yy;
        const my = yy + poisson * xx;
        const mxy = ((1 - poisson) / 2) * xy;
        for (let j = 0; j < 12; j++)
          stiffness[12 * i + j] =
            (stiffness[12 * i + j] as number) +
            factor * (mx * (b[j] as number) + my * (b[12 + j] as number) + mxy * (b[24 + j] as number));
      }
    }
  return stiffness;
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
  // Most elements are alike: one of each size is worked out.
  const known = new Map<string, Float64Array>();
  const stiffnessOf = (width: number, height: number, at: number): Float64Array => {
    const key = `${width.toFixed(6)} ${height.toFixed(6)} ${at}`;
    const found = known.get(key) ?? elementStiffness(width, height, at, poisson);
    known.set(key, found);
    return found;
  };
  for (let column = 0; column + 1 < xs.length; column++)
    for (let row = 0; row + 1 < ys.length; row++) {
      const [x0 = 0, x1 = 0] = xs.subarray(column, column + 2);
      const [y0 = 0, y1 = 0] = ys.subarray(row, row + 2);
      const stiffness = stiffnessOf(x1 - x0, y1 - y0, rigidity((x0 + x1) / 2, (y0 + y1) / 2));
      const dofs = dofsOf(grid, column, row);
      for (let i = 0; i < 12; i++)
        for (let j = 0; j < 12; j++) matrix.add(dofs[i] as number, dofs[j] as number, stiffness[12 * i + j] as number);
    }
  return matrix;
}

/** Where a point lies on the plate, so that its deflection is Σ shape · unknown. */
export function pointOn(grid: Grid, xMm: number, yMm: number): PointOnPlate {
  const { dofs, xi, eta, width, height } = placeOn(grid, xMm, yMm);
  return { dofs, shape: shapeAt(xi, eta, width, height) };
}

function placeOn(grid: Grid, xMm: number, yMm: number) {
  const column = cellOf(grid.xs, xMm);
  const row = cellOf(grid.ys, yMm);
  const [x0 = 0, x1 = 1] = grid.xs.subarray(column, column + 2);
  const [y0 = 0, y1 = 1] = grid.ys.subarray(row, row + 2);
  return {
    dofs: dofsOf(grid, column, row),
    xi: (2 * (xMm - x0)) / (x1 - x0) - 1,
    eta: (2 * (yMm - y0)) / (y1 - y0) - 1,
    width: x1 - x0,
    height: y1 - y0,
  };
}

/** How the unknowns of one grid follow from those of another: three points per node, for deflection and both slopes. */
export type Transfer = readonly PointOnPlate[];

export function transferBetween(from: Grid, to: Grid): Transfer {
  const points: PointOnPlate[] = [];
  for (const x of to.xs)
    for (const y of to.ys) {
      const { dofs, xi, eta, width, height } = placeOn(from, x, y);
      const slopes = slopesAt(xi, eta, width, height);
      points.push(
        { dofs, shape: shapeAt(xi, eta, width, height) },
        { dofs, shape: slopes.subarray(0, 12) },
        { dofs, shape: slopes.subarray(12) },
      );
    }
  return points;
}

/** The same shape of the plate on the other grid. */
export const transferred = (transfer: Transfer, unknowns: Float64Array): Float64Array =>
  Float64Array.from(transfer, (point) => deflectionAt(point, unknowns));

/** Forces on the nodes of the grid that `transfer` leads to, brought to those of the grid it comes from: its transpose. */
export function forcesBack(transfer: Transfer, forces: Float64Array, size: number): Float64Array {
  const back = new Float64Array(size);
  transfer.forEach(({ dofs, shape }, dof) => {
    for (let i = 0; i < 12; i++) {
      const at = dofs[i] as number;
      back[at] = (back[at] as number) + (forces[dof] as number) * (shape[i] as number);
    }
  });
  return back;
}

function cellOf(lines: Float64Array, at: number): number {
  let cell = 0;
  while (cell + 2 < lines.length && at > (lines[cell + 1] as number)) cell++;
  return cell;
}

export function deflectionAt({ dofs, shape }: PointOnPlate, unknowns: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < 12; i++) sum += (shape[i] as number) * nth(unknowns, dofs[i] as number);
  return sum;
}

/** Lines through `fixed` places with no wider spacing than `widest`; places closer than a twentieth of that are taken as one. */
export function linesThrough(lengthMm: number, fixed: readonly number[], widestMm: number): Float64Array {
  const places = [0, ...fixed.filter((at) => at > 0 && at < lengthMm), lengthMm].sort((a, b) => a - b);
  const kept = places.filter((at, index) => index === 0 || at - (places[index - 1] as number) > widestMm / 20);
  if (last(kept) < lengthMm) kept[kept.length - 1] = lengthMm;
  const lines: number[] = [];
  kept.forEach((at, index) => {
    const next = kept[index + 1];
    if (next === undefined) return;
    const parts = Math.max(1, Math.ceil((next - at) / widestMm - 1e-9));
    for (let k = 0; k < parts; k++) lines.push(at + ((next - at) * k) / parts);
  });
  return Float64Array.from([...lines, lengthMm]);
}

/** Adds factor · shape · shapeᵀ to the unknowns that a point hangs on: a spring there. */
export function addPoint(matrix: BandMatrix, { dofs, shape }: PointOnPlate, factor: number): void {
  for (let i = 0; i < 12; i++)
    for (let j = 0; j < 12; j++)
      matrix.add(dofs[i] as number, dofs[j] as number, factor * (shape[i] as number) * (shape[j] as number));
}
