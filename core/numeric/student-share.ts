/**
 * Two-sided share of Student's t beyond ±t: the p of a test. Regularised incomplete beta function by its continued fraction
 * (Abramowitz & Stegun 26.5.8 and 26.7.1), the logarithm of the gamma function by Lanczos's series.
 * @param freedom degrees of freedom, above 0
 * @throws RangeError when `freedom` is not above 0
 * @example
 * ```ts
 * studentShare(2.228, 10).toFixed(3) // => "0.050"
 * ```
 */
export function studentShare(t: number, freedom: number): number {
  if (!(freedom > 0)) throw new RangeError("studentShare: degrees of freedom must be above 0");
  if (!Number.isFinite(t)) return 0;
  return incompleteBeta(freedom / (freedom + t * t), freedom / 2, 0.5);
}

function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  // The fraction comes to rest quickly on one side of the mean only.
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a);
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x)) / a;
  let c = 1;
  let d = 1 / above(1 - ((a + b) * x) / (a + 1));
  let fraction = d;
  for (let m = 1; m < MOST_TERMS; m++) {
    for (const term of [
      (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m)),
      (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1)),
    ]) {
      d = 1 / above(1 + term * d);
      c = above(1 + term / c);
      fraction *= c * d;
    }
    if (Math.abs(c * d - 1) < 1e-15) break;
  }
  return front * fraction;
}
const MOST_TERMS = 2000;
const above = (value: number): number => (Math.abs(value) < 1e-300 ? 1e-300 : value);

const LANCZOS = [
  676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905,
  -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
];

function logGamma(z: number): number {
  const x = z - 1;
  let sum = 0.99999999999980993;
  for (const [i, value] of LANCZOS.entries()) sum += value / (x + i + 1);
  const t = x + LANCZOS.length - 0.5;
  return 0.5 * Math.log(2 * Math.PI) + (x + 0.5) * Math.log(t) - t + Math.log(sum);
}
