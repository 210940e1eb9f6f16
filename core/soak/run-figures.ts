import { last, nth } from "../numeric/index.ts";
import { meanOf } from "../runfile/index.ts";
import { USUAL_AIR } from "../trade/index.ts";
import type { AnalyseOptions, Analysis, LevelFigures, TemperatureFigures } from "./analysis.ts";
import { rowAt } from "./bins.ts";
import { resolutionOf } from "./clean.ts";
import type { RoomDrift } from "./drift.ts";
import type { Expected } from "./heating-curve.ts";
import type { LoadPart, Stretch } from "./load.ts";
import { meanWithSpread } from "./mean.ts";
import type { Sensor } from "./prepare.ts";
import { COOLER_S, feltRoom, SLOW_PART_S } from "./response.ts";

export const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

/** A room is taken to keep its air for an hour; from then on it may drift by half a kelvin an hour (common practice of the trade). */
const LONG_RUN_S = 3600;
const LONG_RUN_K_PER_S = 0.5 / 3600;

/** Room air over the window: typed before logged, ± 1.0 K typed and ± 0.6 K logged unless stated. */
export function ambientFigures(
  options: AnalyseOptions,
  room: Float64Array | undefined,
  timeS: Float64Array,
  window: Stretch | undefined,
  drift?: RoomDrift,
): Analysis["ambient"] {
  if (options.ambientC !== undefined && !room) {
    // Nobody knows when it was read: it may have been at the beginning or at the end.
    const middleS = window ? (window.fromS + window.toS) / 2 : last(timeS);
    const apartS = Math.max(middleS, last(timeS) - middleS);
    const moved = drift ? (Math.abs(drift.kPerS) + drift.u95) * apartS : 0;
    const longRun = LONG_RUN_K_PER_S * Math.max(0, last(timeS) - LONG_RUN_S);
    return {
      valueC: options.ambientC,
      u95K: Math.hypot(options.ambientU95K ?? 1, moved, longRun),
      source: "option",
    };
  }
  if (!room) return null;
  const inside = window ? meanOf(slice(timeS, room, window)) : Number.NaN;
  const value = Number.isNaN(inside) ? meanOf(room) : inside;
  return Number.isNaN(value)
    ? null
    : {
        valueC: value,
        u95K: options.ambientU95K ?? (options.ambientC === undefined ? 0.6 : 1),
        source: options.ambientC === undefined ? "column" : "option",
      };
}

function slice(timeS: Float64Array, values: Float64Array, window: Stretch): Float64Array {
  return values.subarray(
    rowAt(timeS, window.fromS),
    rowAt(timeS, window.toS + 1e-9) + (window.toS >= last(timeS) ? 1 : 0),
  );
}

/** Mean and interval of any line that is no temperature, over the window or the whole run. */
export function levelFigures(
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
export function speedingUp(timeS: Float64Array, fan: Float64Array | undefined, part: Stretch): number {
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
  part: (LoadPart & { powerU95: number }) | undefined;
  ambient: Analysis["ambient"];
  /** Room air in even bins between `gridS`. */
  room: Float64Array | undefined;
  gridS: Float64Array;
  /** By which time constant the sensor follows the room, s; undefined where nobody can tell. */
  followS: Expected | undefined;
  power: number | null;
  fanDrift: number;
}

/** Share of a small change of fan speed that shows in the rise. */
const FAN_SHARE = USUAL_AIR.share * USUAL_AIR.exponent;
/** The curve follows a fan that changes; what its law leaves open of that. */
const FAN_DOUBT = 0.6;

/** Mean, rise, θ and settling value of one sensor; nulls for what the run can't carry. */
export function temperatureFigures(input: FigureInput): TemperatureFigures {
  const { sensor, timeS, window, part, ambient, room, gridS, followS, power } = input;
  const seen = part ? slice(timeS, sensor.values, lateOf(part)) : sensor.values;
  let most = Number.NEGATIVE_INFINITY;
  for (let row = 0; row < seen.length; row++) {
    const value = seen[row] ?? Number.NaN;
    if (value > most) most = value;
  }
  const curve = sensor.curve;
  const timeConstantsS = curve ? curve.best.terms.map((term) => term.tauS) : [];
  if (window) {
    const inside = slice(timeS, sensor.values, window);
    const felt =
      room && followS && roomMoves(room, gridS, window)
        ? feltOver({ room, gridS, timeS, window, followS, rows: inside.length })
        : undefined;
    const found = meanWithSpread(felt ? inside.map((value, row) => value - nth(felt.airC, row)) : inside, sensor.step);
    const meanC = meanOf(inside);
    if (found) {
      const left = curve && part ? curve.remainingAt((window.fromS + window.toS) / 2 - part.judged.fromS) : undefined;
      // The card is behind a room that moves: its rise is over the air that it feels.
      const behind = felt && ambient ? meanC - found.mean - ambient.valueC : 0;
      const behindU95 = felt ? 1.96 * felt.sd : 0;
      const rise = ambient ? meanC - ambient.valueC - behind : null;
      const settled = meanC + (left?.mean ?? 0) - behind;
      return {
        maxC: finite(most),
        budget: found.budget,
        timeConstantsS,
        meanC,
        u95K: found.u95,
        riseK: rise,
        riseU95K: ambient ? Math.hypot(found.u95, ambient.u95K, behindU95) : null,
        thetaKPerW: rise !== null && power ? rise / power : null,
        finalC: settled,
        finalU95K: Math.hypot(found.u95, 1.96 * (left?.sd ?? 0), behindU95, doubtOf(input, settled)),
      };
    }
  }
  const none = {
    maxC: finite(most),
    budget: null,
    timeConstantsS,
    meanC: null,
    u95K: null,
    riseK: null,
    riseU95K: null,
    thetaKPerW: null,
  };
  if (!curve || !part) return { ...none, finalC: null, finalU95K: null };
  const airNow = room ? nth(room, Math.min(room.length - 1, rowAt(gridS, part.judged.toS - 1e-6) - 1)) : 0;
  const final = curve.final + airNow;
  return { ...none, finalC: final, finalU95K: Math.hypot(curve.finalU95, doubtOf(input, final), 0.15) };
}

/** What may follow the room as slow parts do, without that its heating shows it: a share of the rise, one standard deviation. */
const SLOW_SD = 0.2;

/** The air that a sensor feels, row by row of the window, and how unsure the mean of that is, K. */
function feltOver({ room, gridS, timeS, window, followS, rows }: Felt): { airC: Float64Array; sd: number } {
  const at = feltRoom(room, gridS, timeS, window, followS.mean);
  const airC = new Float64Array(rows);
  let slowK = 0;
  for (let row = 0; row < rows; row++) {
    const felt = at(row);
    airC[row] = felt.feltC;
    slowK += felt.slowK / rows;
  }
  return { airC, sd: Math.abs(slowK) * Math.hypot(SLOW_SD, followS.sd / (SLOW_PART_S - COOLER_S)) };
}

interface Felt {
  room: Float64Array;
  gridS: Float64Array;
  timeS: Float64Array;
  window: Stretch;
  followS: Expected;
  rows: number;
}

/** What power and fan of the end leave open of a settling value, K. */
function doubtOf({ part, ambient, fanDrift }: FigureInput, finalC: number): number {
  const rise = ambient ? Math.abs(finalC - ambient.valueC) : 40;
  return rise * Math.hypot(part?.powerU95 ?? 0, 1.96 * FAN_DOUBT * FAN_SHARE * fanDrift);
}

/** A load that begins where power or fan was set anew begins with what the settings before it left. */
function lateOf(part: LoadPart): Stretch {
  const { fromS, toS } = part;
  return part.setAnew ? { fromS: fromS + Math.min(90, (toS - fromS) / 2), toS } : { fromS, toS };
}

/** Whether room air moved enough within the stretch to be followed. */
function roomMoves(room: Float64Array, gridS: Float64Array, window: Stretch): boolean {
  const inside = room.subarray(rowAt(gridS, window.fromS), Math.max(1, rowAt(gridS, window.toS) - 1));
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const value of inside) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return high - low > 0.3;
}

/** The room's own line in the figures of a temperature. */
export function roomRole(
  room: Float64Array,
  timeS: Float64Array,
  window: Stretch | undefined,
  ambientC: number,
): TemperatureFigures {
  const found = window && meanWithSpread(slice(timeS, room, window), resolutionOf(room));
  let most = Number.NEGATIVE_INFINITY;
  for (let row = 0; row < room.length; row++) {
    const value = room[row] ?? Number.NaN;
    if (value > most) most = value;
  }
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

/** Hotspot over edge, sample by sample, over the window or the last of the load. */
export function gapFigures(
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
    hot.map((value, row) => value - nth(rim, row)),
    Math.hypot(edge.step, hotspot.step),
  );
  return found ? { mean: found.mean, u95: window ? found.u95 : Math.hypot(found.u95, 0.5) } : null;
}
