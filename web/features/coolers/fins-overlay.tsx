import type { BoardMap } from "#core/boardmap/index.ts";
import { type Cooler, FIN_MARGIN_MM } from "#core/coolers/index.ts";

/** A heatsink to scale: its fins from above, and from their ends on its base. */
export function FinsOverlay({ cooler: { fins }, plan: { board } }: { cooler: Cooler; plan: BoardMap }) {
  if (!fins) return null;
  const { widthMm, lengthMm, baseMm, finHeightMm, finThickMm, count } = fins;
  const pitch = count > 1 ? (widthMm - finThickMm) / (count - 1) : 0;
  const first = count > 1 ? 0 : (widthMm - finThickMm) / 2;
  const fromEnd = widthMm + 2 * FIN_MARGIN_MM;
  const top = board.heightMm / 2 - (baseMm + finHeightMm) / 2;
  const look = { fill: "var(--ice)", fillOpacity: 0.35, stroke: "var(--ice)", strokeWidth: 0.1 };
  return (
    <g aria-hidden>
      {Array.from({ length: count }, (_, k) => first + k * pitch).map((x) => (
        <g key={x}>
          <rect
            x={FIN_MARGIN_MM + x}
            y={(board.heightMm - lengthMm) / 2}
            width={finThickMm}
            height={lengthMm}
            {...look}
          />
          <rect x={fromEnd + x} y={top} width={finThickMm} height={finHeightMm} {...look} />
        </g>
      ))}
      <rect x={fromEnd} y={top + finHeightMm} width={widthMm} height={baseMm} {...look} />
    </g>
  );
}
