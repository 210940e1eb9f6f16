const RULER_MM = 100;

/** A ruler in print, by which a true one tells whether the printer kept the size. */
export function Ruler() {
  const marks = Array.from({ length: RULER_MM + 1 }, (_, mm) => mm);
  return (
    <svg
      role="img"
      aria-label={`Ruler of ${RULER_MM} mm`}
      width={`${RULER_MM + 10}mm`}
      height="10mm"
      viewBox={`-5 0 ${RULER_MM + 10} 10`}
      className="max-w-none"
    >
      {marks.map((mm) => (
        <line
          key={mm}
          x1={mm}
          x2={mm}
          y1={0}
          y2={mm % 10 === 0 ? 5 : mm % 5 === 0 ? 4 : 2.5}
          stroke="var(--ink)"
          strokeWidth={0.2}
        />
      ))}
      {marks
        .filter((mm) => mm % 10 === 0)
        .map((mm) => (
          <text key={mm} x={mm} y={8.5} fontSize={3} textAnchor="middle" fill="var(--ink)">
            {mm}
          </text>
        ))}
    </svg>
  );
}
