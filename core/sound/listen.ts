import { bladePassHz } from "../fans/index.ts";
import { nth, squaredLines } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";
import { aWeightingDb } from "./a-weighting.ts";
import { type Spectrum, spectrumOf } from "./spectrum.ts";

export interface SoundFindings {
  /** A-weighted level relative to full scale, dB; add the calibration to get dBA. */
  levelDbFs: number;
  /** Levels in third-octave bands, dB relative to full scale, unweighted. */
  bands: Array<{ hz: number; levelDbFs: number }>;
  /** Clipped samples make a level too low. */
  clippedShare: number;
  bladePass: { expectedHz: number; foundHz: number | null; aboveDb: number } | null;
  /** A tick once per turn; `odds` is how often chance alone would look like that. */
  tick: { found: boolean; perMinute: number; score: number; odds: number } | null;
  spectrum: Spectrum;
}

export interface FanHint {
  rpm: number;
  blades: number | null;
}

const LOWEST_HZ = 20;
const HIGHEST_HZ = 16_000;
const SEARCH = 0.04;
const LEAST_ABOVE_DB = 4;
const LEAST_S = 2;

/**
 * Level, bands, blade-pass line and tick of a recording.
 * @param samples −1…1, mono
 * @throws Problem `too-short` below two seconds, `silent` when nothing was recorded
 */
export function listen(samples: Float32Array, rateHz: number, fan: FanHint | null): SoundFindings {
  if (samples.length < LEAST_S * rateHz)
    throw new Problem({
      code: "too-short",
      what: "The recording is shorter than two seconds.",
      remedy: "Record ten seconds or more at a steady fan.",
    });
  let clipped = 0;
  let loudest = 0;
  for (const value of samples) {
    const size = Math.abs(value);
    if (size >= 0.999) clipped++;
    if (size > loudest) loudest = size;
  }
  if (loudest < 1e-6)
    throw new Problem({
      code: "silent",
      what: "The recording is silent.",
      remedy: "Check the microphone and its level.",
    });
  const spectrum = spectrumOf(samples, rateHz);
  return {
    levelDbFs: weightedLevel(spectrum),
    bands: thirdOctaves(spectrum),
    clippedShare: clipped / samples.length,
    bladePass: fan?.blades ? findBladePass(spectrum, bladePassHz(fan.blades, fan.rpm)) : null,
    tick: fan ? findTick(samples, rateHz, fan.rpm) : null,
    spectrum,
  };
}

function weightedLevel({ stepHz, power }: Spectrum): number {
  let sum = 0;
  for (let line = 1; line < power.length; line++) {
    const hz = line * stepHz;
    if (hz >= LOWEST_HZ) sum += nth(power, line) * 10 ** (aWeightingDb(hz) / 10);
  }
  return 10 * Math.log10(Math.max(sum, 1e-20));
}

/** Bands of a third of an octave, centres 1000·10^(n/10) Hz (IEC 61260-1, base ten, from memory). */
function thirdOctaves({ stepHz, power }: Spectrum): SoundFindings["bands"] {
  const bands: SoundFindings["bands"] = [];
  for (let n = -13; n <= 12; n++) {
    const hz = 1000 * 10 ** (n / 10);
    const from = Math.max(1, Math.round((hz * 10 ** -0.05) / stepHz));
    const to = Math.min(power.length - 1, Math.round((hz * 10 ** 0.05) / stepHz));
    if (hz > HIGHEST_HZ || from > to) continue;
    let sum = 0;
    for (let line = from; line <= to; line++) sum += nth(power, line);
    bands.push({ hz, levelDbFs: 10 * Math.log10(Math.max(sum, 1e-20)) });
  }
  return bands;
}

/** The strongest line within 4 % of where blades times turns should be, and how far it stands above its surroundings. */
function findBladePass({ stepHz, power }: Spectrum, expectedHz: number): SoundFindings["bladePass"] {
  const from = Math.max(2, Math.floor((expectedHz * (1 - SEARCH)) / stepHz));
  const to = Math.min(power.length - 2, Math.ceil((expectedHz * (1 + SEARCH)) / stepHz));
  let best = from;
  for (let line = from; line <= to; line++) if (nth(power, line) > nth(power, best)) best = line;
  const around: number[] = [];
  for (let line = Math.max(1, best - 40); line <= Math.min(power.length - 1, best + 40); line++)
    if (Math.abs(line - best) > 3) around.push(nth(power, line));
  around.sort((a, b) => a - b);
  const floor = around[around.length >> 1] ?? 1e-20;
  const aboveDb = 10 * Math.log10(nth(power, best) / Math.max(floor, 1e-20));
  return { expectedHz, foundHz: aboveDb >= LEAST_ABOVE_DB ? best * stepHz : null, aboveDb };
}

const ENVELOPE_HZ = 1000;
const HARMONICS = 8;
/** Chance alone may call a tick this seldom. */
const FALSE_ALARM = 1e-4;

/**
 * Looks for something that happens once per turn: the energy of the high-passed sound, millisecond by millisecond, is searched for
 * a comb of eight harmonics of the turning rate within 4 %. Over noise each harmonic's power relative to its surroundings is
 * exponential, their sum Erlang-distributed, which gives the odds of chance.
 */
function findTick(samples: Float32Array, rateHz: number, rpm: number): SoundFindings["tick"] {
  const perSample = Math.max(1, Math.round(rateHz / ENVELOPE_HZ));
  const envelopeRate = rateHz / perSample;
  const length = 2 ** Math.floor(Math.log2(samples.length / perSample));
  const envelope = Array.from({ length: length }, () => 0);
  let mean = 0;
  for (let k = 0; k < length; k++) {
    let energy = 0;
    for (let at = k * perSample + 1; at < (k + 1) * perSample; at++)
      energy += (nth(samples, at) - nth(samples, at - 1)) ** 2;
    envelope[k] = Math.sqrt(energy);
    mean += nth(envelope, k) / length;
  }
  for (let k = 0; k < length; k++) envelope[k] = nth(envelope, k) - mean;
  const power = squaredLines(length)(envelope).slice(0, length / 2);
  const floor = localMean(power);
  const stepHz = envelopeRate / length;
  let best = { score: 0, hz: 0 };
  let tried = 0;
  const turn = rpm / 60;
  for (let hz = turn * (1 - SEARCH); hz <= turn * (1 + SEARCH); hz += stepHz / HARMONICS) {
    tried++;
    let score = 0;
    for (let harmonic = 1; harmonic <= HARMONICS; harmonic++) {
      const line = Math.round((harmonic * hz) / stepHz);
      if (line < power.length) score += nth(power, line) / nth(floor, line);
    }
    if (score > best.score) best = { score, hz };
  }
  const odds = Math.min(1, tried * erlangTail(HARMONICS, best.score));
  return { found: odds < FALSE_ALARM, perMinute: best.hz * 60, score: best.score, odds };
}

/** Mean over the neighbourhood, the nearest lines left out so that a line does not hide itself; the loudest tenth is cut off. */
function localMean(power: Float64Array): Float64Array {
  const wide = 60;
  const floor = new Float64Array(power.length);
  for (let centre = 0; centre < power.length; centre += 10) {
    const around: number[] = [];
    for (let k = Math.max(1, centre - wide); k < Math.min(power.length, centre + wide); k++) around.push(nth(power, k));
    around.sort((a, b) => a - b);
    // Of an exponential distribution the median is ln 2 times the mean; it does not mind a few lines.
    const level = Math.max(1e-30, nth(around, around.length >> 1) / Math.LN2);
    floor.fill(level, centre, Math.min(power.length, centre + 10));
  }
  return floor;
}

/** Chance that a sum of n unit exponentials exceeds x: e^(−x) Σ x^k/k!. */
function erlangTail(n: number, x: number): number {
  let term = 1;
  let sum = 1;
  for (let k = 1; k < n; k++) {
    term *= x / k;
    sum += term;
  }
  return Math.exp(-x) * sum;
}
