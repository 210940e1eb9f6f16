import { contours } from "d3-contour";
import type { Grid } from "./beads.ts";

/** A closed line of [x, y], mm from the die's lower-left corner; a hole is a line of its own. */
export type Polygon = Array<[number, number]>;

const HALF = 0.5;
const RIM = 1;

const within = (value: number, most: number): number => Math.min(most, Math.max(0, value));

/** The outline of the wet cells: the line along which half of a cell is wet. */
export function outlineOf({ columns, rows, dxMm, dyMm }: Grid, wet: Float64Array): Polygon[] {
  // A dry rim around the die, mirrored at its edge: where the compound reaches the edge the line runs on the edge.
  const [wide, high] = [columns + 2 * RIM, rows + 2 * RIM];
  const rimmed = Array.from({ length: wide * high }, () => 0);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) rimmed[(j + RIM) * wide + i + RIM] = wet[j * columns + i] as number;
  const [outline] = contours().size([wide, high]).smooth(true).thresholds([HALF])(rimmed);
  const rings = outline?.coordinates.flat() ?? [];
  return rings.map((ring) =>
    ring.map(([x = 0, y = 0]): [number, number] => [
      within((x - RIM) * dxMm, columns * dxMm),
      within((y - RIM) * dyMm, rows * dyMm),
    ]),
  );
}
