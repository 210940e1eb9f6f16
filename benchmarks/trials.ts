/** Simulated runs whose truth is known: how often do the intervals hold it? Shared by the bench and its smaller test. */
import { compare } from "#core/compare/index.ts";
import { CAUSES, type Cause, diagnoseSymptoms, type Symptoms, symptomsOf } from "#core/diagnose/index.ts";
import { seeded } from "#core/random/index.ts";
import { type RunTable, readRun } from "#core/runfile/index.ts";
import { type Analysis, analyse, lookAhead, type Outlook, PROMISED_K } from "#core/soak/index.ts";
import {
  type CardFaults,
  logText,
  type RunSpec,
  randomBuild,
  settledRises,
  simulate,
} from "#core/virtualcard/index.ts";
import { fieldRun } from "../core/soak/tests/field-card.ts";

/** A sound computation fails a sample of seeds no more often than this. */
const FALSE_ALARM = 0.02;

/**
 * How many of a sample may miss before a share is no longer believed: the least k with P(more than k) ≤ `FALSE_ALARM` by the binomial law.
 * @param count trials in the sample
 * @param share of trials that hit when all is as it should be
 */
export function missesAllowed(count: number, share: number): number {
  let chance = share ** count;
  let sum = chance;
  let k = 0;
  while (1 - sum > FALSE_ALARM) {
    chance *= ((count - k) / (k + 1)) * ((1 - share) / share);
    sum += chance;
    k++;
  }
  return k;
}

export interface RiseTrials {
  steady: number;
  covered: number;
  unsettled: number;
  finalsCovered: number;
  halfWidths: number[];
}

const ROOM_SD_K = 0.6 / 1.96;

function randomSpec(seed: number, minutes: [number, number] = [16, 40]): RunSpec {
  const random = seeded(seed);
  return {
    seed,
    build: randomBuild(random),
    faults: { dryPaste: random.uniform() * 0.8, dust: random.uniform() * 0.6 },
    bench: {
      roomC: random.between(18, 28),
      roomDriftKPerH: random.between(-1.5, 1.5),
      fan: random.uniform() < 0.7 ? random.between(50, 75) : "automatic",
    },
    sensors: {
      stepK: random.uniform() < 0.6 ? 1 : 0.1,
      noiseK: random.between(0.1, 0.5),
      intervalS: random.pick([1, 1, 2]),
      spikeChance: random.uniform() < 0.2 ? 0.002 : 0,
      room: { stepK: 0.1, noiseK: 0.05, biasK: ROOM_SD_K * random.normal() },
    },
    steps: [
      { durationS: random.between(20, 90), load: 0 },
      { durationS: 60 * random.between(...minutes), load: 1 },
      { durationS: random.between(0, 120), load: 0 },
    ],
  };
}

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const tableOf = (spec: RunSpec) => readRun([bytes(logText(simulate(spec)))]);
const analyseSpec = (spec: RunSpec): Analysis => analyse(tableOf(spec));

/** Counts in how many runs the 95 % interval of the edge's rise (and of the predicted settling value) holds the truth. */
export function riseTrials(count: number, firstSeed: number, minutes?: [number, number]): RiseTrials {
  const result: RiseTrials = { steady: 0, covered: 0, unsettled: 0, finalsCovered: 0, halfWidths: [] };
  for (let k = 0; k < count; k++) {
    const spec = randomSpec(firstSeed + k, minutes);
    const truth = settledRises(spec);
    const found = analyseSpec(spec);
    const edge = found.roles.edge;
    if (!edge || !("finalC" in edge) || !found.ambient || edge.finalC === null || edge.finalU95K === null) continue;
    const error = Math.abs(edge.finalC - found.ambient.valueC - truth.edgeK);
    if (found.steady.reached && edge.riseK !== null && edge.riseU95K !== null) {
      result.steady++;
      if (Math.abs(edge.riseK - truth.edgeK) <= edge.riseU95K) result.covered++;
      result.halfWidths.push(edge.riseU95K);
    } else {
      result.unsettled++;
      if (error <= Math.hypot(edge.finalU95K, 0.6)) result.finalsCovered++;
      result.halfWidths.push(edge.finalU95K);
    }
  }
  return result;
}

export interface FieldTrials {
  /** Settling values of edge, hotspot and memory that were predicted, and how many intervals held. */
  predicted: number;
  held: number;
  /** Runs called steady, and in how many of them the die had less than a kelvin to go. */
  steady: number;
  atRest: number;
  halfWidths: number[];
}

/** Runs of the second generator, heat in cells, ended after `minutes` of load: do the intervals hold what they would have come to? */
export function fieldTrials(count: number, firstSeed: number, minutes: [number, number]): FieldTrials {
  const result: FieldTrials = { predicted: 0, held: 0, steady: 0, atRest: 0, halfWidths: [] };
  for (let k = 0; k < count; k++) {
    const loadS = Math.round(60 * seeded(firstSeed + k).between(...minutes));
    const run = fieldRun({ seed: firstSeed + k, loadS });
    const found = analyse(readRun([bytes(run.text)]));
    for (const [role, truth] of [
      ["edge", run.settled.edgeC],
      ["hotspot", run.settled.hotspotC],
      ["memory", run.settled.memoryC],
    ] as const) {
      const one = found.roles[role];
      if (!one || one.finalC === null || one.finalU95K === null) continue;
      result.predicted++;
      if (Math.abs(one.finalC - truth) <= one.finalU95K) result.held++;
      if (role === "edge") result.halfWidths.push(one.finalU95K);
    }
    if (!found.steady.reached) continue;
    result.steady++;
    if (Math.abs(run.settled.edgeC - run.atEnd.edgeC) <= 1) result.atRest++;
  }
  return result;
}

export interface PairTrials {
  pairs: number;
  better: number;
  worse: number;
  noChange: number;
}

/** Scatter the simulated pairs have, and which the comparison is told: a careful bench, one standard deviation each. */
export const CAREFUL = { scatterMountK: 0.35, scatterRunK: 0.3 };

/**
 * Simulated services whose true change is known: the cooling is made better by `trueChangeK` at the before run's conditions,
 * then mounting and run scatter are added; room, fan and power limit differ between the two runs.
 */
export function pairTrials(count: number, firstSeed: number, trueChangeK: number): PairTrials {
  const result: PairTrials = { pairs: 0, better: 0, worse: 0, noChange: 0 };
  for (let k = 0; k < count; k++) {
    const random = seeded(firstSeed + k);
    const before = randomSpec(firstSeed + k);
    before.bench = { ...before.bench, fan: random.between(52, 70) };
    const scattered = (changeK: number): RunSpec => {
      const rise = settledRises(before);
      const wanted = changeK + CAREFUL.scatterMountK * random.normal() + CAREFUL.scatterRunK * random.normal();
      return {
        ...before,
        build: { ...before.build, pasteKPerW: before.build.pasteKPerW * bySlope(before, wanted, rise.edgeK) },
      };
    };
    const first = { ...scattered(0), seed: firstSeed + 7000 + k };
    const second = scattered(trueChangeK);
    second.seed = firstSeed + 9000 + k;
    second.bench = {
      ...before.bench,
      fan: Number(before.bench?.fan) + random.between(-4, 4),
      powerPct: 100 + random.between(-3, 3),
      roomC: (before.bench?.roomC ?? 22) + random.between(-3, 3),
      roomDriftKPerH: random.between(-1, 1),
    };
    const { verdict } = compare(analyseSpec(first), analyseSpec(second), CAREFUL);
    result.pairs++;
    if (verdict === "better") result.better++;
    else if (verdict === "worse") result.worse++;
    else if (verdict === "no-real-change") result.noChange++;
  }
  return result;
}

/** Factor on the compound's resistance that moves the edge by `changeK`; the rise is linear in it. */
function bySlope(spec: RunSpec, changeK: number, edgeK: number): number {
  const trial = { ...spec, build: { ...spec.build, pasteKPerW: spec.build.pasteKPerW * 1.2 } };
  const slope = (settledRises(trial).edgeK - edgeK) / 0.2;
  return Math.max(0.02, 1 + changeK / slope);
}

export interface DiagnoseTrials {
  cards: number;
  right: number;
  /** Findings by probability given, in tenths: how many there were and how many were true. */
  tenths: Array<{ given: number; count: number; right: number }>;
  /** Wrong answers as true cause and answer. */
  missed: Array<[Cause, Cause]>;
}

/** A fault of one cause at a severity from 0 (just worth naming) to 1 (as bad as benches see it). */
function faultOf(cause: Cause, severity: number, bare: boolean): Partial<CardFaults> {
  switch (cause) {
    case "dry-paste":
      return { dryPaste: 0.25 + 0.75 * severity };
    case "dust-or-airflow":
      return { dust: 0.3 + 0.7 * severity };
    case "memory-pads":
      return { memoryPads: bare ? "missing" : "thin" };
    case "vrm-pads":
      return { vrmPads: bare ? "missing" : "thin" };
    case "cooler-held-off":
      return { heldOffMm: 0.07 + 0.23 * severity };
    case "fan-fault":
      return { weakFan: 0.2 + 0.8 * severity };
    default:
      return {};
  }
}

/**
 * Simulated cards whose fault is known, over all causes, with random severity, conditions and sensors.
 * @param withHealthy the card's own healthy run, at other conditions and mounted anew, is given too
 */
export function diagnoseTrials(count: number, firstSeed: number, withHealthy: boolean): DiagnoseTrials {
  const result: DiagnoseTrials = {
    cards: 0,
    right: 0,
    tenths: Array.from({ length: 10 }, (_, k) => ({ given: k / 10, count: 0, right: 0 })),
    missed: [],
  };
  for (let k = 0; k < count; k++) {
    const random = seeded(firstSeed + k);
    const cause = CAUSES[k % CAUSES.length] ?? "healthy";
    const spec = randomSpec(firstSeed + k, [10, 25]);
    spec.build = {
      ...spec.build,
      hasHotspot: random.uniform() < 0.9,
      hasMemorySensor: cause === "memory-pads" || random.uniform() < 0.8,
    };
    spec.faults = faultOf(cause, random.uniform(), random.uniform() < 0.5);
    spec.bench = { ...spec.bench, roomC: cause === "hot-room" ? random.between(30, 38) : random.between(18, 27) };
    const mounted = (value: number): number => value * (1 + 0.05 * random.normal());
    const reference: RunSpec = {
      ...randomSpec(firstSeed + k + 50_000, [12, 25]),
      build: { ...spec.build, pasteKPerW: mounted(spec.build.pasteKPerW), gapKPerW: mounted(spec.build.gapKPerW) },
      faults: {},
    };
    const { findings } = diagnoseSymptoms(
      symptomsOfSpec(spec),
      withHealthy ? { healthy: [symptomsOfSpec(reference)] } : {},
    );
    result.cards++;
    const [top] = findings;
    if (top?.cause === cause) result.right++;
    else if (top) result.missed.push([cause, top.cause]);
    for (const finding of findings) {
      const tenth = result.tenths[Math.min(9, Math.floor(finding.probability * 10))];
      if (!tenth) continue;
      tenth.count++;
      if (finding.cause === cause) tenth.right++;
    }
  }
  return result;
}

/** The same cards are judged with and without a healthy run. */
const SYMPTOMS = new Map<string, Symptoms>();

function symptomsOfSpec(spec: RunSpec): Symptoms {
  const key = JSON.stringify(spec);
  const known = SYMPTOMS.get(key);
  if (known) return known;
  const table = tableOf(spec);
  const made = symptomsOf(table, analyse(table));
  SYMPTOMS.set(key, made);
  return made;
}

export interface EarlyStopTrials {
  runs: number;
  stopped: number;
  /** Of those stopped: how many had the edge's settling rise within the promised half-width. */
  held: number;
  /** Load time at the stop, minutes; 25 where the rule never let go. */
  minutes: number[];
}

const FULL_SOAK_MINUTES = 25;

/** A log of 25 minutes under load after a minute of idle, and the edge's settled rise. */
type FullSoak = (seed: number) => { table: RunTable; edgeK: number };

const IDLE_S = 60;

/** By the virtual card. */
export const simulatedSoak: FullSoak = (seed) => {
  const spec = randomSpec(seed);
  spec.steps = [
    { durationS: IDLE_S, load: 0 },
    { durationS: 60 * FULL_SOAK_MINUTES, load: 1 },
  ];
  spec.sensors = { ...spec.sensors, room: { stepK: 0.1, noiseK: 0.05, biasK: 0 } };
  return { table: tableOf(spec), edgeK: settledRises(spec).edgeK };
};

/** By the second generator, at a fixed fan. */
export const fieldSoak: FullSoak = (seed) => {
  const run = fieldRun({ seed, idleS: IDLE_S, loadS: 60 * FULL_SOAK_MINUTES, fan: "fixed" });
  return { table: readRun([bytes(run.text)]), edgeK: run.settled.edgeC - run.roomAtEndC };
};

/** Runs of 25 minutes watched every half minute; each is stopped when the rule says so. */
export function earlyStopTrials(count: number, firstSeed: number, soak: FullSoak): EarlyStopTrials {
  const result: EarlyStopTrials = { runs: 0, stopped: 0, held: 0, minutes: [] };
  for (let k = 0; k < count; k++) {
    const { table, edgeK } = soak(firstSeed + k);
    let before: Outlook | undefined;
    let minutes = FULL_SOAK_MINUTES;
    for (let loadS = 240; loadS <= 60 * FULL_SOAK_MINUTES; loadS += 30) {
      const now = lookAhead(upTo(table, IDLE_S + loadS), loadS, before);
      before = now;
      if (!now.known) continue;
      minutes = loadS / 60;
      result.stopped++;
      const rise = (now.settles.edge?.finalC ?? Number.NaN) - (now.ambientC ?? Number.NaN);
      if (Math.abs(rise - edgeK) <= PROMISED_K) result.held++;
      break;
    }
    result.runs++;
    result.minutes.push(minutes);
  }
  result.minutes.sort((a, b) => a - b);
  return result;
}

function upTo(table: RunTable, toS: number): RunTable {
  const rows = table.timeS.findIndex((time) => time > toS);
  const cut = rows < 0 ? table.rows : rows;
  return {
    ...table,
    rows: cut,
    timeS: table.timeS.slice(0, cut),
    columns: table.columns.map((column) => ({ ...column, values: column.values.slice(0, cut) })),
  };
}
