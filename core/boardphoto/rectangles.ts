import { CELL_MM, type Field } from "./field.ts";

/** How far a side may be off where it is looked for, cells either way: half a millimetre, and what a degree of tilt does to a package. */
const SLACK = 2;
/** An edge counts from so many times the usual change on, and in full from so many; bounds in log brightness. */
const EDGE = { from: 2.5, times: 7, least: 0.1, most: 0.35 };

/** Less of a side is none. */
const LEAST_SIDE = 0.15;

/** Sums of edge presence, 0…1 a cell, along the direction of each side: of the sides of something darker, and of something brighter. */
export interface Edges {
  readonly wide: number;
  readonly high: number;
  readonly dark: Sides;
  readonly bright: Sides;
}

/** Left and right sides sum downward, upper and lower ones to the right; one row or column more than cells. */
interface Sides {
  left: Float32Array;
  right: Float32Array;
  upper: Float32Array;
  lower: Float32Array;
}

export function edgesOf(
  { wide, high }: Field,
  { gx, gy, usual }: { gx: Float32Array; gy: Float32Array; usual: number },
): Edges {
  const full = Math.min(EDGE.most, Math.max(EDGE.least, EDGE.times * usual));
  const from0 = Math.min(full / 2, EDGE.from * usual);
  const along = (from: Float32Array, sign: 1 | -1, step: number, down: boolean): Float32Array => {
    const sums = new Float32Array((wide + 1) * (high + 1));
    for (let y = 0; y < high; y++)
      for (let x = 0; x < wide; x++) {
        const at = y * wide + x;
        let most = 0;
        for (let off = -SLACK; off <= SLACK; off++) most = Math.max(most, sign * (from[at + off * step] ?? 0));
        const presence = Math.min(1, Math.max(0, (most - from0) / (full - from0)));
        const here = (y + 1) * (wide + 1) + x + 1;
        sums[here] = presence + (down ? (sums[here - wide - 1] ?? 0) : (sums[here - 1] ?? 0));
      }
    return sums;
  };
  const sidesOf = (sign: 1 | -1): Sides => ({
    left: along(gx, sign === 1 ? -1 : 1, 1, true),
    right: along(gx, sign, 1, true),
    upper: along(gy, sign === 1 ? -1 : 1, wide, false),
    lower: along(gy, sign, wide, false),
  });
  // Most photos are asked for one of them only, and each takes as long as finding in it.
  const made: { dark?: Sides; bright?: Sides } = {};
  return {
    wide,
    high,
    get dark() {
      return (made.dark ??= sidesOf(1));
    },
    get bright() {
      return (made.bright ??= sidesOf(-1));
    },
  };
}

/**
 * How well a rectangle stands out on its four sides, 0…1: the share of each side that shows an edge of the right kind; the worst two count
 * half of it.
 * @param x0,y0 its upper left cell
 */
export function sideScore({ wide, high }: Edges, sides: Sides, x0: number, y0: number, w: number, h: number): number {
  const x1 = x0 + w;
  const y1 = y0 + h;
  if (x0 < 1 || y0 < 1 || x1 >= wide || y1 >= high) return 0;
  const row = wide + 1;
  const low = (y1 + 1) * row;
  const up = y0 * row;
  const a = ((sides.left[low + x0 + 1] ?? 0) - (sides.left[up + x0 + 1] ?? 0)) / (h + 1);
  const b = ((sides.right[low + x1 + 1] ?? 0) - (sides.right[up + x1 + 1] ?? 0)) / (h + 1);
  // A side that hardly shows ends it: most places are passed by here.
  if (a < LEAST_SIDE || b < LEAST_SIDE) return 0;
  const c = ((sides.upper[up + row + x1 + 1] ?? 0) - (sides.upper[up + row + x0] ?? 0)) / (w + 1);
  const d = ((sides.lower[low + x1 + 1] ?? 0) - (sides.lower[low + x0] ?? 0)) / (w + 1);
  const worst = Math.min(a, b, c, d);
  const second = Math.min(Math.max(Math.min(a, b), Math.min(c, d)), Math.max(a, b), Math.max(c, d));
  return (a + b + c + d) / 8 + (worst + second) / 4;
}

export const cells = (mm: number): number => Math.round(mm / CELL_MM);

/** Sums over all cells above and left of one, for means of rectangles. */
export function totals({ wide, high, log }: Field): (x0: number, y0: number, x1: number, y1: number) => number {
  const row = wide + 1;
  const sums = new Float64Array(row * (high + 1));
  for (let y = 0; y < high; y++) {
    let line = 0;
    for (let x = 0; x < wide; x++) {
      line += log[y * wide + x] ?? 0;
      sums[(y + 1) * row + x + 1] = (sums[y * row + x + 1] ?? 0) + line;
    }
  }
  return (left, upper, right, lower) => {
    const x0 = Math.max(0, left);
    const y0 = Math.max(0, upper);
    const x1 = Math.min(wide, right);
    const y1 = Math.min(high, lower);
    const count = (x1 - x0) * (y1 - y0);
    if (count <= 0) return Number.NaN;
    return (
      ((sums[y1 * row + x1] ?? 0) -
        (sums[y0 * row + x1] ?? 0) -
        (sums[y1 * row + x0] ?? 0) +
        (sums[y0 * row + x0] ?? 0)) /
      count
    );
  };
}
