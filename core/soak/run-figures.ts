import { last, nth } from "../numeric/index.ts";
import { meanOf } from "../runfile/index.ts";
import { USUAL_AIR } from "../trade/index.ts";
import type { AnalyseOptions, Analysis, LevelFigures, TemperatureFigures } from "./analysis.ts";
import { rowAt } from "./bins.ts";
import { resolutionOf } from "./clean.ts";
import type { Stretch } from "./load.ts";
import { meanWithSpread } from "./mean.ts";
import type { Sensor } from "./prepare.ts";

export const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

/** Room air over the window: typed before logged, ± 1.0 K typed and ± 0.6 K logged unless stated. */
export function ambientFigures(
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
  part: Stretch | undefined;
  ambient: Analysis["ambient"];
  room: Float64Array | undefined;
  power: number | null;
  fanDrift: number;
}

/** Share of a small change of fan speed that shows in the rise. */
const FAN_SHARE = USUAL_AIR.share * USUAL_AIR.exponent;

/** Mean, rise, θ and settling value of one sensor; nulls for what the run can't carry. */
export function temperatureFigures(input: FigureInput): TemperatureFigures {
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

/** The room's own line in the figures of a temperature. */
export function roomRole(
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
