import { median, quantile } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";
import { countCycles, turningPoints } from "./rainflow.ts";

/** One run's temperatures with single-sample spikes left out (NaN). */
export interface TemperatureSeries {
  values: Float64Array;
  /** From its first row to its last, s. */
  durationS: number;
  /** Step of the display, K; 0 where there is none. */
  stepK: number;
}

export interface CycleCount {
  rangeK: number;
  /** Mean temperature of the cycles of this range, weighed by their count. */
  meanC: number;
  count: number;
}

export interface Ageing {
  /** By range, the smallest first. */
  cycles: CycleCount[];
  hours: number;
  cyclesPerHour: number;
  /** Σ count × (range / reference)^exponent. */
  equivalentCycles: number;
  referenceRangeK: number;
  exponent: number;
}

export interface AgeingOptions {
  referenceRangeK?: number | undefined;
  exponent?: number | undefined;
}

/** Turns by less than so many display steps, or standard deviations of the sensor's noise, are none. */
const LEAST_STEPS = 3;
const LEAST_SD = 8;
/** Of fewer samples nobody can tell noise from what happened. */
const LEAST_FOR_NOISE = 60;
const WINDOW = 30;
/** Ranges are told apart to this, K. */
const GRAIN_K = 0.001;

/**
 * Thermal cycles of several runs, each counted on its own, and what they are worth in cycles of one range.
 * @throws Problem `bad-option` for a reference or exponent that is none
 */
export function ageing(runs: readonly TemperatureSeries[], options: AgeingOptions = {}): Ageing {
  const { referenceRangeK = 40, exponent = 2 } = options;
  if (!(referenceRangeK > 0)) throw bad("reference", "above 0 K");
  if (!(exponent >= 0 && exponent <= 20)) throw bad("exponent", "between 0 and 20");
  const found = new Map<number, { rangeK: number; sumC: number; count: number }>();
  for (const run of runs)
    for (const { range, mean, count } of cyclesOf(run)) {
      const key = Math.round(range / GRAIN_K);
      const one = found.get(key) ?? { rangeK: key * GRAIN_K, sumC: 0, count: 0 };
      found.set(key, { ...one, sumC: one.sumC + mean * count, count: one.count + count });
    }
  const cycles = [...found.values()]
    .map(({ rangeK, sumC, count }) => ({ rangeK, meanC: sumC / count, count }))
    .toSorted((a, b) => a.rangeK - b.rangeK);
  const hours = runs.reduce((sum, { durationS }) => sum + durationS, 0) / 3600;
  const count = cycles.reduce((sum, one) => sum + one.count, 0);
  return {
    cycles,
    hours,
    cyclesPerHour: hours > 0 ? count / hours : 0,
    equivalentCycles: cycles.reduce((sum, one) => sum + one.count * (one.rangeK / referenceRangeK) ** exponent, 0),
    referenceRangeK,
    exponent,
  };
}

function cyclesOf({ values, stepK }: TemperatureSeries): ReturnType<typeof countCycles> {
  const known = values.filter((value) => !Number.isNaN(value));
  const noise = noiseOf(known);
  const least = Math.max(LEAST_STEPS * stepK, LEAST_SD * noise);
  // A plateau's highest sample is noise: a median of five leaves levels and slopes as they are.
  const level = noise > stepK / 2 ? medianOfFive(known) : known;
  return countCycles(turningPoints(level, least * (1 - 1e-9)));
}

/**
 * Standard deviation of a sensor's noise: of second differences in the quieter stretches, where nothing happens but noise.
 * @returns 0 for a list too short to tell
 */
function noiseOf(values: Float64Array): number {
  if (values.length < LEAST_FOR_NOISE) return 0;
  const spreads: number[] = [];
  const stride = Math.max(1, Math.floor(values.length / WINDOW / 2000)) * WINDOW;
  for (let from = 0; from + WINDOW <= values.length; from += stride) {
    let sum = 0;
    for (let at = from + 1; at < from + WINDOW - 1; at++)
      sum += ((values[at - 1] as number) - 2 * (values[at] as number) + (values[at + 1] as number)) ** 2;
    spreads.push(Math.sqrt(sum / (WINDOW - 2) / 6));
  }
  return quantile(spreads, 0.25);
}

const medianOfFive = (values: Float64Array): Float64Array =>
  values.map((value, at) => (at < 2 || at > values.length - 3 ? value : median([...values.subarray(at - 2, at + 3)])));

const bad = (name: string, range: string): Problem =>
  new Problem({ code: "bad-option", what: `The ${name} is no usable number.`, remedy: `Give a number ${range}.` });
