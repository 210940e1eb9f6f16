import { cholesky, solveCholesky } from "../numeric/index.ts";

/** Data of a mixed model: changes, their known error variances, and a design of `width` columns, row after row. */
export interface MixedData {
  y: Float64Array;
  errors: Float64Array;
  design: Float64Array;
  width: number;
  /** Cluster of each row, from 0; null without. */
  clusters: Int32Array | null;
  clusterCount: number;
}

export interface Fitted {
  tau2: number;
  clusterTau2: number;
  estimates: Float64Array;
  /** Inverse of X'V⁻¹X, row after row. */
  covariance: Float64Array;
  /** y'Py: what is left, in units of its variance. */
  residual: number;
  logLikelihood: number;
}

/** What was worked out on the way to a likelihood. */
interface Look extends Fitted {
  weights: Float64Array;
  clusters: Int32Array;
  /** Of each cluster: sums of weights, of weighted rows, and its share of Sherman and Morrison's formula. */
  sumW: Float64Array;
  sumWX: Float64Array;
  shrink: Float64Array;
  lower: Float64Array;
  /** y less what was fitted. */
  left: Float64Array;
  /** V⁻¹ of it: Py. */
  projected: Float64Array;
}

/** Slope of the likelihood by τ² and by the clusters' variance, and its average information. */
interface Curvature {
  slope: [number, number];
  information: [number, number, number];
}

const MOST_ROUNDS = 80;
/** Shares of the spread from which it is looked: few rows have several humps, many have one. */
const STARTS = { few: [0, 0.03, 0.1, 0.3, 1, 3], many: [0, 0.2] };
const CLUSTER_STARTS = { few: [0, 0.1, 0.4, 1.5], many: [0, 0.2] };
const MANY = 400;
/** A gain of the likelihood that is rounding. */
const FLAT = 1e-8;
const ROUNDING = 1e-11;
/** No step is longer than so many times the spread. */
const MOST_SPREADS = 20;

/**
 * Variances by restricted maximum likelihood: the best of a coarse grid, then average information (Gilmour, Thompson & Cullis, Biometrics 51,
 * 1995) with halved steps, each variance at least 0. Time: rows × width² a round.
 * @throws RangeError where the design has no full rank
 */
export function reml(data: MixedData): Fitted {
  const { y } = data;
  const mean = y.reduce((sum, value) => sum + value, 0) / y.length;
  const spread = y.reduce((sum, value) => sum + (value - mean) ** 2, 0) / Math.max(1, y.length - 1);
  const clustered = data.clusters !== null;
  let best = need(look(data, 0, 0));
  const size = y.length < MANY ? "few" : "many";
  for (const share of STARTS[size])
    for (const own of clustered ? CLUSTER_STARTS[size] : [0]) {
      const one = look(data, share * spread, own * spread);
      // Where the columns tell the clusters already nothing tells their variance: the smallest one then.
      if (one && one.logLikelihood > best.logLikelihood + FLAT) best = one;
    }
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const next = step(data, best, clustered, spread);
    if (!next) break;
    const moved = Math.abs(next.tau2 - best.tau2) + Math.abs(next.clusterTau2 - best.clusterTau2);
    best = next;
    if (moved <= 1e-11 * (spread + 1e-300)) break;
  }
  return best;
}

/** The next better variances; undefined where none are. */
function step(data: MixedData, at: Look, clustered: boolean, spread: number): Look | undefined {
  const { slope, information } = curvatureOf(data, at);
  const [a, b, c] = information;
  const tauHeld = at.tau2 <= 0 && slope[0] <= 0;
  const clusterHeld = !clustered || (at.clusterTau2 <= 0 && slope[1] <= 0);
  const det = a * c - b * b;
  let by: [number, number] = [tauHeld ? 0 : slope[0] / a, clusterHeld ? 0 : slope[1] / c];
  if (!tauHeld && !clusterHeld && det > 1e-12 * a * c)
    by = [(c * slope[0] - b * slope[1]) / det, (a * slope[1] - b * slope[0]) / det];
  if (!by.every(Number.isFinite) || !(slope[0] * by[0] + slope[1] * by[1] > FLAT * FLAT)) return undefined;
  const longest = Math.max(Math.abs(by[0]), Math.abs(by[1])) / (MOST_SPREADS * (spread + at.tau2 + at.clusterTau2));
  if (longest > 1) by = [by[0] / longest, by[1] / longest];
  for (let share = 1; share > 1e-5; share /= 2) {
    const one = look(data, Math.max(0, at.tau2 + share * by[0]), Math.max(0, at.clusterTau2 + share * by[1]));
    if (one && one.logLikelihood > at.logLikelihood) return one;
  }
  return undefined;
}

/**
 * Estimates and likelihood under given variances; a cluster's block is inverted by Sherman and Morrison's formula.
 * @returns undefined where variances are so large that nothing is left of the design
 */
function look(data: MixedData, tau2: number, clusterTau2: number): Look | undefined {
  const { y, errors, design, width: p } = data;
  const n = y.length;
  const weights = errors.map((own) => 1 / (own + tau2));
  const clusters = data.clusters ?? new Int32Array(n);
  const count = data.clusters ? data.clusterCount : 1;
  const own = data.clusters ? clusterTau2 : 0;
  const sumW = new Float64Array(count);
  const sumWX = new Float64Array(count * p);
  const sumWY = new Float64Array(count);
  const normal = new Float64Array(p * p);
  const right = new Float64Array(p);
  let logDet = 0;
  for (let i = 0; i < n; i++) {
    const w = weights[i] as number;
    const k = clusters[i] as number;
    logDet -= Math.log(w);
    sumW[k] = (sumW[k] as number) + w;
    sumWY[k] = (sumWY[k] as number) + w * (y[i] as number);
    for (let r = 0; r < p; r++) {
      const wx = w * (design[i * p + r] as number);
      if (wx === 0) continue;
      sumWX[k * p + r] = (sumWX[k * p + r] as number) + wx;
      right[r] = (right[r] as number) + wx * (y[i] as number);
      for (let q = 0; q <= r; q++)
        normal[r * p + q] = (normal[r * p + q] as number) + wx * (design[i * p + q] as number);
    }
  }
  const shrink = sumW.map((sum) => own / (1 + own * sum));
  for (let k = 0; k < count; k++) {
    logDet += Math.log(1 + own * (sumW[k] as number));
    for (let r = 0; r < p; r++) {
      const s = (shrink[k] as number) * (sumWX[k * p + r] as number);
      right[r] = (right[r] as number) - s * (sumWY[k] as number);
      for (let q = 0; q <= r; q++) normal[r * p + q] = (normal[r * p + q] as number) - s * (sumWX[k * p + q] as number);
    }
  }
  for (let r = 0; r < p; r++) for (let q = 0; q < r; q++) normal[q * p + r] = normal[r * p + q] as number;
  const lower = cholesky(normal, p);
  if (!lower) return undefined;
  const estimates = solveCholesky(lower, right);
  const fitted = times(data, estimates);
  const left = y.map((value, i) => value - (fitted[i] as number));
  const projected = solve({ weights, clusters, shrink }, left);
  const residual = dotOf(left, projected);
  for (let r = 0; r < p; r++) logDet += 2 * Math.log(lower[r * p + r] as number);
  return {
    tau2,
    clusterTau2: own,
    estimates,
    covariance: inverse(lower, p),
    residual,
    logLikelihood: -0.5 * (logDet + residual),
    weights,
    clusters,
    sumW,
    sumWX,
    shrink,
    lower,
    left,
    projected,
  };
}

function need(found: Look | undefined): Look {
  if (!found) throw new RangeError("reml: the design has no full rank");
  return found;
}

const dotOf = (one: Float64Array, other: Float64Array): number =>
  one.reduce((sum, value, i) => sum + value * (other[i] as number), 0);

/** X b. */
function times({ design, width: p, y }: MixedData, b: Float64Array): Float64Array {
  return y.map((_, i) => {
    let sum = 0;
    for (let r = 0; r < p; r++) sum += (design[i * p + r] as number) * (b[r] as number);
    return sum;
  });
}

/** X'v. */
function across({ design, width: p }: MixedData, v: Float64Array): Float64Array {
  const sums = new Float64Array(p);
  for (let i = 0; i < v.length; i++)
    for (let r = 0; r < p; r++) sums[r] = (sums[r] as number) + (design[i * p + r] as number) * (v[i] as number);
  return sums;
}

/** V⁻¹v. */
function solve(
  { weights, clusters, shrink }: Pick<Look, "weights" | "clusters" | "shrink">,
  v: Float64Array,
): Float64Array {
  const sums = new Float64Array(shrink.length);
  for (let i = 0; i < v.length; i++) {
    const k = clusters[i] as number;
    sums[k] = (sums[k] as number) + (weights[i] as number) * (v[i] as number);
  }
  return v.map((value, i) => {
    const k = clusters[i] as number;
    return (weights[i] as number) * (value - (shrink[k] as number) * (sums[k] as number));
  });
}

/** Traces and products that tell where to go from here. */
function curvatureOf(data: MixedData, at: Look): Curvature {
  const { design, width: p } = data;
  const { weights, clusters, sumW, sumWX, shrink, covariance, lower, projected, clusterTau2 } = at;
  let traceP = 0;
  const squared = new Float64Array(p * p);
  const z = new Float64Array(p);
  for (let i = 0; i < projected.length; i++) {
    const w = weights[i] as number;
    const k = clusters[i] as number;
    const g = shrink[k] as number;
    traceP += w - g * w * w;
    for (let r = 0; r < p; r++) z[r] = w * ((design[i * p + r] as number) - g * (sumWX[k * p + r] as number));
    for (let r = 0; r < p; r++) {
      const zr = z[r] as number;
      if (zr !== 0)
        for (let q = 0; q < p; q++) squared[r * p + q] = (squared[r * p + q] as number) + zr * (z[q] as number);
    }
  }
  traceP -= dotOf(covariance, squared);
  const project = (v: Float64Array): Float64Array => {
    const over = solve(at, v);
    const back = solve(at, times(data, solveCholesky(lower, across(data, over))));
    return over.map((value, i) => value - (back[i] as number));
  };
  const byTau = project(projected);
  const tauSlope = -0.5 * (traceP - dotOf(projected, projected));
  if (!data.clusters) return { slope: [tauSlope, 0], information: [0.5 * dotOf(projected, byTau), 0, 1] };
  let traceC = 0;
  let scaleC = 0;
  const inCluster = new Float64Array(sumW.length);
  for (let i = 0; i < projected.length; i++) {
    const k = clusters[i] as number;
    inCluster[k] = (inCluster[k] as number) + (projected[i] as number);
  }
  for (let k = 0; k < sumW.length; k++) {
    const damp = 1 / (1 + clusterTau2 * (sumW[k] as number));
    const own = sumWX.subarray(k * p, (k + 1) * p);
    scaleC += (sumW[k] as number) * damp;
    traceC += (sumW[k] as number) * damp - damp * damp * dotOf(own, solveCholesky(lower, own));
  }
  const spreadOut = projected.map((_, i) => inCluster[clusters[i] as number] as number);
  const byCluster = project(spreadOut);
  const clusterSlope = -0.5 * (traceC - dotOf(inCluster, inCluster));
  return {
    // What is left of the two by rounding is no slope: the columns tell the clusters already.
    slope: [tauSlope, Math.abs(clusterSlope) > ROUNDING * scaleC ? clusterSlope : 0],
    information: [0.5 * dotOf(projected, byTau), 0.5 * dotOf(projected, byCluster), 0.5 * dotOf(spreadOut, byCluster)],
  };
}

function inverse(lower: Float64Array, size: number): Float64Array {
  const found = new Float64Array(size * size);
  for (let col = 0; col < size; col++) {
    const unit = new Float64Array(size);
    unit[col] = 1;
    found.set(solveCholesky(lower, unit), col * size);
  }
  return found;
}

/** What the errors alone would leave, and their typical variance (Higgins & Thompson, Statistics in Medicine 21, 2002). */
export function heterogeneity(data: MixedData): { q: number; typical: number } {
  const { residual, covariance } = need(look({ ...data, clusters: null }, 0, 0));
  const { errors, design, width: p } = data;
  let trace = 0;
  for (let i = 0; i < errors.length; i++) {
    const w = 1 / (errors[i] as number);
    let leverage = 0;
    for (let r = 0; r < p; r++)
      for (let q = 0; q < p; q++)
        leverage += (design[i * p + r] as number) * (covariance[r * p + q] as number) * (design[i * p + q] as number);
    trace += w - w * w * leverage;
  }
  return { q: residual, typical: (errors.length - p) / trace };
}
