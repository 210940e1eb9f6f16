import { dot, factorOf, last, leastSquares, normalShare, nth, SolveFailed, solveCholesky } from "../numeric/index.ts";
import { likeliestNoise, type Noise, whitener } from "./correlated.ts";

/** A heating curve: y(t) = final − Σ amplitude · e^(−t/τ), t from the load step. */
export interface HeatingCurve {
  /** Where it settles, °C or K as `y` was. */
  final: number;
  /** Half-width of its 95 % interval; counts noise, its correlation, and not knowing the time constants nor what is slower still. */
  finalU95: number;
  /** The single most likely curve without its slowest part, for drawing and for telling fast from slow parts. */
  best: { final: number; terms: Array<{ amplitude: number; tauS: number }> };
  /** Expected distance still to go at a time, final − y(t), and its standard deviation. */
  remainingAt(tS: number): Expected;
  /** Expected change between two times, and its standard deviation. */
  changeBetween(fromS: number, toS: number): Expected;
  /** Root mean square of the points around the best curve, unit of `y`. */
  residualRms: number;
  /** By which time constant it follows a room that moves, s: that of what is slower than the quick parts, weighed by their kelvins. */
  followS: Expected;
  /** How fast a room nobody measured drifts by this curve, K/s; undefined where it may not. */
  drift: Expected | undefined;
}

export interface Expected {
  mean: number;
  sd: number;
}

/** How the card answers what drives it. Without one, a plain step at t = 0 is taken. */
export interface Response {
  /** Share of the way still to go at each time for a part with this time constant; e^(−t/τ) after a plain step. */
  toCome(tauS: number): Float64Array;
  /** Room air as such a part feels it, at each time; taken off `y`. */
  room?: ((tauS: number) => Float64Array) | undefined;
  /** How much further behind the room a slow part is than the cooler, at each time, K: nobody knows how much of the rise follows it. */
  roomBehind?: Float64Array | undefined;
  /** Room air is not known and may drift. */
  mayDrift: boolean;
}

const FAST_S = [1.5, 3, 6, 12, 24, 48];
const MAIN_RATIO = 1.3;
const MAIN_S = Array.from({ length: 16 }, (_, k) => 22 * MAIN_RATIO ** k);
const FINE_RATIO = 1.03;
const MOST_MAIN = 40;
/** What is slower than the cooler itself: board, backplate, the air of a case. */
const SLOW_S = [250, 420, 700, 1100];
/** A slow part lies this far above the main one. */
const APART = 1.7;
/** Time constants of coolers with their fin stacks: a few minutes, within a factor of e^0.8 (common practice of the trade). */
const MAIN_PRIOR = { medianS: 150, spread: 0.8 };
/** The slow part's share of the rise, mean and standard deviation: hardly any on an open bench, a good deal in a case, and how likely each is. */
const SLOW_KINDS = [
  { mean: 0.01, sd: 0.02, chance: 0.4 },
  { mean: 0.08, sd: 0.12, chance: 0.6 },
] as const;
/** Behind it there may be one that no soak waits for, such as a room's corner or the wood of a desk. */
const SLOWEST = { tauS: 2400, mean: 0.01, sd: 0.02, chance: 0.35 };
const AMPLITUDE_SD_K = 60;
const FINAL_SD_K = 150;
/** Drift of a room nobody measured, K/s: 2.5 K/h. */
const DRIFT_SD = 2.5 / 3600;
/** Share of the rise that follows the room as slow parts do, mean and standard deviation. */
const BEHIND = { mean: 0.2, sd: 0.25 };
/** No model of a card is truer than this. */
const LEAST_WANDER_K = 0.04;
/** The fit takes part of the wander for heating: what is left shows too little of it. */
const WANDER_HIDDEN = 1.5;
const ROUGH: Noise = { scale: 1, wanderK: 0.1, memoryS: 60 };

/** Columns of one candidate: level, then the parts from fast to slow, then what the room does beside. */
interface Candidate {
  tausS: number[];
  main: number;
  coefficients: Float64Array;
  lower: Float64Array;
  finalSd: number;
  logWeight: number;
}

/**
 * Fits curves of a fast, a main and a slow part to binned samples, and weighs them all by how well they explain the data (Bayesian averaging over
 * grids of time constants; for each set the final value and the amplitudes are linear). Whether there is a slow part, how slow and how much of the
 * rise it is, is never known beforehand: a short run gets an honest, wide interval instead of one lucky fit. What is left over is taken as
 * noise that wanders, so that many samples cannot make the interval narrower than they can carry.
 * @param tS times since the load step, rising
 * @param y one value per time
 * @param sd standard deviation of each value
 * @returns undefined for fewer than eight points
 */
export function fitHeatingCurve(
  tS: Float64Array,
  y: Float64Array,
  sd: Float64Array,
  response: Response = { toCome: (tauS) => tS.map((t) => Math.exp(-t / tauS)), mayDrift: false },
): HeatingCurve | undefined {
  if (tS.length < 8) return undefined;
  const shift = last(y) - (response.room ? last(response.room(1)) : 0);
  const lines = new Lines(tS, y, shift, response);
  const riseK = Math.max(10, Math.abs(last(y) - nth(y, 0)));
  const rough = new Weighing(lines, whitener(tS, sd, ROUGH).whiten, ALL, riseK);
  // The coarse grid leaves humps of its own: the noise is what is left once the time constants may move.
  const noise = likeliestNoise(tS, sd, refine(lines, sd, rough.solve(heaviest(rough.trials))).residuals);
  noise.wanderK = Math.max(LEAST_WANDER_K, WANDER_HIDDEN * noise.wanderK);
  const candidates = weightiest(new Weighing(lines, whitener(tS, sd, noise).whiten, closerLook(rough), riseK));
  const most = candidates.reduce((best, one) => Math.max(best, one.logWeight), Number.NEGATIVE_INFINITY);
  const raw = candidates.map((one) => Math.exp(one.logWeight - most));
  const total = raw.reduce((sum, one) => sum + one, 0);
  const shares = raw.map((one) => one / total);

  const expected = (of: (tauS: number) => number, ofDrift = 0): Expected => {
    let mean = 0;
    let square = 0;
    candidates.forEach((one, k) => {
      const slope = new Float64Array(one.coefficients.length);
      one.tausS.forEach((tau, part) => {
        slope[part + 1] = of(tau);
      });
      if (response.mayDrift) slope[slope.length - 1] = ofDrift;
      const value = dot(slope, one.coefficients);
      const spread = dot(slope, solveCholesky(one.lower, slope));
      const share = shares[k] ?? 0;
      mean += share * value;
      square += share * (spread + value * value);
    });
    return { mean, sd: Math.sqrt(Math.max(0, square - mean * mean)) };
  };
  const mean = candidates.reduce((sum, one, k) => sum + nth(shares, k) * nth(one.coefficients, 0), 0);
  const best = candidates.reduce((leader, one) => (one.logWeight > leader.logWeight ? one : leader));
  const refined = refine(lines, sd, best);
  return {
    final: mean + shift,
    finalU95: mixtureHalfWidth(candidates, shares, mean),
    best: refined.curve,
    remainingAt: (t) => expected((tau) => Math.exp(-t / tau)),
    changeBetween: (from, to) => expected((tau) => Math.exp(-from / tau) - Math.exp(-to / tau)),
    residualRms: rootMeanSquare(refined.residuals),
    followS: follows(candidates, shares),
    drift: response.mayDrift ? expected(() => 0, 1) : undefined,
  };
}

/** Whatever its parts are called, it follows the room as what holds its heat does. */
function follows(candidates: Candidate[], shares: number[]): Expected {
  let mean = 0;
  let square = 0;
  candidates.forEach(({ tausS, main, coefficients }, k) => {
    let kelvins = 0;
    let weighed = 0;
    tausS.forEach((tauS, part) => {
      if (tauS < main) return;
      const own = Math.max(0, nth(coefficients, part + 1));
      kelvins += own;
      weighed += own * tauS;
    });
    const tauS = kelvins > 0 ? weighed / kelvins : main;
    mean += nth(shares, k) * tauS;
    square += nth(shares, k) * tauS * tauS;
  });
  return { mean, sd: Math.sqrt(Math.max(0, square - mean * mean)) };
}

/** The columns of the linear problem, made once for each time constant. */
class Lines {
  readonly ones: Float64Array;
  /** What the room does beside: how it drifts when nobody measured it, else how far slow parts are behind it. */
  readonly beside: { line: Float64Array; mean: number; sd: number } | undefined;
  readonly #parts = new Map<number, Float64Array>();
  readonly #data = new Map<number, Float64Array>();
  constructor(
    readonly tS: Float64Array,
    readonly y: Float64Array,
    readonly shift: number,
    readonly response: Response,
  ) {
    this.ones = new Float64Array(tS.length).fill(1);
    const end = last(tS);
    if (response.mayDrift) this.beside = { line: tS.map((t) => t - end), mean: 0, sd: DRIFT_SD };
    else if (response.roomBehind) this.beside = { line: response.roomBehind, ...BEHIND };
  }
  part(tauS: number): Float64Array {
    const known = this.#parts.get(tauS) ?? this.response.toCome(tauS).map((value) => -value);
    this.#parts.set(tauS, known);
    return known;
  }
  /** What is to be explained, when the main part answers the room's air. */
  data(mainS: number): Float64Array {
    const key = this.response.room ? mainS : 0;
    const known = this.#data.get(key);
    if (known) return known;
    const room = this.response.room?.(mainS);
    const made = this.y.map((value, i) => value - this.shift - (room?.[i] ?? 0));
    this.#data.set(key, made);
    return made;
  }
}

/** A slow part that may be: its time constant, and how much of the rise is expected of it. */
interface SlowPart {
  tauS: number;
  mean: number;
  sd: number;
}

/** What may be slower than the main part: one, or two, and how likely that is among all. */
interface Slower {
  parts: SlowPart[];
  chance: number;
}

/** What is tried: every main part with none or one of the fast, and one of the sets of slower ones where any lies apart. */
interface Tried {
  fast: number[];
  main: number[];
  slower: Slower[];
}

const ALL: Tried = {
  fast: FAST_S,
  main: MAIN_S,
  slower: SLOW_S.flatMap((tauS) =>
    SLOW_KINDS.flatMap(({ mean, sd, chance }): Slower[] => [
      { parts: [{ tauS, mean, sd }], chance: chance * (1 - SLOWEST.chance) },
      { parts: [{ tauS, mean, sd }, SLOWEST], chance: chance * SLOWEST.chance },
    ]),
  ),
};

/** One tried set of parts, by its place in the lists, and how it weighs. */
interface Trial {
  main: number;
  quick: number;
  slower: number;
  logWeight: number;
}

/** At most level, what the room does beside, fast, main and two slow parts. */
const MOST_COLUMNS = 6;

/**
 * Weighs every set of parts. The sets of slower ones extend one factor of what they share, so each costs a row or two;
 * coefficients are worked out only for those that are asked for.
 */
class Weighing {
  readonly trials: Trial[] = [];
  readonly #fixed: Float64Array[];
  readonly #fixedPriors: Float64Array;
  /** Weighed sums of products: fixed columns with each other, each main part with them and itself, the data with all of these. */
  readonly #gram: Float64Array;
  readonly #mains: Array<{ tau: number; withFixed: Float64Array; itself: number; data: Float64Array; square: number }>;
  readonly #slowAt: Map<number, number>;
  readonly #lower = new Float64Array(MOST_COLUMNS * MOST_COLUMNS);
  readonly #forward = new Float64Array(MOST_COLUMNS);

  constructor(
    readonly lines: Lines,
    whiten: (series: Float64Array) => Float64Array,
    readonly tried: Tried,
    readonly riseK: number,
  ) {
    const { fast, main, slower } = tried;
    const slowTaus = [...new Set(slower.flatMap(({ parts }) => parts.map((one) => one.tauS)))];
    const head = lines.beside ? [lines.ones, lines.beside.line] : [lines.ones];
    const rest = [...fast, ...slowTaus].map((tau) => lines.part(tau));
    this.#fixed = [...head, ...rest].map(whiten);
    this.#fixedPriors = Float64Array.from(this.#fixed, (_, k) =>
      k === 0 ? FINAL_SD_K : k < head.length ? (lines.beside?.sd ?? 1) : AMPLITUDE_SD_K,
    );
    this.#slowAt = new Map(slowTaus.map((tau, k) => [tau, head.length + fast.length + k]));
    const n = this.#fixed.length;
    this.#gram = new Float64Array(n * n);
    this.#fixed.forEach((one, a) => {
      for (let b = 0; b <= a; b++) this.#gram[a * n + b] = this.#gram[b * n + a] = dot(one, this.#fixed[b] ?? one);
    });
    let shared: { whitened: Float64Array; withFixed: Float64Array; square: number } | undefined;
    this.#mains = main.map((tau) => {
      const column = whiten(lines.part(tau));
      if (!shared || lines.response.room) {
        const whitened = whiten(lines.data(tau));
        shared = {
          whitened,
          withFixed: Float64Array.from(this.#fixed, (one) => dot(one, whitened)),
          square: dot(whitened, whitened),
        };
      }
      const { whitened, withFixed, square } = shared;
      return {
        tau,
        withFixed: Float64Array.from(this.#fixed, (one) => dot(one, column)),
        itself: dot(column, column),
        data: Float64Array.of(...withFixed, dot(column, whitened)),
        square,
      };
    });
    this.#weighAll(head.length);
  }

  #weighAll(heads: number): void {
    const { fast, slower } = this.tried;
    const besideMean = this.lines.beside?.mean ?? 0;
    this.#mains.forEach(({ tau }, main) => {
      const apart = [...slower.keys()].filter((k) => slower[k]?.parts.every((one) => one.tauS > APART * tau));
      const chances = apart.reduce((sum, k) => sum + (slower[k]?.chance ?? 0), 0);
      const logMain = -0.5 * (Math.log(tau / MAIN_PRIOR.medianS) / MAIN_PRIOR.spread) ** 2;
      for (let quick = -1; quick < fast.length; quick++) {
        if (quick >= 0 && nth(fast, quick) * 2.5 >= tau) continue;
        let base = logMain;
        let size = 0;
        const columns: number[] = [];
        for (let k = 0; k < heads; k++)
          base += this.#extend(main, columns, size++, k, k === 0 ? 0 : besideMean, nth(this.#fixedPriors, k));
        if (quick >= 0) base += this.#extend(main, columns, size++, heads + quick, 0, AMPLITUDE_SD_K);
        base += this.#extend(main, columns, size++, -1, 0, AMPLITUDE_SD_K);
        base -= 0.5 * (this.#mains[main]?.square ?? 0);
        for (const k of apart) {
          const set = slower[k];
          if (!set) continue;
          let logWeight = base + Math.log(set.chance / chances);
          columns.length = size;
          set.parts.forEach((part, more) => {
            const at = this.#slowAt.get(part.tauS) ?? 0;
            logWeight += this.#extend(main, columns, size + more, at, part.mean * this.riseK, part.sd * this.riseK);
          });
          this.trials.push({ main, quick, slower: k, logWeight });
        }
        if (apart.length === 0) this.trials.push({ main, quick, slower: -1, logWeight: base });
      }
    });
  }

  /** Adds one column (−1: the main part's) to the factor; returns what it adds to the logarithm of the weight. */
  #extend(main: number, columns: number[], size: number, column: number, mean: number, spread: number): number {
    const own = this.#mains[main];
    if (!own) throw new SolveFailed("the heating curve");
    const lower = this.#lower;
    const forward = this.#forward;
    const n = this.#fixed.length;
    const weight = 1 / (spread * spread);
    let diagonal = (column < 0 ? own.itself : (this.#gram[column * n + column] ?? 0)) + weight;
    let right = (own.data[column < 0 ? n : column] ?? 0) + weight * mean;
    columns[size] = column;
    const row = size * MOST_COLUMNS;
    for (let i = 0; i < size; i++) {
      const other = columns[i] ?? 0;
      let value =
        column < 0
          ? (own.withFixed[other] ?? 0)
          : other < 0
            ? (own.withFixed[column] ?? 0)
            : (this.#gram[column * n + other] ?? 0);
      for (let k = 0; k < i; k++) value -= (lower[i * MOST_COLUMNS + k] ?? 0) * (lower[row + k] ?? 0);
      value /= lower[i * MOST_COLUMNS + i] ?? 1;
      lower[row + i] = value;
      diagonal -= value * value;
      right -= value * (forward[i] ?? 0);
    }
    if (!(diagonal > 0)) throw new SolveFailed("the heating curve");
    const root = Math.sqrt(diagonal);
    lower[row + size] = root;
    forward[size] = right / root;
    return (0.5 * (right * right)) / diagonal - Math.log(root) - Math.log(spread) - 0.5 * weight * mean * mean;
  }

  /** Coefficients and their spread of one trial, columns from the level over the parts, fast to slow, to what the room does beside. */
  solve({ main, quick, slower, logWeight }: Trial): Candidate {
    const own = this.#mains[main];
    if (!own) throw new SolveFailed("the heating curve");
    const set = this.tried.slower[slower];
    const behind = set?.parts ?? [];
    const heads = this.lines.beside ? 2 : 1;
    const n = this.#fixed.length;
    const chosen = [
      0,
      ...(quick < 0 ? [] : [heads + quick]),
      -1,
      ...behind.map((one) => this.#slowAt.get(one.tauS) ?? 0),
    ];
    const firstSlow = chosen.length - behind.length;
    if (this.lines.beside) chosen.push(1);
    const size = chosen.length;
    const matrix = new Float64Array(size * size);
    const right = new Float64Array(size);
    chosen.forEach((column, a) => {
      chosen.forEach((other, b) => {
        matrix[a * size + b] =
          column < 0
            ? other < 0
              ? own.itself
              : nth(own.withFixed, other)
            : other < 0
              ? nth(own.withFixed, column)
              : nth(this.#gram, column * n + other);
      });
      const slow = a >= firstSlow ? behind[a - firstSlow] : undefined;
      const spread = slow ? slow.sd * this.riseK : column < 0 ? AMPLITUDE_SD_K : nth(this.#fixedPriors, column);
      const weight = 1 / (spread * spread);
      matrix[a * size + a] = nth(matrix, a * size + a) + weight;
      const mean = slow ? slow.mean * this.riseK : heads === 2 && column === 1 ? (this.lines.beside?.mean ?? 0) : 0;
      right[a] = nth(own.data, column < 0 ? n : column) + weight * mean;
    });
    const lower = factorOf(matrix, size, "the heating curve");
    const unit = new Float64Array(size);
    unit[0] = 1;
    return {
      tausS: [...(quick < 0 ? [] : [nth(this.tried.fast, quick)]), own.tau, ...behind.map((one) => one.tauS)],
      main: own.tau,
      coefficients: solveCholesky(lower, right),
      lower,
      finalSd: Math.sqrt(nth(solveCholesky(lower, unit), 0)),
      logWeight,
    };
  }
}

const heaviest = (trials: Trial[]): Trial =>
  trials.reduce((best, one) => (one.logWeight > best.logWeight ? one : best));

/** What weighs less than this against the best after the rough look is not looked at closely (logarithm). */
const NAUGHT = 10;

/** Time constants to look at closely: where the coarse grid left any weight worth counting. */
function closerLook({ trials, tried }: Weighing): Tried {
  const best = heaviest(trials);
  const alive = trials.filter((one) => one.logWeight > best.logWeight - NAUGHT);
  const mains = alive.map((one) => nth(tried.main, one.main));
  const low = Math.min(...mains) / MAIN_RATIO;
  const high = Math.max(...mains) * MAIN_RATIO;
  // On one lattice for all sensors, so that what they share is worked out once.
  const widths = Math.log(high / low) / Math.log(FINE_RATIO);
  const pace = FINE_RATIO ** Math.ceil(widths / MOST_MAIN);
  const main = [nth(MAIN_S, 0) * pace ** Math.floor(Math.log(low / nth(MAIN_S, 0)) / Math.log(pace))];
  while (last(main) < high) main.push(last(main) * pace);
  const centre = best.quick < 0 ? 6 : nth(tried.fast, best.quick);
  const fast = [-4, -2, -1, 0, 1, 2, 4].map((k) => centre * 1.3 ** k);
  const slower = tried.slower.filter((_, k) => alive.some((one) => one.slower === k));
  return { fast, main, slower };
}

/** At most so many candidates are averaged. */
const MOST_AVERAGED = 160;

/** Those that hold nearly all of the weight; what is left out changes no figure. */
function weightiest(weighing: Weighing): Candidate[] {
  const most = heaviest(weighing.trials).logWeight;
  return weighing.trials
    .filter((one) => one.logWeight > most - 7)
    .sort((one, other) => other.logWeight - one.logWeight)
    .slice(0, MOST_AVERAGED)
    .map((one) => weighing.solve(one));
}

const rootMeanSquare = (values: Float64Array): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / values.length);

function mixtureHalfWidth(candidates: Candidate[], shares: number[], mean: number): number {
  const heavy = candidates.flatMap(({ coefficients, finalSd }, k) => {
    const share = shares[k] ?? 0;
    return share < 1e-4 ? [] : [{ share, centre: (coefficients[0] ?? 0) - mean, spread: Math.max(finalSd, 1e-9) }];
  });
  const inside = (half: number): number => {
    let sum = 0;
    for (const { share, centre, spread } of heavy)
      sum += share * (normalShare((half - centre) / spread) - normalShare((-half - centre) / spread));
    return sum;
  };
  let low = 0;
  let high = 1;
  while (inside(high) < 0.95 && high < 1000) high *= 2;
  for (let round = 0; round < 16; round++) {
    const middle = (low + high) / 2;
    if (inside(middle) < 0.95) low = middle;
    else high = middle;
  }
  return high;
}

/**
 * Lets the time constants of a curve's fast and main part move freely from the grid point; what slower parts, the room and a drive that
 * wanders add to it is taken off before.
 */
function refine(
  lines: Lines,
  sd: Float64Array,
  from: Candidate,
): { curve: HeatingCurve["best"]; residuals: Float64Array } {
  const { tS, shift } = lines;
  const count = from.tausS.findIndex((tau) => tau > from.main);
  const kept = count < 0 ? from.tausS : from.tausS.slice(0, count);
  const data = lines.data(from.main).slice();
  from.tausS.forEach((tau, k) => {
    const share = nth(from.coefficients, k + 1);
    const part = lines.part(tau);
    const free = k < kept.length;
    for (let i = 0; i < data.length; i++)
      data[i] = (data[i] ?? 0) - share * ((part[i] ?? 0) + (free ? Math.exp(-(tS[i] ?? 0) / tau) : 0));
  });
  if (lines.beside) {
    const weight = last(from.coefficients);
    const { line } = lines.beside;
    for (let i = 0; i < data.length; i++) data[i] = (data[i] ?? 0) - weight * (line[i] ?? 0);
  }
  const start = [nth(from.coefficients, 0)];
  kept.forEach((tau, k) => {
    start.push(nth(from.coefficients, k + 1), Math.log(tau));
  });
  const fit = leastSquares(heatingModel, tS, data, start, sd, 1e-5);
  const sound =
    fit.converged &&
    kept.every((_, k) => {
      const tau = Math.exp(nth(fit.parameters, 2 + 2 * k));
      return tau > 0.3 && tau < 7200 && Math.abs(nth(fit.parameters, 1 + 2 * k)) < 200;
    });
  const parameters = sound ? fit.parameters : Float64Array.from(start);
  const slope = new Float64Array(parameters.length);
  return {
    curve: {
      final: nth(parameters, 0) + shift,
      terms: kept.map((_, k) => ({
        amplitude: nth(parameters, 1 + 2 * k),
        tauS: Math.exp(nth(parameters, 2 + 2 * k)),
      })),
    },
    residuals: data.map((value, i) => value - heatingModel(tS[i] as number, parameters, slope)),
  };
}

/** y = p0 − Σ p(2k+1) · e^(−t/e^p(2k+2)), with its derivatives. */
function heatingModel(t: number, p: Float64Array, slope: Float64Array): number {
  let value = p[0] as number;
  slope[0] = 1;
  for (let k = 1; k < p.length; k += 2) {
    const tau = Math.exp(p[k + 1] as number);
    const decay = Math.exp(-t / tau);
    value -= (p[k] as number) * decay;
    slope[k] = -decay;
    slope[k + 1] = -(p[k] as number) * decay * (t / tau);
  }
  return value;
}
