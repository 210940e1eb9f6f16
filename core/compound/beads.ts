import type { Bead, DieSize } from "./input.ts";

/** The die in cells of some millimetres; a cell's index is `row * columns + column`, rows from the lower edge up. */
export interface Grid {
  columns: number;
  rows: number;
  dxMm: number;
  dyMm: number;
}

/** So that cells can be taken together four times over. */
const MULTIPLE = 16;

export function gridOf({ widthMm, heightMm }: DieSize, cellMm: number): Grid {
  const columns = MULTIPLE * Math.max(1, Math.round(widthMm / cellMm / MULTIPLE));
  const rows = MULTIPLE * Math.max(1, Math.round(heightMm / cellMm / MULTIPLE));
  return { columns, rows, dxMm: widthMm / columns, dyMm: heightMm / rows };
}

const lengthOf = ({ x1Mm, y1Mm, x2Mm, y2Mm }: Bead): number => Math.hypot(x2Mm - x1Mm, y2Mm - y1Mm);

const STEPS = 60;

/**
 * How wide and high a bead is, mm: b of b²L + πb³/4 = V.
 * @param volumeUl in µL, which are mm³
 */
export function beadWidthMm(lengthMm: number, volumeUl: number): number {
  let b = Math.cbrt((4 * volumeUl) / Math.PI);
  // From above, where the cubic is convex: Newton's steps fall to the root and never pass it.
  for (let k = 0; k < STEPS; k++) {
    const over = b * b * lengthMm + (Math.PI * b ** 3) / 4 - volumeUl;
    const next = b - over / (2 * b * lengthMm + (3 * Math.PI * b * b) / 4);
    if (next >= b) break;
    b = next;
  }
  return b;
}

/** Compound before the plate comes down, mm: on average in each cell, and the highest in it. */
export interface Laid {
  meanMm: Float64Array;
  topMm: Float64Array;
}

/** Looks across each cell, both ways. */
const LOOKS = 6;

/** Beads on an even film, into cells. What lies beyond the die's edge is not in any. */
export function layBeads(grid: Grid, beads: readonly Bead[], filmMm: number): Laid {
  const cells = grid.columns * grid.rows;
  const meanMm = new Float64Array(cells).fill(filmMm);
  const rise = new Float64Array(cells * LOOKS * LOOKS);
  for (const bead of beads) layOne(grid, bead, meanMm, rise);
  const topMm = new Float64Array(cells);
  for (let cell = 0; cell < cells; cell++) {
    let top = 0;
    for (let k = cell * LOOKS * LOOKS; k < (cell + 1) * LOOKS * LOOKS; k++) top = Math.max(top, rise[k] ?? 0);
    topMm[cell] = filmMm + top;
  }
  return { meanMm, topMm };
}

function layOne(grid: Grid, bead: Bead, meanMm: Float64Array, rise: Float64Array): void {
  const { columns, rows, dxMm, dyMm } = grid;
  const long = lengthOf(bead);
  const b = beadWidthMm(long, bead.volumeUl);
  const [ux, uy] = long > 0 ? [(bead.x2Mm - bead.x1Mm) / long, (bead.y2Mm - bead.y1Mm) / long] : [1, 0];
  const [sx, sy] = [dxMm / LOOKS, dyMm / LOOKS];
  const cover = (low: number, high: number, step: number): [number, number] => [
    Math.floor((low - b / 2) / step),
    Math.ceil((high + b / 2) / step),
  ];
  const [fromX, toX] = cover(Math.min(bead.x1Mm, bead.x2Mm), Math.max(bead.x1Mm, bead.x2Mm), sx);
  const [fromY, toY] = cover(Math.min(bead.y1Mm, bead.y2Mm), Math.max(bead.y1Mm, bead.y2Mm), sy);
  const held: number[] = [];
  let seen = 0;
  for (let j = fromY; j < toY; j++)
    for (let i = fromX; i < toX; i++) {
      const [x, y] = [(i + 0.5) * sx - bead.x1Mm, (j + 0.5) * sy - bead.y1Mm];
      const along = Math.min(Math.max(x * ux + y * uy, 0), long);
      if (Math.hypot(x - along * ux, y - along * uy) > b / 2) continue;
      seen++;
      const [column, row] = [Math.floor(i / LOOKS), Math.floor(j / LOOKS)];
      if (column < 0 || row < 0 || column >= columns || row >= rows) continue;
      const cell = row * columns + column;
      held.push(cell * LOOKS * LOOKS + (j - row * LOOKS) * LOOKS + (i - column * LOOKS));
    }
  if (seen === 0) {
    // Thinner than what is looked at: all of it in one cell.
    const column = Math.min(columns - 1, Math.floor(bead.x1Mm / dxMm));
    const cell = Math.min(rows - 1, Math.floor(bead.y1Mm / dyMm)) * columns + column;
    held.push(cell * LOOKS * LOOKS);
    seen = 1;
  }
  // As high as it takes for the looks to hold its volume.
  const high = bead.volumeUl / (seen * sx * sy);
  for (const look of held) {
    rise[look] = (rise[look] ?? 0) + b;
    const cell = Math.floor(look / (LOOKS * LOOKS));
    meanMm[cell] = (meanMm[cell] ?? 0) + high / (LOOKS * LOOKS);
  }
}
