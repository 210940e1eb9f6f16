/** Squeeze against pressure, small: the flatter, the softer. Bounds are written at its axes. */
export function SoftnessCurve({ curve, name }: { curve: ReadonlyArray<readonly [number, number]>; name: string }) {
  const [mostStrain, mostKPa] = curve.at(-1) ?? [1, 1];
  const points = curve.map(
    ([strain, kPa]) => `${(100 * strain) / mostStrain},${40 - (38 * kPa) / Math.max(1, mostKPa)}`,
  );
  return (
    <figure className="shrink-0 text-xs text-soft">
      <svg
        role="img"
        aria-label={`Softness of ${name}: ${(100 * mostStrain).toFixed(0)} % squeeze at ${mostKPa} kPa`}
        viewBox="-2 -2 104 46"
        className="h-12 w-28"
      >
        <path d="M0 0V40H100" fill="none" stroke="var(--line)" strokeWidth={1.5} />
        <polyline points={points.join(" ")} fill="none" stroke="var(--ice)" strokeWidth={2.5} />
      </svg>
      <figcaption>
        {(100 * mostStrain).toFixed(0)} % at {mostKPa} kPa
      </figcaption>
    </figure>
  );
}
