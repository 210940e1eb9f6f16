import { nth } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";

export type Point = readonly [x: number, y: number];

/**
 * The plane-to-plane mapping (homography) that takes four marks on a picture to four known places: direct linear solution of the
 * eight equations, h₃₃ = 1 (any text on projective geometry).
 * @param from, to four points each, in the same order
 * @returns nine coefficients, row by row
 * @throws Problem `bad-marks` when three of the marks lie on one line
 */
export function homography(from: readonly Point[], to: readonly Point[]): Float64Array {
  const rows: number[][] = [];
  for (let k = 0; k < 4; k++) {
    const [x, y] = from[k] ?? [0, 0];
    const [u, v] = to[k] ?? [0, 0];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  }
  const scale = Math.max(...from.flat().map(Math.abs), 1);
  for (let column = 0; column < 8; column++) {
    let pivot = column;
    for (let row = column + 1; row < 8; row++)
      if (Math.abs(rows[row]?.[column] ?? 0) > Math.abs(rows[pivot]?.[column] ?? 0)) pivot = row;
    const lead = rows[pivot] ?? [];
    if (Math.abs(nth(lead, column)) < 1e-9 * scale)
      throw new Problem({
        code: "bad-marks",
        what: "Three of the four marks lie on one line.",
        remedy: "Mark the four corners of a rectangle, one after the other.",
      });
    [rows[column], rows[pivot]] = [lead, rows[column] ?? []];
    for (let row = 0; row < 8; row++) {
      if (row === column) continue;
      const target = rows[row] ?? [];
      const factor = nth(target, column) / nth(lead, column);
      for (let k = column; k < 9; k++) target[k] = nth(target, k) - factor * nth(lead, k);
    }
  }
  return Float64Array.from([...rows.map((row, k) => nth(row, 8) / nth(row, k)), 1]);
}

export function mapped(h: Float64Array, [x, y]: Point): Point {
  const w = nth(h, 6) * x + nth(h, 7) * y + nth(h, 8);
  return [(nth(h, 0) * x + nth(h, 1) * y + nth(h, 2)) / w, (nth(h, 3) * x + nth(h, 4) * y + nth(h, 5)) / w];
}

/**
 * A picture seen straight from above: every pixel is fetched from where it was on the slanted one, by bilinear mixing.
 * @param pixels RGBA rows of the slanted picture
 * @param marks its four corners of the known rectangle: lower left, lower right, upper right, upper left, in pixels
 */
export function straighten(
  pixels: Uint8ClampedArray,
  width: number,
  height: number,
  marks: readonly Point[],
  out: { width: number; height: number },
): Uint8ClampedArray<ArrayBuffer> {
  const back = homography(
    [
      [0, out.height],
      [out.width, out.height],
      [out.width, 0],
      [0, 0],
    ],
    marks,
  );
  const straight = new Uint8ClampedArray(out.width * out.height * 4);
  for (let y = 0; y < out.height; y++)
    for (let x = 0; x < out.width; x++) {
      const [sx, sy] = mapped(back, [x + 0.5, y + 0.5]);
      const fx = Math.min(width - 1.001, Math.max(0, sx - 0.5));
      const fy = Math.min(height - 1.001, Math.max(0, sy - 0.5));
      const [x0, y0] = [Math.floor(fx), Math.floor(fy)];
      const [ax, ay] = [fx - x0, fy - y0];
      for (let channel = 0; channel < 4; channel++) {
        const at = (px: number, py: number): number => nth(pixels, 4 * (py * width + px) + channel);
        straight[4 * (y * out.width + x) + channel] =
          (1 - ay) * ((1 - ax) * at(x0, y0) + ax * at(x0 + 1, y0)) +
          ay * ((1 - ax) * at(x0, y0 + 1) + ax * at(x0 + 1, y0 + 1));
      }
    }
  return straight;
}
