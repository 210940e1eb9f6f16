import type { BowField } from "#core/contact/index.ts";

/** The board's bow as cells of one hue: middle is flat, stronger toward the cooler, fainter away. */
export function BowOverlay({
  bow: { xsMm, ysMm, offMm },
  heightMm,
  turned,
}: {
  bow: BowField;
  heightMm: number;
  /** Width of the board where its back is up: what is right is left. */
  turned?: number;
}) {
  const most = Math.max(0.05, ...offMm.map(Math.abs));
  const at = (column: number, row: number): number => offMm[column * ysMm.length + row] ?? 0;
  const cells: React.ReactNode[] = [];
  for (let column = 0; column + 1 < xsMm.length; column++)
    for (let row = 0; row + 1 < ysMm.length; row++) {
      const [x0 = 0, x1 = 0] = xsMm.slice(column, column + 2);
      const [y0 = 0, y1 = 0] = ysMm.slice(row, row + 2);
      const off = (at(column, row) + at(column + 1, row) + at(column, row + 1) + at(column + 1, row + 1)) / 4;
      cells.push(
        <rect
          key={`${column} ${row}`}
          x={turned === undefined ? x0 : turned - x1}
          y={heightMm - y1}
          width={x1 - x0 + 0.05}
          height={y1 - y0 + 0.05}
          fill={`color-mix(in oklab, var(--ice) ${Math.round(35 + 35 * (off / most))}%, var(--sheet))`}
        />,
      );
    }
  return (
    <g aria-hidden shapeRendering="crispEdges">
      {cells}
    </g>
  );
}
