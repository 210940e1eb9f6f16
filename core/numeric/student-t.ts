/**
 * Two-sided quantile of Student's t: the interval mean ± t·s holds `level` of the cases.
 * G. W. Hill, Algorithm 396, Communications of the ACM 13 (1970); exact for 1 and 2 degrees of freedom.
 * @param freedom degrees of freedom, at least 1; infinity gives the normal distribution
 * @throws RangeError when `freedom` is below 1 or `level` outside (0, 1)
 * @example
 * ```ts
 * studentT(10, 0.95).toFixed(3) // => "2.228"
 * ```
 */
export function studentT(freedom: number, level = 0.95): number {
  if (!(freedom >= 1)) throw new RangeError("studentT: degrees of freedom must be at least 1");
  if (!(level > 0 && level < 1)) throw new RangeError("studentT: the level must lie between 0 and 1");
  const tail = 1 - level;
  if (freedom === 1) return 1 / Math.tan((tail * Math.PI) / 2);
  if (freedom === 2) return Math.sqrt(2 / (tail * (2 - tail)) - 2);
  if (freedom > 1e6) return normalQuantile(1 - tail / 2);
  const a = 1 / (freedom - 0.5);
  const b = 48 / (a * a);
  let c = ((20700 * a) / b - 98) * a * a - 16 * a + 96.36;
  const d = ((94.5 / (b + c) - 3) / b + 1) * Math.sqrt((a * Math.PI) / 2) * freedom;
  let y = (d * tail) ** (2 / freedom);
  if (y > 0.05 + a) {
    const x = normalQuantile(tail / 2);
    y = x * x;
    if (freedom < 5) c += 0.3 * (freedom - 4.5) * (x + 0.6);
    c = (((0.05 * d * x - 5) * x - 7) * x - 2) * x + b + c;
    y = (((((0.4 * y + 6.3) * y + 36) * y + 94.5) / c - y - 3) / b + 1) * x;
    y = Math.expm1(a * y * y);
  } else {
    y =
      (((1 / (((freedom + 6) / (freedom * y) - 0.089 * d - 0.822) * (freedom + 2) * 3) + 0.5 / (freedom + 4)) * y - 1) *
        (freedom + 1)) /
        (freedom + 2) +
      1 / y;
  }
  return Math.sqrt(freedom * y);
}

/**
 * Normal distribution function (W. J. Cody-style continued fraction and series; error below 1e-12).
 * @example
 * ```ts
 * normalShare(0) // => 0.5
 * ```
 */
export function normalShare(z: number): number {
  const x = Math.abs(z) / Math.SQRT2;
  let tail: number;
  if (x < 2.5) {
    let term = x;
    let sum = x;
    for (let n = 1; n < 100; n++) {
      term *= (-x * x) / n;
      sum += term / (2 * n + 1);
      if (Math.abs(term) < 1e-17) break;
    }
    tail = 0.5 - sum / Math.sqrt(Math.PI);
  } else {
    let fraction = 0;
    for (let k = 60; k > 0; k--) fraction = k / 2 / (x + fraction);
    tail = Math.exp(-x * x) / (2 * Math.sqrt(Math.PI) * (x + fraction));
  }
  return z > 0 ? 1 - tail : tail;
}

/**
 * The z that a share of the normal distribution lies below, by Newton's method on `normalShare`.
 * @example
 * ```ts
 * normalQuantile(0.975).toFixed(3) // => "1.960"
 * ```
 */
export function normalQuantile(share: number): number {
  let z = share < 0.5 ? -1 : 1;
  for (let round = 0; round < 60; round++) {
    const density = Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
    const step = Math.max(-1, Math.min(1, (normalShare(z) - share) / density));
    z -= step;
    if (Math.abs(step) < 1e-13) break;
  }
  return z;
}
