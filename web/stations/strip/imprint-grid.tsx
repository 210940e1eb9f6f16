import { useRef } from "react";
import { IMPRINT_SIZE, type Imprint } from "#core/imprint/index.ts";

const NEXT = { covered: "thin", thin: "bare", bare: "covered" } as const;
const FILL = { covered: "var(--ice)", thin: "url(#thin-cell)", bare: "var(--sheet)" } as const;
const SIZE = 10;
const ARROWS: Readonly<Record<string, number>> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowUp: -IMPRINT_SIZE,
  ArrowDown: IMPRINT_SIZE,
};

/** The die as a grid of cells, tapped from covered over thin to bare. Arrows move, Enter changes the cell, space goes on. */
export function ImprintGrid({
  cells,
  aspect,
  onCells,
}: {
  cells: Imprint;
  /** Height over width of the die. */
  aspect: number;
  onCells: (cells: Imprint) => void;
}) {
  const grid = useRef<HTMLDivElement>(null);
  const focus = (index: number): void => grid.current?.querySelectorAll<HTMLElement>("[role=gridcell]")[index]?.focus();
  return (
    <div
      ref={grid}
      role="grid"
      tabIndex={-1}
      aria-label="Imprint of the old compound on the die"
      className="mx-auto grid w-full max-w-lg gap-1"
      style={{ gridTemplateColumns: `repeat(${IMPRINT_SIZE}, minmax(0, 1fr))`, aspectRatio: `${1 / aspect}` }}
      onKeyDown={(event) => {
        const index = [...(grid.current?.querySelectorAll("[role=gridcell]") ?? [])].indexOf(event.target as Element);
        const by = ARROWS[event.key];
        if (by !== undefined) {
          event.preventDefault();
          focus(Math.min(cells.length - 1, Math.max(0, index + by)));
        }
      }}
    >
      {Array.from({ length: IMPRINT_SIZE }, (_, row) => (
        <div key={`row ${row}`} role="row" className="contents">
          {cells.slice(row * IMPRINT_SIZE, (row + 1) * IMPRINT_SIZE).map((cell, column) => {
            const index = row * IMPRINT_SIZE + column;
            return (
              <button
                key={`${row} ${column}`}
                type="button"
                role="gridcell"
                tabIndex={index === 0 ? 0 : -1}
                aria-label={`Row ${row + 1}, column ${column + 1}: ${cell}`}
                className={`min-h-11 rounded-md border-2 text-xs font-semibold ${LOOK[cell]}`}
                onKeyUp={(event) => {
                  if (event.key === " ") event.preventDefault();
                }}
                onClick={() => onCells(cells.with(index, NEXT[cell]))}
              >
                <span aria-hidden>{cell === "covered" ? "" : cell}</span>
              </button>
            );
          })}
        </div>
      ))}
    </div>
  );
}

const LOOK = {
  covered: "border-ice bg-ice text-on-ice",
  thin: "border-ice bg-frost text-ink",
  bare: "border-dashed border-edge bg-sheet text-ink",
} as const;

/** The same, small and only to be looked at. */
export function ImprintPicture({ cells, aspect }: { cells: Imprint; aspect: number }) {
  const lost = cells.filter((cell) => cell !== "covered").length;
  return (
    <svg
      role="img"
      aria-label={`Imprint: ${lost} of ${cells.length} cells thin or bare`}
      viewBox={`0 0 ${IMPRINT_SIZE * SIZE} ${IMPRINT_SIZE * SIZE * aspect}`}
      className="w-36"
    >
      <defs>
        <pattern id="thin-cell" width={3} height={3} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1={0} y1={0} x2={0} y2={3} stroke="var(--ice)" strokeWidth={1.4} />
        </pattern>
      </defs>
      {cells.map((cell, index) => (
        <rect
          key={`${index % IMPRINT_SIZE} ${Math.floor(index / IMPRINT_SIZE)}`}
          x={(index % IMPRINT_SIZE) * SIZE}
          y={Math.floor(index / IMPRINT_SIZE) * SIZE * aspect}
          width={SIZE}
          height={SIZE * aspect}
          fill={FILL[cell]}
          stroke="var(--edge)"
          strokeWidth={0.5}
        />
      ))}
    </svg>
  );
}
