import { dot, factorOf, last, leastSquares, normalShare, nth, solveCholesky } from "../numeric/index.ts";

/** A heating curve: y(t) = final − Σ amplitude · e^(−t/τ), t from the load step. */
export interface HeatingCurve {
  /** Where it settles, °C or K as `y` was. */
  final: number;
  /** Half-width of its 95 % interval; counts noise, its correlation, and not knowing the time constants. */
  finalU95: number;
  /** The single most likely curve, for drawing and for telling fast from slow parts. */
  best: { final: number; terms: Array<{ amplitude: number; tauS: number }> };
  /** Expected distance still to go at a time, final − y(t). */
  remainingAt(tS: number): number;
  /** Expected change between two times. */
  changeBetween(fromS: number, toS: number): number;
  /** Root mean square of the points around the best curve, unit of `y`. */
  residualRms: number;
}

interface Candidate {
  tausS: number[];
  coefficients: Float64Array;
  finalSd: number;
  logWeight: number;
}

const FAST_S = [1.5, 3, 6, 12, 24, 48];
const SLOW_RATIO = 1.3;
const SLOW_S = Array.from({ length: 19 }, (_, k) => 30 * SLOW_RATIO ** k);
const MOST_SLOW = 48;
/** Time constants of coolers with their fin stacks: a few minutes, within a factor of e^0.8 (common practice of the trade). */
const SLOW_PRIOR = { medianS: 170, spread: 0.85 };
const AMPLITUDE_SD_K = 60;
const FINAL_SD_K = 150;

/**
 * Fits curves with one and two time constants to binned samples, and weighs them all by how well they explain the data
 * (Bayesian averaging over a grid of time constants; for each pair final value and amplitudes are linear).
 * That way a short run gets an honest, wide interval instead of one lucky fit.
 * @param tS times since the load step, rising
 * @param y one value per time
 * @param sd standard deviation of each value, relative scale; the common scale is taken from the residuals
 * @returns undefined for fewer than eight points
 */
export function fitHeatingCurve(tS: Float64Array, y: Float64Array, sd: Float64Array): HeatingCurve | undefined {
  if (tS.length < 8) return undefined;
  const shift = last(y);
  const moved = y.map((value) => value - shift);
  const weights = sd.map((value) => 1 / (value * value));
  const level = columnOf(Number.POSITIVE_INFINITY, tS, moved, weights);
  const square = dot(
    moved.map((value, i) => value * nth(weights, i)),
    moved,
  );
  const solveAll = (fast: number[], slow: number[]): Linear[] => {
    const columns = new Map([...fast, ...slow].map((tau) => [tau, columnOf(tau, tS, moved, weights)]));
    return pairs(fast, slow).map((taus) =>
      rescale(sumsOf(taus, [level, ...taus.map((tau) => columns.get(tau) ?? level)], square), 1),
    );
  };
  const rough = solveAll(FAST_S, SLOW_S);
  const top = rough.reduce((best, fit) => (fit.misfit < best.misfit ? fit : best));
  const scale =
    Math.max(1e-6, top.misfit / Math.max(1, tS.length - 2 - top.tausS.length * 2)) *
    residualCorrelation(tS, moved, sd, top);
  const { fast, slow } = closerLook(rough.map((fit) => weigh(rescale(fit, scale), FAST_S.length)));
  const fine = solveAll(fast, slow);
  const weighed = fine.map((fit) => weigh(rescale(fit, scale), fast.length));
  const most = weighed.reduce((best, one) => Math.max(best, one.logWeight), Number.NEGATIVE_INFINITY);
  // What weighs less than a millionth of the best changes no figure and would cost most of the time.
  const candidates = weighed.filter((one) => one.logWeight > most - 14);
  let total = 0;
  for (const one of candidates) total += Math.exp(one.logWeight - most);
  const shares = candidates.map((one) => Math.exp(one.logWeight - most) / total);

  const average = (of: (one: Candidate) => number): number =>
    candidates.reduce((sum, one, k) => sum + nth(shares, k) * of(one), 0);
  const mean = average((one) => nth(one.coefficients, 0));
  const remainingAt = (t: number): number => average((one) => tail(one, t));
  const best = candidates.reduce((leader, one) => (one.logWeight > leader.logWeight ? one : leader));
  return {
    final: mean + shift,
    finalU95: mixtureHalfWidth(candidates, shares, mean),
    best: refine(tS, y, sd, best, shift),
    remainingAt,
    changeBetween: (from, to) => remainingAt(from) - remainingAt(to),
    residualRms: rootMeanSquare(residualsOf(tS, moved, top)),
  };
}

const tail = (one: Candidate, t: number): number =>
  one.tausS.reduce((sum, tau, k) => sum + nth(one.coefficients, k + 1) * Math.exp(-t / tau), 0);

/** Sums of the data alone: another noise level needs no second pass over it. */
interface Sums {
  tausS: number[];
  matrix: Float64Array;
  right: Float64Array;
  square: number;
}

interface Linear extends Sums {
  coefficients: Float64Array;
  finalSd: number;
  misfit: number;
  logDeterminant: number;
}

/** One column of the linear problem: its values, the same weighed, and weighed sums of products that every pair with it needs. */
interface Column {
  values: Float64Array;
  weighed: Float64Array;
  withData: number;
  withLevel: number;
  withItself: number;
}

/** −e^(−t/τ), or the final value's ones for an endless τ. */
function columnOf(tauS: number, tS: Float64Array, y: Float64Array, weights: Float64Array): Column {
  const values = tauS === Number.POSITIVE_INFINITY ? tS.map(() => 1) : tS.map((t) => -Math.exp(-t / tauS));
  const weighed = values.map((value, i) => value * nth(weights, i));
  return {
    values,
    weighed,
    withData: dot(weighed, y),
    withLevel: weighed.reduce((sum, value) => sum + value, 0),
    withItself: dot(weighed, values),
  };
}

function sumsOf(tausS: number[], columns: Column[], square: number): Sums {
  const size = columns.length;
  const matrix = new Float64Array(size * size);
  columns.forEach((one, a) => {
    matrix[a * size + a] = one.withItself;
    for (let b = 0; b < a; b++)
      matrix[a * size + b] = matrix[b * size + a] =
        b === 0 ? one.withLevel : dot(one.weighed, columns[b]?.values ?? one.values);
  });
  return { tausS, matrix, right: Float64Array.from(columns, (one) => one.withData), square };
}

/** The solution for noise of `scale` times the stated variance, with the wide prior that keeps near-equal terms apart. */
function rescale(sums: Sums, scale: number): Linear {
  const size = sums.right.length;
  const matrix = sums.matrix.map((value) => value / scale);
  for (let a = 0; a < size; a++)
    matrix[a * size + a] = nth(matrix, a * size + a) + 1 / (a === 0 ? FINAL_SD_K : AMPLITUDE_SD_K) ** 2;
  const right = sums.right.map((value) => value / scale);
  const lower = factorOf(matrix, size, "the heating curve");
  const coefficients = solveCholesky(lower, right);
  const explained = dot(coefficients, right);
  const unit = new Float64Array(size);
  unit[0] = 1;
  let logDeterminant = 0;
  for (let k = 0; k < size; k++) logDeterminant += 2 * Math.log(nth(lower, k * size + k));
  return {
    ...sums,
    coefficients,
    finalSd: Math.sqrt(nth(solveCholesky(lower, unit), 0)),
    misfit: sums.square / scale - explained,
    logDeterminant,
  };
}

/** Every single slow constant, and every pair of a fast and a slow one that lie apart. */
const pairs = (fast: number[], slow: number[]): number[][] =>
  slow.flatMap((far) => [[far], ...fast.filter((near) => near * 2.5 < far).map((near) => [near, far])]);

/** Time constants to look at closely: where the coarse grid left any weight worth counting. */
function closerLook(coarse: Candidate[]): { fast: number[]; slow: number[] } {
  const best = coarse.reduce((leader, one) => (one.logWeight > leader.logWeight ? one : leader));
  const alive = coarse.filter((one) => one.logWeight > best.logWeight - 14).map((one) => last(one.tausS));
  const low = Math.min(...alive) / SLOW_RATIO;
  const high = Math.max(...alive) * SLOW_RATIO;
  const count = Math.min(MOST_SLOW, Math.ceil(Math.log(high / low) / Math.log(1.02)));
  const slow = Array.from({ length: count + 1 }, (_, k) => low * (high / low) ** (k / count));
  const centre = best.tausS.length === 2 ? (best.tausS[0] ?? 6) : 6;
  const fast = [-4, -2, -1, 0, 1, 2, 4].map((k) => centre * 1.3 ** k);
  return { fast, slow };
}

function weigh(fit: Linear, fastCount: number): Candidate {
  const taus = fit.tausS;
  const slow = last(taus);
  const prior = -0.5 * (Math.log(slow / SLOW_PRIOR.medianS) / SLOW_PRIOR.spread) ** 2;
  const room = -Math.log(FINAL_SD_K) - taus.length * Math.log(AMPLITUDE_SD_K);
  const spread = taus.length === 2 ? -Math.log(fastCount) : 0;
  return {
    tausS: fit.tausS,
    coefficients: fit.coefficients,
    finalSd: fit.finalSd,
    logWeight: -0.5 * fit.misfit - 0.5 * fit.logDeterminant + prior + room + spread,
  };
}

function residualsOf(tS: Float64Array, y: Float64Array, fit: Pick<Linear, "tausS" | "coefficients">): Float64Array {
  return tS.map((t, i) => {
    const rest = fit.tausS.reduce((sum, tau, k) => sum + nth(fit.coefficients, k + 1) * Math.exp(-t / tau), 0);
    return nth(y, i) - nth(fit.coefficients, 0) + rest;
  });
}

const rootMeanSquare = (values: Float64Array): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / values.length);

/** (1 + ρ)/(1 − ρ) of neighbouring residuals: a fit to correlated noise knows less than it seems. */
function residualCorrelation(tS: Float64Array, y: Float64Array, sd: Float64Array, fit: Linear): number {
  const residuals = residualsOf(tS, y, fit).map((value, i) => value / nth(sd, i));
  let own = 0;
  let lagged = 0;
  residuals.forEach((value, i) => {
    own += value * value;
    if (i > 0) lagged += value * nth(residuals, i - 1);
  });
  const rho = own === 0 ? 0 : Math.max(0, Math.min(0.9, lagged / own));
  return (1 + rho) / (1 - rho);
}

function mixtureHalfWidth(candidates: Candidate[], shares: number[], mean: number): number {
  const inside = (half: number): number =>
    candidates.reduce((sum, one, k) => {
      const share = nth(shares, k);
      if (share < 1e-7) return sum;
      const centre = nth(one.coefficients, 0) - mean;
      const spread = Math.max(one.finalSd, 1e-9);
      return sum + share * (normalShare((half - centre) / spread) - normalShare((-half - centre) / spread));
    }, 0);
  let low = 0;
  let high = 1;
  while (inside(high) < 0.95 && high < 1000) high *= 2;
  for (let round = 0; round < 40; round++) {
    const middle = (low + high) / 2;
    if (inside(middle) < 0.95) low = middle;
    else high = middle;
  }
  return high;
}

/** Lets the time constants of the best curve move freely from the grid point. */
function refine(
  tS: Float64Array,
  y: Float64Array,
  sd: Float64Array,
  from: Candidate,
  shift: number,
): HeatingCurve["best"] {
  const start = [nth(from.coefficients, 0) + shift];
  from.tausS.forEach((tau, k) => {
    start.push(nth(from.coefficients, k + 1), Math.log(tau));
  });
  const fit = leastSquares(heatingModel, tS, y, start, sd);
  const read = (parameters: ArrayLike<number>) => ({
    final: nth(parameters, 0),
    terms: from.tausS.map((_, k) => ({
      amplitude: nth(parameters, 1 + 2 * k),
      tauS: Math.exp(nth(parameters, 2 + 2 * k)),
    })),
  });
  const free = read(fit.parameters);
  const sound = free.terms.every((term) => term.tauS > 0.3 && term.tauS < 7200 && Math.abs(term.amplitude) < 200);
  return fit.converged && sound ? free : read(start);
}

/** y = p0 − Σ p(2k+1) · e^(−t/e^p(2k+2)), with its derivatives. */
function heatingModel(t: number, p: Float64Array, slope: Float64Array): number {
  let value = nth(p, 0);
  slope[0] = 1;
  for (let k = 1; k < p.length; k += 2) {
    const tau = Math.exp(nth(p, k + 1));
    const decay = Math.exp(-t / tau);
    value -= nth(p, k) * decay;
    slope[k] = -decay;
    slope[k + 1] = -nth(p, k) * decay * (t / tau);
  }
  return value;
}
