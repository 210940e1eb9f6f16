import type { Grid } from "./beads.ts";

/** A cell lets air through while less than this of it is wet. */
const SHUT = 0.9;
/** Pockets smaller than so many cells are the grid's own. */
const FEWEST_CELLS = 2;

/** Pockets of air that reach the die's edge nowhere: the cells of each. */
export function pocketsOf({ columns, rows }: Grid, wet: Float64Array): number[][] {
  const seen = new Uint8Array(wet.length);
  const pockets: number[][] = [];
  for (let start = 0; start < wet.length; start++) {
    if (seen[start] || (wet[start] as number) >= SHUT) continue;
    const cells = [start];
    seen[start] = 1;
    let open = false;
    for (let next = 0; next < cells.length; next++) {
      const cell = cells[next] as number;
      const [i, j] = [cell % columns, Math.floor(cell / columns)];
      if (i === 0 || j === 0 || i === columns - 1 || j === rows - 1) open = true;
      for (const [di, dj] of [
        [-1, 0],
        [1, 0],
        [0, -1],
        [0, 1],
      ] as const) {
        const [x, y] = [i + di, j + dj];
        if (x < 0 || y < 0 || x >= columns || y >= rows) continue;
        const at = y * columns + x;
        if (seen[at] || (wet[at] as number) >= SHUT) continue;
        seen[at] = 1;
        cells.push(at);
      }
    }
    if (!open && cells.length >= FEWEST_CELLS) pockets.push(cells);
  }
  return pockets;
}

/** Its plan area with the part-filled cells around it, mm². */
export function pocketMm2({ columns, rows, dxMm, dyMm }: Grid, wet: Float64Array, cells: readonly number[]): number {
  const near = new Set(cells);
  for (const cell of cells) {
    const [i, j] = [cell % columns, Math.floor(cell / columns)];
    for (let y = Math.max(0, j - 1); y <= Math.min(rows - 1, j + 1); y++)
      for (let x = Math.max(0, i - 1); x <= Math.min(columns - 1, i + 1); x++) near.add(y * columns + x);
  }
  let air = 0;
  for (const cell of near) air += 1 - (wet[cell] as number);
  return air * dxMm * dyMm;
}
