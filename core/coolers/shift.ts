/** A post that may sit over a hole: how far the cooler has to be moved for it to be centred, and how far it may be off. */
export interface Pairing {
  post: number;
  hole: number;
  dxMm: number;
  dyMm: number;
  allowanceMm: number;
}

export interface Shift {
  dxMm: number;
  dyMm: number;
  /** The largest of distance less allowance; at most 0 where all lie within. */
  overMm: number;
}

const EPS = 1e-9;

/**
 * The shift that makes the largest of distance less allowance smallest: the smallest circle that encloses circles of radius (most − allowance),
 * found over all pairs and triples that can hold it (exact; cost n⁴, for the n ≤ 40 posts of a cooler far less in practice).
 */
export function bestShift(pairings: readonly Pairing[]): Shift {
  let best: Shift = { dxMm: 0, dyMm: 0, overMm: Number.POSITIVE_INFINITY };
  const tried = (dxMm: number, dyMm: number): void => {
    let overMm = Number.NEGATIVE_INFINITY;
    for (const one of pairings) {
      overMm = Math.max(overMm, Math.hypot(one.dxMm - dxMm, one.dyMm - dyMm) - one.allowanceMm);
      if (overMm >= best.overMm - EPS) return;
    }
    best = { dxMm, dyMm, overMm };
  };
  for (const [i, a] of pairings.entries()) {
    tried(a.dxMm, a.dyMm);
    for (const [j, b] of pairings.slice(0, i).entries()) {
      const pair = between(a, b);
      if (pair) tried(...pair);
      for (const c of pairings.slice(0, j)) for (const [x, y] of amid(a, b, c)) tried(x, y);
    }
  }
  return best;
}

/** The point where both are equally far over, on the line between them; none where one lies within the other. */
function between(a: Pairing, b: Pairing): [number, number] | null {
  const apart = Math.hypot(b.dxMm - a.dxMm, b.dyMm - a.dyMm);
  const along = (apart + a.allowanceMm - b.allowanceMm) / 2;
  if (apart < EPS || along < 0 || along > apart) return null;
  return [a.dxMm + ((b.dxMm - a.dxMm) * along) / apart, a.dyMm + ((b.dyMm - a.dyMm) * along) / apart];
}

/** Points where three are equally far over (the circles of Apollonius): linear in place once the radius is known, quadratic in the radius. */
function amid(a: Pairing, b: Pairing, c: Pairing): Array<[number, number]> {
  // |s − dᵢ| = t + aᵢ; taking the first from the others leaves s linear in t.
  const row = (d: Pairing): [number, number, number, number] => [
    2 * (d.dxMm - a.dxMm),
    2 * (d.dyMm - a.dyMm),
    d.dxMm ** 2 + d.dyMm ** 2 - a.dxMm ** 2 - a.dyMm ** 2 - (d.allowanceMm ** 2 - a.allowanceMm ** 2),
    -2 * (d.allowanceMm - a.allowanceMm),
  ];
  const [p, q, r, u] = row(b);
  const [e, f, g, w] = row(c);
  const det = p * f - q * e;
  if (Math.abs(det) < EPS) return [];
  const x0 = (r * f - q * g) / det;
  const x1 = (u * f - q * w) / det;
  const y0 = (p * g - r * e) / det;
  const y1 = (p * w - u * e) / det;
  const dx = x0 - a.dxMm;
  const dy = y0 - a.dyMm;
  const A = x1 ** 2 + y1 ** 2 - 1;
  const B = 2 * (dx * x1 + dy * y1 - a.allowanceMm);
  const C = dx ** 2 + dy ** 2 - a.allowanceMm ** 2;
  if (Math.abs(A) < EPS) return Math.abs(B) < EPS ? [] : [[x0 - (x1 * C) / B, y0 - (y1 * C) / B]];
  const root = B ** 2 - 4 * A * C;
  if (root < 0) return [];
  return [1, -1].map((sign) => {
    const t = (-B + sign * Math.sqrt(root)) / (2 * A);
    return [x0 + x1 * t, y0 + y1 * t];
  });
}
