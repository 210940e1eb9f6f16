import { type Notice, Problem } from "../problem/index.ts";
import { channel, isTemperatureRole, meanOf, type RunTable, type TemperatureRole } from "../runfile/index.ts";
import { binMeans, evenEdges, rowAt, wideningEdges } from "./bins.ts";
import { clean, resolutionOf } from "./clean.ts";
import { fitHeatingCurve, type HeatingCurve } from "./heating-curve.ts";
import { type BinnedRun, constantParts, findLoads, mainPart, type Stretch } from "./load.ts";
import { type MeanWithSpread, meanWithSpread } from "./mean.ts";
import { findThrottling, type Throttling } from "./throttling.ts";

/** Version of the computation; stored with derived figures so that history can be computed anew. */
export const SOAK_VERSION = 1;

export interface AnalyseOptions {
  /** Room air typed by hand, °C; overrules a column. */
  ambientC?: number | undefined;
  /** Half-width of its 95 % interval, K; by default 0.6 for a column and 1.0 typed. */
  ambientU95K?: number | undefined;
  /** A window set by hand; steady state is then taken as reached. */
  windowS?: Stretch | undefined;
}

export interface TemperatureFigures {
  meanC: number | null;
  u95K: number | null;
  maxC: number | null;
  riseK: number | null;
  riseU95K: number | null;
  thetaKPerW: number | null;
  finalC: number | null;
  finalU95K: number | null;
  budget: MeanWithSpread["budget"] | null;
  timeConstantsS: number[];
}

export interface LevelFigures {
  mean: number | null;
  u95: number | null;
}

export interface PhaseStretch extends Stretch {
  kind: "idle" | "warmup" | "steady" | "cooldown";
}

export interface Analysis {
  samples: number;
  durationS: number;
  intervalS: number;
  columns: Array<{ header: string; role: string | null; unit: string | null; sure: boolean; mean: number | null }>;
  phases: PhaseStretch[];
  ambient: { valueC: number; u95K: number; source: "column" | "option" } | null;
  steady: { reached: boolean; fromS: number | null; toS: number | null; minutesNeeded: number | null; byHand: boolean };
  roles: Partial<Record<string, TemperatureFigures | LevelFigures>>;
  probes: Array<{ header: string } & TemperatureFigures>;
  hotspotGapK: { mean: number; u95: number } | null;
  throttling: Throttling;
  spikes: number;
  notices: Notice[];
  version: number;
}

const LEVEL_ROLES = [
  "fanRpm",
  "fanPct",
  "power",
  "powerLimit",
  "coreClock",
  "memoryClock",
  "load",
  "voltage",
  "sound",
  "frameRate",
] as const;
const SINGLE_TEMPERATURES = ["edge", "hotspot", "memory", "vrm", "coolant"] as const;
const SHORTEST_WINDOW_S = 120;
/** Steady means: over the next ten minutes it would move by less than this (or 1 % of its rise). */
const STILL_K = 0.3;
const LOOK_AHEAD_S = 600;

export interface Sensor {
  key: string;
  header: string;
  values: Float64Array;
  step: number;
  spikes: number;
  curve?: HeatingCurve | undefined;
}

/** A run's columns, cleaned once, so that several windows can be judged without reading it again. */
export interface PreparedRun {
  table: RunTable;
  sensors: Sensor[];
  levels: Map<string, Float64Array>;
  roomColumn: Float64Array | undefined;
}

/** @param table from `readRun`; not changed */
export function prepareRun(table: RunTable): PreparedRun {
  const levels = new Map<string, Float64Array>();
  for (const role of LEVEL_ROLES) {
    const values = channel(table, role);
    if (values) levels.set(role, clean(values, "other").values);
  }
  const room = channel(table, "ambient");
  return { table, sensors: temperatureSensors(table), levels, roomColumn: room && clean(room, "temperature").values };
}

/** Figures of a window set by hand, quick enough to follow a drag: no curve is fitted. */
export function windowFigures(
  run: PreparedRun,
  window: Stretch,
  options: AnalyseOptions = {},
): Pick<Analysis, "roles" | "ambient" | "hotspotGapK"> {
  const { timeS } = run.table;
  const room = options.ambientC === undefined ? run.roomColumn : undefined;
  const ambient = ambientFigures(options, room, timeS, window);
  const roles: Analysis["roles"] = {};
  for (const key of run.levels.keys()) {
    const figures = levelFigures(timeS, run.levels.get(key), window);
    if (figures) roles[key] = figures;
  }
  const power = (roles.power as LevelFigures | undefined)?.mean ?? null;
  const plain = run.sensors.map((sensor) => ({ ...sensor, curve: undefined }));
  for (const sensor of plain)
    if (sensor.key !== "probe")
      roles[sensor.key as TemperatureRole] = temperatureFigures({
        sensor,
        timeS,
        window,
        part: undefined,
        ambient,
        room,
        power,
        fanDrift: 0,
      });
  return { roles, ambient, hotspotGapK: gapFigures(timeS, plain, window, window) };
}

/**
 * Judges one run: phases, steady window, means with intervals, rises, θ, the settling value, throttling.
 * @param table from `readRun`; not changed
 * @throws Problem `bad-window` when a window set by hand holds fewer than two samples
 */
export function analyse(table: RunTable, options: AnalyseOptions = {}): Analysis {
  return judgeRun(prepareRun(table), options);
}

/** `analyse` for a run that is prepared already. */
export function judgeRun(run: PreparedRun, options: AnalyseOptions = {}): Analysis {
  const { table, sensors, levels } = run;
  const { timeS } = table;
  const room = options.ambientC === undefined ? run.roomColumn : undefined;
  const binned = binAll(timeS, table.intervalS, sensors, levels);
  const loads = findLoads(binned);
  const longest = loads.reduce<Stretch | undefined>(
    (best, one) => (!best || one.toS - one.fromS > best.toS - best.fromS ? one : best),
    undefined,
  );
  const part = longest && mainPart(constantParts(binned, longest));
  if (part) for (const sensor of sensors) sensor.curve = fitSensor(timeS, sensor, room, part, table.intervalS);
  const window = options.windowS ?? (part && findWindow(sensors, room, timeS, part));
  if (options.windowS && rowAt(timeS, options.windowS.toS) - rowAt(timeS, options.windowS.fromS) < 2)
    throw new Problem({
      code: "bad-window",
      what: "The steady window holds fewer than two samples.",
      remedy: "Make it wider.",
    });
  const reference = window ?? (part && { fromS: Math.max(part.fromS, part.toS - 62), toS: part.toS - 2 });
  const ambient = ambientFigures(options, room, timeS, reference);
  const level = (key: string): LevelFigures | undefined => levelFigures(timeS, levels.get(key), reference);
  const power = level("power")?.mean ?? null;
  const fanDrift = part ? speedingUp(timeS, levels.get("fanRpm") ?? levels.get("fanPct"), part) : 0;

  const roles: Analysis["roles"] = {};
  const probes: Analysis["probes"] = [];
  for (const sensor of sensors) {
    const figures = temperatureFigures({ sensor, timeS, window, part, ambient, room, power, fanDrift });
    if (sensor.key === "probe") probes.push({ header: sensor.header, ...figures });
    else roles[sensor.key as TemperatureRole] = figures;
  }
  const [onlyProbe] = probes;
  if (onlyProbe && probes.length === 1) {
    const { header: _header, ...figures } = onlyProbe;
    roles.probe = figures;
  }
  if (ambient && run.roomColumn) roles.ambient = roomRole(run.roomColumn, timeS, window, ambient.valueC);
  for (const key of levels.keys()) {
    const figures = level(key);
    if (figures) roles[key] = figures;
  }
  return {
    samples: table.rows,
    durationS: timeS.at(-1) ?? 0,
    intervalS: table.intervalS,
    columns: table.columns.map(({ header, role, unit, sure, values }) => ({
      header,
      role,
      unit,
      sure,
      mean: role === "time" ? null : finite(meanOf(values)),
    })),
    phases: phasesOf(timeS, loads, longest, part, window, binned),
    ambient,
    steady: {
      reached: window !== undefined,
      fromS: window?.fromS ?? null,
      toS: window?.toS ?? null,
      minutesNeeded: window || !part ? null : minutesNeeded(sensors, room !== undefined, part),
      byHand: options.windowS !== undefined,
    },
    roles,
    probes,
    hotspotGapK: gapFigures(timeS, sensors, window, part),
    throttling: findThrottling(
      { ...binned, powerLimit: binnedLine(timeS, levels.get("powerLimit"), binned.edgesS) },
      longest,
    ),
    spikes: sensors.reduce((sum, sensor) => sum + sensor.spikes, 0),
    notices: [...table.notices, ...runNotices(sensors, ambient, part, table)],
    version: SOAK_VERSION,
  };
}

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

function temperatureSensors(table: RunTable): Sensor[] {
  const sensors: Sensor[] = [];
  const add = (key: string, header: string, raw: Float64Array): void => {
    const { values, spikes, dropouts } = clean(raw, "temperature");
    if (values.some((value) => !Number.isNaN(value)))
      sensors.push({ key, header, values, step: resolutionOf(values), spikes: spikes + dropouts });
  };
  for (const role of SINGLE_TEMPERATURES) {
    const values = channel(table, role);
    if (values) add(role, role, values);
  }
  for (const column of table.columns)
    if (isTemperatureRole(column.role) && column.role === "probe") add("probe", column.header, column.values);
  return sensors;
}

const binnedLine = (
  timeS: Float64Array,
  values: Float64Array | undefined,
  edgesS: Float64Array,
): Float64Array | undefined => values && binMeans(timeS, values, edgesS).mean;

function binAll(
  timeS: Float64Array,
  intervalS: number,
  sensors: Sensor[],
  levels: Map<string, Float64Array>,
): BinnedRun {
  const edgesS = evenEdges(timeS, 2400, intervalS);
  const lead = sensors.find((sensor) => sensor.key !== "coolant") ?? sensors[0];
  const line = (key: string) => binnedLine(timeS, levels.get(key), edgesS);
  return {
    edgesS,
    power: line("power"),
    load: line("load"),
    coreClock: line("coreClock"),
    fan: line("fanRpm") ?? line("fanPct"),
    temperature: lead ? binMeans(timeS, lead.values, edgesS).mean : new Float64Array(edgesS.length - 1),
  };
}

function fitSensor(
  timeS: Float64Array,
  sensor: Sensor,
  room: Float64Array | undefined,
  part: Stretch,
  intervalS: number,
): HeatingCurve | undefined {
  const edges = wideningEdges(part.fromS, part.toS, intervalS);
  const { mean, count } = binMeans(timeS, sensor.values, edges);
  const roomLine = room && smoothRoom(timeS, room, edges);
  const t: number[] = [];
  const y: number[] = [];
  const sd: number[] = [];
  const jitter = sampleNoise(sensor, timeS, part);
  mean.forEach((value, bin) => {
    const air = roomLine ? (roomLine[bin] ?? Number.NaN) : 0;
    if (Number.isNaN(value) || Number.isNaN(air)) return;
    t.push(((edges[bin] ?? 0) + (edges[bin + 1] ?? 0)) / 2 - part.fromS);
    y.push(value - air);
    sd.push(Math.hypot(0.03, jitter / Math.sqrt(Math.max(1, count[bin] ?? 1)), sensor.step * 0.289));
  });
  return fitHeatingCurve(Float64Array.from(t), Float64Array.from(y), Float64Array.from(sd));
}

/** Noise of single samples: from the differences of neighbours at the end of the part. */
function sampleNoise(sensor: Sensor, timeS: Float64Array, part: Stretch): number {
  const from = rowAt(timeS, part.toS - Math.min(300, (part.toS - part.fromS) / 2));
  const to = rowAt(timeS, part.toS);
  let sum = 0;
  let count = 0;
  for (let row = from + 1; row < to; row++) {
    const jump = (sensor.values[row] ?? Number.NaN) - (sensor.values[row - 1] ?? Number.NaN);
    if (Number.isNaN(jump)) continue;
    sum += jump * jump;
    count++;
  }
  return count === 0 ? 0.3 : Math.sqrt(sum / count / 2);
}

/** Room air changes slowly; its noise is taken out before it is subtracted. */
function smoothRoom(timeS: Float64Array, room: Float64Array, edges: Float64Array): Float64Array {
  const { mean } = binMeans(timeS, room, edges);
  const wide = 30;
  return mean.map((_, bin) => {
    let sum = 0;
    let count = 0;
    const centre = ((edges[bin] ?? 0) + (edges[bin + 1] ?? 0)) / 2;
    for (let k = 0; k < mean.length; k++) {
      const at = ((edges[k] ?? 0) + (edges[k + 1] ?? 0)) / 2;
      const value = mean[k] ?? Number.NaN;
      if (
        Number.isNaN(value) ||
        Math.abs(at - centre) > Math.max(wide, ((edges[bin + 1] ?? 0) - (edges[bin] ?? 0)) * 2)
      )
        continue;
      sum += value;
      count++;
    }
    return count === 0 ? Number.NaN : sum / count;
  });
}

function stillness(sensor: Sensor, hasRoom: boolean): number {
  const rise = Math.abs(sensor.curve?.best.final ?? 0) - (hasRoom ? 0 : 25);
  return Math.max(STILL_K, 0.01 * rise, 0.4 * sensor.step, 0.6 * (sensor.curve?.residualRms ?? 0));
}

/** When every sensor of the card will move by less than its tolerance, in seconds since the part began. */
function settledAfter(sensors: Sensor[], hasRoom: boolean, mostS: number): number {
  let latest = 0;
  for (const sensor of sensors) {
    if (!sensor.curve || sensor.key === "probe") continue;
    const tolerance = stillness(sensor, hasRoom);
    let at = 0;
    const pace = Math.max(5, mostS / 400);
    while (at < mostS && Math.abs(sensor.curve.changeBetween(at, at + LOOK_AHEAD_S)) > tolerance) at += pace;
    latest = Math.max(latest, at);
  }
  return latest;
}

function findWindow(
  sensors: Sensor[],
  room: Float64Array | undefined,
  timeS: Float64Array,
  part: Stretch,
): Stretch | undefined {
  const length = part.toS - part.fromS;
  if (!sensors.some((sensor) => sensor.curve)) return undefined;
  const settled = settledAfter(sensors, room !== undefined, length);
  const step = timeS.length > 1 ? (timeS.at(-1) ?? 0) / (timeS.length - 1) : 1;
  const toS = Math.min(part.toS - Math.max(2, 1.5 * step), timeS.at(-1) ?? part.toS);
  const fromS = part.fromS + settled;
  if (toS - fromS < Math.min(SHORTEST_WINDOW_S, 0.5 * length)) return undefined;
  return { fromS: Math.round(fromS), toS: Math.round(toS * 1000) / 1000 };
}

function minutesNeeded(sensors: Sensor[], hasRoom: boolean, part: Stretch): number | null {
  if (!sensors.some((sensor) => sensor.curve)) return null;
  const whole = settledAfter(sensors, hasRoom, 7200) + SHORTEST_WINDOW_S;
  return Math.max(1, Math.ceil((whole - (part.toS - part.fromS)) / 60));
}

function ambientFigures(
  options: AnalyseOptions,
  room: Float64Array | undefined,
  timeS: Float64Array,
  window: Stretch | undefined,
): Analysis["ambient"] {
  if (options.ambientC !== undefined)
    return { valueC: options.ambientC, u95K: options.ambientU95K ?? 1, source: "option" };
  if (!room) return null;
  const inside = window ? meanOf(slice(timeS, room, window)) : Number.NaN;
  const value = Number.isNaN(inside) ? meanOf(room) : inside;
  return Number.isNaN(value) ? null : { valueC: value, u95K: options.ambientU95K ?? 0.6, source: "column" };
}

function slice(timeS: Float64Array, values: Float64Array, window: Stretch): Float64Array {
  return values.subarray(
    rowAt(timeS, window.fromS),
    rowAt(timeS, window.toS + 1e-9) + (window.toS >= (timeS.at(-1) ?? 0) ? 1 : 0),
  );
}

function levelFigures(
  timeS: Float64Array,
  values: Float64Array | undefined,
  window: Stretch | undefined,
): LevelFigures | undefined {
  if (!values) return undefined;
  const part = window ? slice(timeS, values, window) : values;
  const found = meanWithSpread(part, resolutionOf(part));
  return { mean: found?.mean ?? null, u95: found?.u95 ?? null };
}

/** How much the fan still gained over the last fifth of the part, as a share of its speed. */
function speedingUp(timeS: Float64Array, fan: Float64Array | undefined, part: Stretch): number {
  if (!fan) return 0;
  const span = Math.min(240, (part.toS - part.fromS) / 3);
  const early = meanOf(slice(timeS, fan, { fromS: part.toS - span, toS: part.toS - span * 0.7 }));
  const late = meanOf(slice(timeS, fan, { fromS: part.toS - span * 0.3, toS: part.toS }));
  return late > 0 && early > 0 ? Math.abs(Math.log(late / early)) : 0;
}

interface FigureInput {
  sensor: Sensor;
  timeS: Float64Array;
  window: Stretch | undefined;
  part: Stretch | undefined;
  ambient: Analysis["ambient"];
  room: Float64Array | undefined;
  power: number | null;
  fanDrift: number;
}

/** Share of a change of fan speed that shows in the rise (convective share 0.7 × exponent 0.65, see `compare`). */
const FAN_SHARE = 0.45;

function temperatureFigures(input: FigureInput): TemperatureFigures {
  const { sensor, timeS, window, part, ambient, room, power } = input;
  let most = Number.NEGATIVE_INFINITY;
  for (const value of sensor.values) if (value > most) most = value;
  const found = window && meanWithSpread(slice(timeS, sensor.values, window), sensor.step);
  const airNow =
    part && room
      ? meanOf(slice(timeS, room, { fromS: Math.max(part.fromS, part.toS - 60), toS: part.toS }))
      : Number.NaN;
  const curve = sensor.curve;
  const timeConstantsS = curve ? curve.best.terms.map((term) => term.tauS) : [];
  const base = { maxC: finite(most), budget: found?.budget ?? null, timeConstantsS };
  if (found && window) {
    const left = curve && part ? curve.changeBetween((window.fromS + window.toS) / 2 - part.fromS, 1e9) : 0;
    const rise = ambient ? found.mean - ambient.valueC : null;
    const riseU = ambient ? Math.hypot(found.u95, ambient.u95K) : null;
    return {
      ...base,
      meanC: found.mean,
      u95K: found.u95,
      riseK: rise,
      riseU95K: riseU,
      thetaKPerW: rise !== null && power ? rise / power : null,
      finalC: found.mean,
      finalU95K: Math.hypot(found.u95, Math.min(Math.abs(left), 1.5)),
    };
  }
  const none = { ...base, meanC: null, u95K: null, riseK: null, riseU95K: null, thetaKPerW: null };
  if (!curve || (room && Number.isNaN(airNow))) return { ...none, finalC: null, finalU95K: null };
  const final = curve.final + (room ? airNow : 0);
  const rise = ambient ? final - ambient.valueC : 40;
  return {
    ...none,
    finalC: final,
    finalU95K: Math.hypot(curve.finalU95, 1.96 * FAN_SHARE * input.fanDrift * rise, 0.15),
  };
}

function roomRole(
  room: Float64Array,
  timeS: Float64Array,
  window: Stretch | undefined,
  ambientC: number,
): TemperatureFigures {
  const found = window && meanWithSpread(slice(timeS, room, window), resolutionOf(room));
  let most = Number.NEGATIVE_INFINITY;
  for (const value of room) if (value > most) most = value;
  return {
    meanC: found?.mean ?? null,
    u95K: found?.u95 ?? null,
    maxC: finite(most),
    riseK: found ? found.mean - ambientC : null,
    riseU95K: found ? found.u95 : null,
    thetaKPerW: null,
    finalC: found?.mean ?? null,
    finalU95K: found?.u95 ?? null,
    budget: found?.budget ?? null,
    timeConstantsS: [],
  };
}

function gapFigures(
  timeS: Float64Array,
  sensors: Sensor[],
  window: Stretch | undefined,
  part: Stretch | undefined,
): Analysis["hotspotGapK"] {
  const edge = sensors.find((sensor) => sensor.key === "edge");
  const hotspot = sensors.find((sensor) => sensor.key === "hotspot");
  if (!edge || !hotspot || !part) return null;
  const late = { fromS: Math.max(part.fromS + (part.toS - part.fromS) * 0.6, part.toS - 180), toS: part.toS };
  const over = window ?? late;
  if (over.toS - over.fromS < 20) return null;
  const hot = slice(timeS, hotspot.values, over);
  const rim = slice(timeS, edge.values, over);
  const found = meanWithSpread(
    hot.map((value, row) => value - (rim[row] ?? Number.NaN)),
    Math.hypot(edge.step, hotspot.step),
  );
  return found ? { mean: found.mean, u95: window ? found.u95 : Math.hypot(found.u95, 0.5) } : null;
}

function phasesOf(
  timeS: Float64Array,
  loads: Stretch[],
  longest: Stretch | undefined,
  part: Stretch | undefined,
  window: Stretch | undefined,
  run: BinnedRun,
): PhaseStretch[] {
  const end = timeS.at(-1) ?? 0;
  const phases: PhaseStretch[] = [];
  const add = (kind: PhaseStretch["kind"], fromS: number, toS: number): void => {
    if (toS - fromS > 1e-9) phases.push({ kind, fromS, toS: Math.min(toS, end) });
  };
  let at = 0;
  loads.forEach((load, index) => {
    if (index === 0) add("idle", at, load.fromS);
    else rest(run, at, load.fromS, add);
    if (load === longest && part && window) {
      add("warmup", load.fromS, window.fromS);
      const step = timeS.length > 1 ? end / (timeS.length - 1) : 1;
      const tailS = load.toS - window.toS;
      const steadyToS = tailS < Math.max(10, 2 * step) ? Math.min(load.toS, end) : window.toS;
      add("steady", window.fromS, steadyToS);
      add("warmup", steadyToS, Math.min(load.toS, end));
    } else add("warmup", load.fromS, Math.min(load.toS, end));
    at = Math.min(load.toS, end);
  });
  if (loads.length === 0) add("idle", 0, end);
  else rest(run, at, end, add);
  return phases;
}

/** After a load: cooling until the temperature has come down nine tenths of its way, then idle. */
function rest(
  run: BinnedRun,
  fromS: number,
  toS: number,
  add: (kind: PhaseStretch["kind"], fromS: number, toS: number) => void,
): void {
  const bins: number[] = [];
  for (let bin = 0; bin + 1 < run.edgesS.length; bin++)
    if ((run.edgesS[bin] ?? 0) >= fromS && (run.edgesS[bin] ?? 0) < toS) bins.push(bin);
  const line = bins.map((bin) => run.temperature[bin] ?? Number.NaN).filter((value) => !Number.isNaN(value));
  const high = line[0] ?? 0;
  const low = line.reduce((least, value) => Math.min(least, value), high);
  const cooled = bins.find((bin) => (run.temperature[bin] ?? high) <= low + 0.1 * (high - low));
  const turn = cooled !== undefined && high - low > 2 ? (run.edgesS[cooled] ?? toS) : toS;
  add("cooldown", fromS, turn);
  add("idle", turn, toS);
}

function runNotices(
  sensors: Sensor[],
  ambient: Analysis["ambient"],
  part: Stretch | undefined,
  table: RunTable,
): Notice[] {
  const notices: Notice[] = [];
  const dropped = sensors.reduce((sum, sensor) => sum + sensor.spikes, 0);
  if (dropped > 0)
    notices.push({ code: "spikes", text: `${dropped} single-sample sensor spikes were left out of means and maxima.` });
  if (!ambient)
    notices.push({
      code: "no-room-air",
      text: "Room air is missing: rises can't be computed and this run can't be compared.",
    });
  if (!part) notices.push({ code: "no-load", text: "No load was found in this log: the card idled all the time." });
  for (const column of table.columns)
    if (!column.sure && column.role !== null)
      notices.push({ code: "unsure", text: `“${column.header}” was taken for ${column.role}; check it.` });
  return notices;
}
