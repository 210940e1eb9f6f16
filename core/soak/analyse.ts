import { last } from "../numeric/index.ts";
import { type Notice, Problem } from "../problem/index.ts";
import { type LevelRole, meanOf, type RunTable } from "../runfile/index.ts";
import { type AnalyseOptions, type Analysis, type LevelFigures, SOAK_VERSION } from "./analysis.ts";
import { binMeans, evenEdges, rowAt, wideningEdges } from "./bins.ts";
import { commonDrift, type RoomDrift } from "./drift.ts";
import { fanDriveOf } from "./fan-drive.ts";
import { fingerprintOf } from "./fingerprint.ts";
import { type BinnedRun, type LoadPart, loadParts, type Stretch } from "./load.ts";
import { phasesOf } from "./phases.ts";
import { type PreparedRun, prepareRun, type Sensor } from "./prepare.ts";
import { partResponse, smoothRoom } from "./response.ts";
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

/** Figures of a window set by hand, quick enough to follow a drag: no curve is fitted, the judged run's tell how late it follows its room. */
export function windowFigures(
  run: PreparedRun,
  window: Stretch,
  options: AnalyseOptions = {},
): Pick<Analysis, "roles" | "ambient" | "hotspotGapK"> {
  const { timeS } = run.table;
  const room = roomOf(run, options);
  const ambient = ambientFigures(options, room, timeS, window);
  const roles: Analysis["roles"] = {};
  for (const key of run.levels.keys()) {
    const figures = levelFigures(timeS, run.levels.get(key), window);
    if (figures) roles[key] = figures;
  }
  const power = roles.power?.mean ?? null;
  const plain = run.sensors.map((sensor) => ({ ...sensor, curve: undefined }));
  const gridS = gridOf(run);
  const line = room && smoothRoom(timeS, room, gridS);
  for (const sensor of plain)
    if (sensor.key !== "probe")
      roles[sensor.key] = temperatureFigures({
        sensor,
        timeS,
        window,
        part: undefined,
        ambient,
        room: line,
        gridS,
        followS: run.followS.get(sensor.key),
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
  const room = roomOf(run, options);
  const binned = binAll(run);
  const roomLine = room && smoothRoom(timeS, room, binned.edgesS);
  const loads = judgeLoads(run, binned, roomLine, options);
  const chosen = loads.find((one) => one.chosen);
  const part = chosen?.judged;
  const curved = chosen?.sensors ?? sensors;
  if (options.windowS && rowAt(timeS, options.windowS.toS) - rowAt(timeS, options.windowS.fromS) < 2)
    throw new Problem({
      code: "bad-window",
      what: "The steady window holds fewer than two samples.",
      remedy: "Make it wider.",
    });
  const window = options.windowS ?? chosen?.window;
  const reference = window ?? (part && { fromS: Math.max(part.fromS, part.toS - 62), toS: part.toS - 2 });
  const drift = room ? undefined : commonDrift(curved);
  const ambient = ambientFigures(options, room, timeS, reference, drift);
  const figuresOf = new Map<LevelRole, LevelFigures | undefined>();
  const level = (key: LevelRole): LevelFigures | undefined => {
    if (!figuresOf.has(key)) figuresOf.set(key, levelFigures(timeS, levels.get(key), reference));
    return figuresOf.get(key);
  };
  const power = level("power")?.mean ?? null;
  const fanDrift = part ? speedingUp(timeS, levels.get("fanRpm") ?? levels.get("fanPct"), part) : 0;
  const shared = { timeS, window, part: chosen, ambient, room: roomLine, gridS: binned.edgesS, power, fanDrift };

  const roles: Analysis["roles"] = {};
  const probes: Analysis["probes"] = [];
  for (const sensor of curved) {
    const followS = sensor.curve?.followS;
    if (followS) run.followS.set(sensor.key, followS);
    const figures = temperatureFigures({ sensor, followS, ...shared });
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
    start: table.start,
    intervalS: table.intervalS,
    columns: table.columns.map(({ header, role, unit, sure, values }) => ({
      header,
      role,
      unit,
      sure,
      mean: role === "time" ? null : finite(meanOf(values)),
    })),
    cards: table.cards,
    loads: loads.map(({ fromS, toS, meanPowerW, window: still, chosen: mine }, k) => ({
      index: k + 1,
      fromS,
      toS: Math.min(toS, last(timeS)),
      meanPowerW,
      steady: still !== undefined,
      chosen: mine,
    })),
    phases: phasesOf(timeS, loads, chosen, window, binned),
    ambient,
    steady: {
      reached: window !== undefined,
      fromS: window?.fromS ?? null,
      toS: window?.toS ?? null,
      minutesNeeded: window || !part ? null : minutesNeeded(curved, room !== undefined, part),
      byHand: options.windowS !== undefined,
    },
    roles,
    probes,
    hotspotGapK: gapFigures(timeS, curved, window, part),
    throttling: findThrottling(
      { ...binned, powerLimit: binnedLine(timeS, levels.get("powerLimit"), binned.edgesS) },
      chosen?.around,
    ),
    fanDrive:
      fanDriveOf(
        {
          timeS,
          dutyPct: levels.get("fanPct"),
          rpm: levels.get("fanRpm"),
          dieC: (sensors.find(({ key }) => key === "edge") ?? sensors.find(({ key }) => key === "hotspot"))?.values,
        },
        part,
      ) ?? null,
    spikes: sensors.reduce((sum, sensor) => sum + sensor.spikes, 0),
    notices: [...table.notices, ...runNotices(sensors, ambient, part, table, loads, drift)],
    fingerprint: fingerprintOf(table),
    version: SOAK_VERSION,
  };
}

/** Room air over time: typed at both ends, else by its column; undefined where it was typed once or never. */
function roomOf(
  { table, roomColumn }: PreparedRun,
  { ambientC, ambientEndC }: AnalyseOptions,
): Float64Array | undefined {
  if (ambientC === undefined) return roomColumn;
  if (ambientEndC === undefined) return undefined;
  const whole = last(table.timeS) || 1;
  return table.timeS.map((time) => ambientC + ((ambientEndC - ambientC) * time) / whole);
}

interface JudgedLoad extends LoadPart {
  meanPowerW: number | null;
  sensors: Sensor[];
  window: Stretch | undefined;
  powerU95: number;
  chosen: boolean;
}

/** So many loads of a log are judged, the longest first; each costs a curve per sensor. */
const MOST_JUDGED = 8;

/** The log's loads with their curves and steady windows, and the one that the run stands for. */
function judgeLoads(
  run: PreparedRun,
  binned: BinnedRun,
  room: Float64Array | undefined,
  options: AnalyseOptions,
): JudgedLoad[] {
  const { table, sensors } = run;
  const { timeS } = table;
  const parts = loadParts(binned);
  const byLength = [...parts.keys()].sort((a, b) => lengthOf(parts[b]) - lengthOf(parts[a]));
  const wanted = wantedLoad(parts, options);
  const judged = new Set(byLength.slice(0, MOST_JUDGED));
  if (wanted !== undefined) judged.add(wanted);
  const found = parts.map((part, k): JudgedLoad => {
    // The first and the last samples may still be of the idle beside it.
    const edgeS = Math.min(2 * table.intervalS, (part.toS - part.fromS) / 4);
    const inner = { fromS: part.fromS + edgeS, toS: part.toS - edgeS };
    const power = run.levels.get("power");
    const meanPowerW = power
      ? finite(meanOf(power.subarray(rowAt(timeS, inner.fromS), rowAt(timeS, inner.toS))))
      : null;
    const plain = { ...part, meanPowerW, sensors, window: undefined, powerU95: 0, chosen: false };
    if (!judged.has(k)) return plain;
    const edges = wideningEdges(part.judged.fromS, part.judged.toS, table.intervalS);
    const response = partResponse(binned, room, part.judged, edges);
    const curved = sensors.map((sensor) => ({ ...sensor, curve: fitSensor(timeS, sensor, part.judged, response) }));
    return {
      ...plain,
      sensors: curved,
      window: findWindow(curved, room !== undefined, timeS, part.judged),
      powerU95: response.powerU95,
    };
  });
  const chosen = wanted ?? byLength.find((k) => found[k]?.window !== undefined) ?? byLength[0];
  return found.map((one, k) => ({ ...one, chosen: k === chosen }));
}

const lengthOf = (one: Stretch | undefined): number => (one ? one.toS - one.fromS : 0);

/** The load asked for: by number, or the one in which a window set by hand lies. */
function wantedLoad(parts: LoadPart[], { load, windowS }: AnalyseOptions): number | undefined {
  if (load !== undefined) {
    if (Number.isInteger(load) && load >= 1 && load <= parts.length) return load - 1;
    throw new Problem({
      code: "no-such-load",
      what: `There is no load ${load} in this log${parts.length === 0 ? ": the card idled all the time" : `: it holds ${parts.length}, ${parts.map(({ fromS, toS }, k) => `${k + 1} from ${Math.round(fromS)} to ${Math.round(toS)} s`).join(", ")}`}.`,
      where: `load ${load}`,
      remedy: "Name one that it holds, or leave it out.",
    });
  }
  if (!windowS) return undefined;
  const shared = parts.map(({ fromS, toS }) => Math.min(toS, windowS.toS) - Math.max(fromS, windowS.fromS));
  const most = Math.max(...shared);
  return most > 0 ? shared.indexOf(most) : undefined;
}

const binnedLine = (
  timeS: Float64Array,
  values: Float64Array | undefined,
  edgesS: Float64Array,
): Float64Array | undefined => values && binMeans(timeS, values, edgesS).mean;

const MOST_BINS = 2400;
const gridOf = ({ table: { timeS, intervalS } }: PreparedRun): Float64Array => evenEdges(timeS, MOST_BINS, intervalS);

function binAll(run: PreparedRun): BinnedRun {
  const { sensors, levels } = run;
  const { timeS } = run.table;
  const edgesS = gridOf(run);
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
  loads: JudgedLoad[],
  drift: RoomDrift | undefined,
): Notice[] {
  const notices: Notice[] = [];
  if (loads.length > 1) {
    const at = loads.findIndex((one) => one.chosen);
    notices.push({
      code: "several-loads",
      text: `${loads.length} loads in this log: number ${at + 1} is judged${loads[at]?.window ? ", the longest that came to rest" : ", the longest"}.`,
    });
  }
  if (drift && ambient)
    notices.push({
      code: "room-drifts",
      text: `Every sensor goes on ${drift.kPerS > 0 ? "rising" : "falling"} alike, by ${Math.abs(drift.kPerS * 3600).toFixed(1)} K an hour: the room seems to have ${drift.kPerS > 0 ? "warmed" : "cooled"}. Read it again at the end of a run.`,
    });
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
