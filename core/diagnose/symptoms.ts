import { channel, meanOf, type RunTable, type TemperatureRole } from "../runfile/index.ts";
import { type Analysis, levelOf, resolutionOf, rowAt, temperatureOf } from "../soak/index.ts";
import { type StepAnswer, stepAnswer } from "./step.ts";

/** One figure of a run with its standard uncertainty. */
export interface Measured {
  value: number;
  sd: number;
}

/**
 * What a log says about a card's health, at this run's own conditions. A symptom the log can't give is undefined.
 * Rises are in K at `powerW`.
 */
export interface Symptoms {
  /** Power of the steady part, W. */
  powerW: number | undefined;
  fanRpm: number | undefined;
  fanPct: number | undefined;
  /** Jump through die and compound. */
  fastK: Measured | undefined;
  step: StepAnswer | undefined;
  /** The rest of the edge's rise: plate, fins, air. */
  slowK: Measured | undefined;
  edgeRiseK: number | undefined;
  gapK: Measured | undefined;
  /** Memory and VRM over the cold plate. */
  memoryK: Measured | undefined;
  vrmK: Measured | undefined;
  /** Sensors that the log has but that were too far from settled to say anything. */
  guessed?: Array<"memory" | "vrm"> | undefined;
  /** ln of the slowest fan's speed over the fastest one's. */
  twinLn: Measured | undefined;
  fansRpm: number[];
  /** ln of speed over duty, rpm per %. */
  rpmPerPctLn: Measured | undefined;
  roomC: Measured | undefined;
  throttled: boolean;
  /** Display step of the edge's sensor, K, and sampling interval, s. */
  stepK: number;
  intervalS: number;
}

const U95 = 1.96;
const LEAST_FAN_PCT = 18;
/** A settling value with a wider half-width is a guess, K. */
const GUESSED_K = 4;

/** Reads the symptoms off a judged run. `table` must be the one that `analysis` came from. */
export function symptomsOf(table: RunTable, analysis: Analysis): Symptoms {
  const loads = mergeLoads(analysis);
  const edge = temperatureOf(analysis, "edge") ?? temperatureOf(analysis, "hotspot");
  const leadRole = temperatureOf(analysis, "edge") ? "edge" : "hotspot";
  const powerW = levelOf(analysis, "power")?.mean ?? undefined;
  const edgeC = channel(table, leadRole);
  const stepK = edgeC ? resolutionOf(edgeC) : 1;
  const step = edgeC && stepAnswer({ timeS: table.timeS, edgeC, powerW: channel(table, "power") }, loads, stepK);
  const fastK = step && powerW ? { value: step.kPerW * powerW, sd: step.sd * powerW } : undefined;
  const final = (role: TemperatureRole): Measured | undefined => {
    const found = temperatureOf(analysis, role);
    if (!found || found.finalC === null) return undefined;
    return { value: found.finalC, sd: Math.hypot((found.finalU95K ?? 1) / U95, 0.2) };
  };
  const die = edge && final(leadRole);
  const room = analysis.ambient;
  const rise = die && room ? { value: die.value - room.valueC, sd: Math.hypot(die.sd, room.u95K / U95) } : undefined;
  // Part of a slow, large jump is lost in what the plate does meanwhile (seen on simulated cards of known compound).
  const plate = die &&
    fastK && { value: die.value - fastK.value, sd: Math.hypot(die.sd, fastK.sd, lostK(fastK.value)) };
  const isGuessed = (role: TemperatureRole): boolean => (temperatureOf(analysis, role)?.finalU95K ?? 0) > GUESSED_K;
  const overPlate = (role: TemperatureRole): Measured | undefined => {
    const found = final(role);
    if (isGuessed(role)) return undefined;
    return found && plate && { value: found.value - plate.value, sd: Math.hypot(found.sd, plate.sd) };
  };
  const gap = analysis.hotspotGapK;
  const fans = fansUnderLoad(table, loads);
  const fanRpm = levelOf(analysis, "fanRpm")?.mean ?? undefined;
  const fanPct = levelOf(analysis, "fanPct")?.mean ?? undefined;
  return {
    powerW,
    fanRpm,
    fanPct,
    fastK,
    step,
    slowK: rise && fastK && { value: rise.value - fastK.value, sd: Math.hypot(rise.sd, fastK.sd) },
    edgeRiseK: rise?.value,
    gapK: leadRole === "edge" && gap ? { value: gap.mean, sd: Math.hypot(gap.u95 / U95, 0.3) } : undefined,
    memoryK: overPlate("memory"),
    vrmK: overPlate("vrm"),
    guessed: (["memory", "vrm"] as const).filter(isGuessed),
    twinLn: twin(fans),
    fansRpm: fans,
    rpmPerPctLn:
      fanRpm !== undefined && fanPct !== undefined && fanPct > LEAST_FAN_PCT
        ? { value: Math.log(Math.max(1, fanRpm) / fanPct), sd: 0.02 }
        : undefined,
    roomC: room ? { value: room.valueC, sd: room.u95K / U95 } : undefined,
    throttled: analysis.throttling.detected,
    stepK,
    intervalS: analysis.intervalS,
  };
}

const lostK = (fastK: number): number => 0.05 * fastK + 0.2 * Math.max(0, fastK - 9);

/** Loads in order: warm-up and steady phases that touch are one. */
function mergeLoads(analysis: Analysis): Array<{ fromS: number; toS: number }> {
  const loads: Array<{ fromS: number; toS: number }> = [];
  for (const { kind, fromS, toS } of analysis.phases) {
    if (kind !== "warmup" && kind !== "steady") continue;
    const last = loads.at(-1);
    if (last && fromS - last.toS < 0.5) last.toS = toS;
    else loads.push({ fromS, toS });
  }
  return loads;
}

/** Mean speed of each fan over the last third of the last load, rpm. */
function fansUnderLoad(table: RunTable, loads: ReadonlyArray<{ fromS: number; toS: number }>): number[] {
  const last = loads.at(-1);
  if (!last) return [];
  const from = rowAt(table.timeS, last.toS - (last.toS - last.fromS) / 3);
  const to = rowAt(table.timeS, last.toS);
  return table.columns.flatMap((column) => {
    if (column.role !== "fanRpm") return [];
    const speed = meanOf(column.values.subarray(from, to));
    return Number.isNaN(speed) ? [] : [speed];
  });
}

function twin(fans: readonly number[]): Measured | undefined {
  if (fans.length < 2) return undefined;
  const fastest = Math.max(...fans);
  if (fastest < 200) return undefined;
  return { value: Math.log(Math.max(1, Math.min(...fans)) / fastest), sd: 0.01 };
}
