import { CARD_SENSORS, type RunTable } from "../runfile/index.ts";
import { type Analysis, temperatureOf } from "../soak/index.ts";
import { CAUSES, type Cause, nextCheck, SHOWS, SYMPTOM_KEYS, USUAL_SHARE } from "./causes.ts";
import { evidenceFor, limitsOf } from "./evidence.ts";
import { type Expected, expectedOf, type Healthy, rangeOf, symptomOf } from "./expected.ts";
import { type History, historyFactor } from "./history.ts";
import { type Opened, openedEvidence, openedFactor } from "./opened.ts";
import { type Symptoms, symptomsOf } from "./symptoms.ts";

export const DIAGNOSE_VERSION = 1;

export interface Finding {
  cause: Cause;
  probability: number;
  /** In words with figures, strongest first. */
  evidence: string[];
  /** The cheapest check that would separate this cause from the next likely one. */
  nextCheck: string;
}

export interface Diagnosis {
  /** Causes that the log can tell, most likely first; probabilities sum to 1. */
  findings: Finding[];
  symptoms: Symptoms;
  healthy: Healthy;
  /** Causes whose sensors the log lacks: nothing is said of them. */
  notJudged: Cause[];
  /** False while the run is too short to tell what shows slowly. */
  known: boolean;
  /** So many more would be enough; null where it is known, or nobody can say. */
  minutesNeeded: number | null;
  /** What this log can't tell, and why. */
  limits: string[];
  version: number;
}

export interface DiagnoseOptions {
  /** Runs known to be good, of this card or of its board model. */
  healthy?: readonly Symptoms[];
  healthySource?: Healthy["source"];
  /** Whether the run was long enough, see `reachOf`; by default it was. */
  reach?: Reach;
  /** What is known of the card besides this run. */
  history?: History | undefined;
  /** What was seen once it was opened after this run. */
  opened?: Opened | undefined;
}

export interface Reach {
  known: boolean;
  minutesNeeded: number | null;
}

const SEVERITIES = Array.from({ length: 25 }, (_, k) => (k + 0.5) / 25);
/** Below this no symptom says anything in kelvins. */
const FLOOR_K = 1.5;
/** Degrees of freedom of the tails: cards are odd more often than a normal law allows. */
const TAIL = 6;
/** A room that is the cause by itself: from about 29 °C on (common practice of the trade). */
const HOT_ROOM = { fromC: 29, toC: 42 };
/** ln of the slow fan over its twin when one is faulty: from 6 % slower to standing still. */
const FAN_FAULT_LN = [-0.07, -0.12, -0.18, -0.25, -0.35, -0.5, -0.75, -1, -2, -4, -7];
const FAN_SLOW_LN = [-0.08, -0.15, -0.25, -0.4, -0.7, -1.5, -5];

/**
 * Ranks what may be wrong with a card by Bayes' rule: each symptom's likelihood under each cause, averaged over its severity, with
 * heavy tails. Symptoms are the fast and the slow share of the step answer, the hotspot gap, memory and VRM over the plate, fan
 * speeds, room air.
 * @param run a judged run and its table, see `symptomsOf`
 * @returns the causes that the log can tell; on one that says nothing of them their usual shares
 */
export function diagnose(table: RunTable, analysis: Analysis, options: DiagnoseOptions = {}): Diagnosis {
  return diagnoseSymptoms(symptomsOf(table, analysis), { reach: reachOf(analysis), ...options });
}

/** Half-width of a settling value up to which a sensor is known well enough to judge what it shows, K. */
const KNOWN_K = { edge: 1.5, hotspot: 1.5, memory: 2.5, vrm: 2.5 } as const;

/** Whether a run went on for long enough: it settled, or where each of its sensors would settle is known. */
export function reachOf(analysis: Analysis): Reach {
  const { steady } = analysis;
  const widths = CARD_SENSORS.flatMap((role) => {
    const found = temperatureOf(analysis, role);
    return found ? [(found.finalU95K ?? Number.POSITIVE_INFINITY) <= KNOWN_K[role]] : [];
  });
  const known = steady.reached || (widths.length > 0 && widths.every(Boolean));
  return { known, minutesNeeded: known ? null : steady.minutesNeeded };
}

/** What shows slowly: of a run that is too short, none is given more than one half. */
const SLOW_CAUSES: ReadonlySet<Cause> = new Set(["dust-or-airflow", "memory-pads", "vrm-pads"]);
const MOST_UNKNOWN = 0.5;

/** Causes whose sensors are missing. */
function unseen({ memoryK, vrmK, guessed = [], twinLn, rpmPerPctLn, fansRpm, roomC }: Symptoms): Cause[] {
  const missing: Array<[Cause, boolean]> = [
    ["memory-pads", memoryK === undefined && !guessed.includes("memory")],
    ["vrm-pads", vrmK === undefined && !guessed.includes("vrm")],
    ["fan-fault", twinLn === undefined && rpmPerPctLn === undefined && fansRpm.length === 0],
    ["hot-room", roomC === undefined],
  ];
  return missing.flatMap(([cause, isMissing]) => (isMissing ? [cause] : []));
}

/** What a slow fault has beyond a half goes to nothing being wrong: the run can't tell yet. */
function held<F extends { cause: Cause; probability: number }>(ranked: readonly F[]): F[] {
  const over = ranked.reduce(
    (sum, { cause, probability }) => sum + (SLOW_CAUSES.has(cause) ? Math.max(0, probability - MOST_UNKNOWN) : 0),
    0,
  );
  return ranked
    .map((one) => {
      if (one.cause === "healthy") return { ...one, probability: one.probability + over };
      return SLOW_CAUSES.has(one.cause) ? { ...one, probability: Math.min(MOST_UNKNOWN, one.probability) } : one;
    })
    .sort((a, b) => b.probability - a.probability);
}

/** A fault that is given less is a guess. */
const WEAK = 0.4;

/**
 * A fault that is a guess and shows in nothing outside what is healthy does not come before a healthy card, unless something else than this log
 * speaks for it. What it has beyond that is shared with `healthy`.
 */
function withSupport<F extends { cause: Cause; probability: number }>(
  judged: readonly F[],
  symptoms: Symptoms,
  healthy: Healthy,
  { history, opened }: DiagnoseOptions,
): F[] {
  const isShown = ({ cause }: F): boolean => {
    const shows = SHOWS[cause](0.5);
    const keys = SYMPTOM_KEYS.filter((key) => shows[key] > 1);
    const isTold =
      (history !== undefined && historyFactor(cause, history) > 1) ||
      (opened !== undefined && openedFactor(cause, opened) > 1);
    return (
      keys.length === 0 ||
      isTold ||
      keys.some((key) => (symptomOf(symptoms, key)?.value ?? 0) > rangeOf(healthy.symptoms[key])[1])
    );
  };
  let sound = judged.find(({ cause }) => cause === "healthy")?.probability ?? 0;
  const left = judged.map((one) => {
    if (one.probability <= sound || one.probability >= WEAK || one.cause === "healthy" || isShown(one)) return one;
    const half = (one.probability + sound) / 2;
    sound = half;
    return { ...one, probability: half };
  });
  return left
    .map((one) => (one.cause === "healthy" ? { ...one, probability: sound } : one))
    .sort((a, b) => b.probability - a.probability || Number(b.cause === "healthy") - Number(a.cause === "healthy"));
}

/** `diagnose` for symptoms that were kept. */
export function diagnoseSymptoms(symptoms: Symptoms, options: DiagnoseOptions = {}): Diagnosis {
  const healthy = expectedOf(symptoms, options.healthy ?? [], options.healthySource ?? "healthy run");
  const notJudged = unseen(symptoms);
  const { known, minutesNeeded } = options.reach ?? { known: true, minutesNeeded: null };
  const scores = CAUSES.filter((cause) => !notJudged.includes(cause)).map((cause) => ({
    cause,
    log:
      Math.log(USUAL_SHARE[cause] * (options.history ? historyFactor(cause, options.history) : 1)) +
      Math.log(options.opened ? openedFactor(cause, options.opened) : 1) +
      logLikelihood(cause, symptoms, healthy),
  }));
  const most = Math.max(...scores.map(({ log }) => log));
  const total = scores.reduce((sum, { log }) => sum + Math.exp(log - most), 0);
  const judged = scores
    .map(({ cause, log }) => ({ cause, probability: Math.exp(log - most) / total }))
    .sort((a, b) => b.probability - a.probability);
  const supported = withSupport(judged, symptoms, healthy, options);
  const ranked = known ? supported : held(supported);
  const [first, second] = ranked;
  return {
    findings: ranked.map(({ cause, probability }) => ({
      cause,
      probability,
      evidence: [
        ...(options.opened ? openedEvidence(cause, options.opened) : []),
        ...evidenceFor(cause, symptoms, healthy),
      ],
      nextCheck: nextCheck(cause, cause === first?.cause ? second?.cause : first?.cause),
    })),
    notJudged,
    known,
    minutesNeeded,
    symptoms,
    healthy,
    limits: limitsOf(symptoms, healthy),
    version: DIAGNOSE_VERSION,
  };
}

function logLikelihood(cause: Cause, symptoms: Symptoms, healthy: Healthy): number {
  const byStep = SEVERITIES.map((severity) => {
    const factors = SHOWS[cause](severity);
    let sum = 0;
    for (const key of SYMPTOM_KEYS) {
      const found = symptomOf(symptoms, key);
      if (found) sum += logShape(found, healthy.symptoms[key], factors[key]);
    }
    return sum;
  });
  return logMean(byStep) + fanTerm(cause, symptoms, healthy) + roomTerm(cause, symptoms, healthy);
}

function logShape(found: { value: number; sd: number }, expected: Expected, factor: number): number {
  const value = Math.max(FLOOR_K, found.value);
  const sd = Math.hypot(expected.spread, found.sd / Math.max(value, expected.median * factor));
  return logStudent((Math.log(value) - Math.log(expected.median * factor)) / sd) - Math.log(sd);
}

function logShift(found: { value: number; sd: number }, expected: { mean: number; sd: number }, shift: number): number {
  const sd = Math.hypot(found.sd, expected.sd, 0.1 * Math.abs(shift));
  return logStudent((found.value - expected.mean - shift) / sd) - Math.log(sd);
}

function fanTerm(cause: Cause, { twinLn, rpmPerPctLn }: Symptoms, healthy: Healthy): number {
  const faulty = cause === "fan-fault";
  const sound =
    (twinLn ? logShift(twinLn, healthy.twinLn, 0) : 0) +
    (rpmPerPctLn ? logShift(rpmPerPctLn, healthy.rpmPerPctLn, 0) : 0);
  if (!faulty) return sound;
  // Either one fan lags behind its twin, or all turn too slowly for their duty.
  const lagging = twinLn
    ? logMean(
        FAN_FAULT_LN.map(
          (shift) =>
            logShift(twinLn, healthy.twinLn, shift) +
            (rpmPerPctLn ? logShift(rpmPerPctLn, healthy.rpmPerPctLn, Math.log((1 + Math.exp(shift)) / 2)) : 0),
        ),
      )
    : Number.NEGATIVE_INFINITY;
  const slow = rpmPerPctLn
    ? logMean(FAN_SLOW_LN.map((shift) => logShift(rpmPerPctLn, healthy.rpmPerPctLn, shift))) +
      (twinLn ? logShift(twinLn, healthy.twinLn, 0) : 0)
    : Number.NEGATIVE_INFINITY;
  if (!twinLn && !rpmPerPctLn) return 0;
  return twinLn ? logMean([lagging, lagging, lagging, slow]) : slow;
}

function roomTerm(cause: Cause, { roomC }: Symptoms, healthy: Healthy): number {
  if (!roomC) return 0;
  if (cause === "hot-room") {
    const rooms = Array.from({ length: 14 }, (_, k) => HOT_ROOM.fromC + k);
    const sd = Math.hypot(0.7, roomC.sd);
    return logMean(rooms.map((room) => logStudent((roomC.value - room) / sd) - Math.log(sd)));
  }
  const sd = Math.hypot(healthy.roomC.sd, roomC.sd);
  return logStudent((roomC.value - healthy.roomC.mean) / sd, 12) - Math.log(sd);
}

/** Logarithm of Student's density up to a constant that all causes share. */
const logStudent = (z: number, tail = TAIL): number => -((tail + 1) / 2) * Math.log1p((z * z) / tail);

function logMean(logs: readonly number[]): number {
  const most = Math.max(...logs);
  if (most === Number.NEGATIVE_INFINITY) return most;
  return most + Math.log(logs.reduce((sum, log) => sum + Math.exp(log - most), 0) / logs.length);
}
