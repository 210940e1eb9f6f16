/** Side of a cell that a photo is read in, mm. */
export const CELL_MM = 0.25;

/** Log brightness, or how coloured it is, of a photo on cells of a quarter millimetre, row by row from the top. */
export interface Field {
  wide: number;
  high: number;
  log: Float32Array;
}

/** Keeps dark cells from weighing more than they can be seen. */
const FLOOR = 14;

type Colour = (red: number, green: number, blue: number) => number;

/** Rec. 601 luma, in logarithm. */
const brightness: Colour = (red, green, blue) => Math.log(0.299 * red + 0.587 * green + 0.114 * blue + FLOOR);

/** The strongest channel over the weakest, in logarithm: grey things have none of it, painted boards have. */
export const colouring: Colour = (red, green, blue) =>
  Math.log((Math.max(red, green, blue) + FLOOR) / (Math.min(red, green, blue) + FLOOR));

/**
 * @param pixels RGBA, row by row from the top
 * @param mm size of the photo on the board
 */
export function fieldOf(
  pixels: Uint8ClampedArray,
  width: number,
  height: number,
  mm: { widthMm: number; heightMm: number },
  value: Colour = brightness,
): Field {
  const wide = Math.max(8, Math.round(mm.widthMm / CELL_MM));
  const high = Math.max(8, Math.round(mm.heightMm / CELL_MM));
  const raw = new Float32Array(wide * high);
  for (let row = 0; row < high; row++) {
    const y0 = Math.floor((row * height) / high);
    const y1 = Math.max(y0 + 1, Math.floor(((row + 1) * height) / high));
    for (let column = 0; column < wide; column++) {
      const x0 = Math.floor((column * width) / wide);
      const x1 = Math.max(x0 + 1, Math.floor(((column + 1) * width) / wide));
      let [red, green, blue] = [0, 0, 0];
      for (let y = y0; y < y1; y++)
        for (let x = x0; x < x1; x++) {
          const at = 4 * (y * width + x);
          red += pixels[at] ?? 0;
          green += pixels[at + 1] ?? 0;
          blue += pixels[at + 2] ?? 0;
        }
      const count = (y1 - y0) * (x1 - x0);
      raw[row * wide + column] = value(red / count, green / count, blue / count);
    }
  }
  return { wide, high, log: smoothed(smoothed(raw, wide, high), wide, high) };
}

/** Mean of three by three cells. */
function smoothed(from: Float32Array, wide: number, high: number): Float32Array {
  const across = new Float32Array(from.length);
  const to = new Float32Array(from.length);
  for (let y = 0; y < high; y++)
    for (let x = 0; x < wide; x++) {
      const at = y * wide + x;
      across[at] = ((from[at - (x > 0 ? 1 : 0)] ?? 0) + (from[at] ?? 0) + (from[at + (x < wide - 1 ? 1 : 0)] ?? 0)) / 3;
    }
  for (let y = 0; y < high; y++)
    for (let x = 0; x < wide; x++) {
      const at = y * wide + x;
      to[at] =
        ((across[at - (y > 0 ? wide : 0)] ?? 0) + (across[at] ?? 0) + (across[at + (y < high - 1 ? wide : 0)] ?? 0)) /
        3;
    }
  return to;
}

/** Brightness rising to the right and downward, over half a millimetre. */
export function gradients({ wide, high, log }: Field): { gx: Float32Array; gy: Float32Array; usual: number } {
  const gx = new Float32Array(log.length);
  const gy = new Float32Array(log.length);
  for (let y = 2; y < high - 2; y++)
    for (let x = 2; x < wide - 2; x++) {
      const at = y * wide + x;
      gx[at] = ((log[at + 1] ?? 0) + (log[at + 2] ?? 0) - (log[at - 1] ?? 0) - (log[at - 2] ?? 0)) / 2;
      gy[at] =
        ((log[at + wide] ?? 0) + (log[at + 2 * wide] ?? 0) - (log[at - wide] ?? 0) - (log[at - 2 * wide] ?? 0)) / 2;
    }
  const some = Float32Array.from({ length: 4000 }, (_, k) =>
    Math.abs(gx[Math.floor((k * gx.length) / 4000)] ?? 0),
  ).toSorted();
  return { gx, gy, usual: some[2000] ?? 0 };
}
