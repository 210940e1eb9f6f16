import { last } from "../numeric/index.ts";
import { type Notice, Problem } from "../problem/index.ts";
import { type LevelRole, meanOf, type RunTable } from "../runfile/index.ts";
import { type AnalyseOptions, type Analysis, type LevelFigures, SOAK_VERSION } from "./analysis.ts";
import { binMeans, evenEdges, rowAt } from "./bins.ts";
import { fingerprintOf } from "./fingerprint.ts";
import { type BinnedRun, constantParts, findLoads, mainPart, type Stretch } from "./load.ts";
import { phasesOf } from "./phases.ts";
import { type PreparedRun, prepareRun, type Sensor } from "./prepare.ts";
import {
  ambientFigures,
  finite,
  gapFigures,
  levelFigures,
  roomRole,
  speedingUp,
  temperatureFigures,
} from "./run-figures.ts";
import { findWindow, fitSensor, minutesNeeded } from "./steady-window.ts";
import { findThrottling } from "./throttling.ts";

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
  const power = roles.power?.mean ?? null;
  const plain = run.sensors.map((sensor) => ({ ...sensor, curve: undefined }));
  for (const sensor of plain)
    if (sensor.key !== "probe")
      roles[sensor.key] = temperatureFigures({
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
  const level = (key: LevelRole): LevelFigures | undefined => levelFigures(timeS, levels.get(key), reference);
  const power = level("power")?.mean ?? null;
  const fanDrift = part ? speedingUp(timeS, levels.get("fanRpm") ?? levels.get("fanPct"), part) : 0;

  const roles: Analysis["roles"] = {};
  const probes: Analysis["probes"] = [];
  for (const sensor of sensors) {
    const figures = temperatureFigures({ sensor, timeS, window, part, ambient, room, power, fanDrift });
    if (sensor.key === "probe") probes.push({ header: sensor.header, ...figures });
    else roles[sensor.key] = figures;
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
    durationS: last(timeS),
    intervalS: table.intervalS,
    columns: table.columns.map(({ header, role, unit, sure, values }) => ({
      header,
      role,
      unit,
      sure,
      mean: role === "time" ? null : finite(meanOf(values)),
    })),
    cards: table.cards,
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
    fingerprint: fingerprintOf(table),
    version: SOAK_VERSION,
  };
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
  const line = (key: LevelRole) => binnedLine(timeS, levels.get(key), edgesS);
  return {
    edgesS,
    power: line("power"),
    load: line("load"),
    coreClock: line("coreClock"),
    fan: line("fanRpm") ?? line("fanPct"),
    temperature: lead ? binMeans(timeS, lead.values, edgesS).mean : new Float64Array(edgesS.length - 1),
  };
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
