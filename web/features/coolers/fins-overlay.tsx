import type { BoardMap } from "#core/boardmap/index.ts";
import type { Cooler } from "#core/coolers/index.ts";

/** Fins to scale, seen from above: each along the heatsink’s length. */
export function FinsOverlay({ cooler: { fins }, plan: { board } }: { cooler: Cooler; plan: BoardMap }) {
  if (!fins) return null;
  const pitch = fins.count > 1 ? (fins.widthMm - fins.finThickMm) / (fins.count - 1) : 0;
  const left = board.widthMm / 2 - (fins.count > 1 ? fins.widthMm / 2 : fins.finThickMm / 2);
  return (
    <g aria-hidden>
      {Array.from({ length: fins.count }, (_, k) => (
        <rect
          key={left + k * pitch}
          x={left + k * pitch}
          y={board.heightMm / 2 - fins.lengthMm / 2}
          width={fins.finThickMm}
          height={fins.lengthMm}
          fill="var(--ice)"
          fillOpacity={0.35}
          stroke="var(--ice)"
          strokeWidth={0.1}
        />
      ))}
    </g>
  );
}
