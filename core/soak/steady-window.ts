import { last, nth } from "../numeric/index.ts";
import { binMeans, rowAt } from "./bins.ts";
import { fitHeatingCurve, type HeatingCurve } from "./heating-curve.ts";
import type { Stretch } from "./load.ts";
import type { Sensor } from "./prepare.ts";
import type { PartResponse } from "./response.ts";

const SHORTEST_WINDOW_S = 120;
/** Steady means: over the next ten minutes it would move by less than this (or 1 % of its rise). */
const STILL_K = 0.3;
const LOOK_AHEAD_S = 600;

/** The heating curve of a sensor's rise over one part of constant fan and power; without a room column, of its temperature. */
export function fitSensor(
  timeS: Float64Array,
  sensor: Sensor,
  part: Stretch,
  { edgesS, response }: PartResponse,
): HeatingCurve | undefined {
  const { mean, count } = binMeans(timeS, sensor.values, edgesS);
  const jitter = sampleNoise(sensor, timeS, part);
  const known = [...mean.keys()].filter((bin) => !Number.isNaN(nth(mean, bin)));
  const only = (line: Float64Array): Float64Array =>
    known.length === line.length ? line : Float64Array.from(known, (bin) => nth(line, bin));
  const room = response.room;
  return fitHeatingCurve(
    Float64Array.from(known, (bin) => (nth(edgesS, bin) + nth(edgesS, bin + 1)) / 2 - part.fromS),
    only(mean),
    Float64Array.from(known, (bin) =>
      Math.hypot(0.03, jitter / Math.sqrt(Math.max(1, nth(count, bin))), sensor.step * 0.289),
    ),
    {
      toCome: (tauS) => only(response.toCome(tauS)),
      room: room && ((tauS) => only(room(tauS))),
      roomBehind: response.roomBehind && only(response.roomBehind),
      mayDrift: response.mayDrift,
    },
  );
}

/** Noise of single samples: from the differences of neighbours at the end of the part. */
function sampleNoise(sensor: Sensor, timeS: Float64Array, part: Stretch): number {
  const from = rowAt(timeS, part.toS - Math.min(300, (part.toS - part.fromS) / 2));
  const to = rowAt(timeS, part.toS);
  let sum = 0;
  let count = 0;
  for (let row = from + 1; row < to; row++) {
    const jump = nth(sensor.values, row) - nth(sensor.values, row - 1);
    if (Number.isNaN(jump)) continue;
    sum += jump * jump;
    count++;
  }
  return count === 0 ? 0.3 : Math.sqrt(sum / count / 2);
}

function stillness(sensor: Sensor, hasRoom: boolean): number {
  const rise = Math.abs(sensor.curve?.best.final ?? 0) - (hasRoom ? 0 : 25);
  return Math.max(STILL_K, 0.01 * rise, 0.4 * sensor.step, 0.6 * (sensor.curve?.residualRms ?? 0));
}

/** When every sensor of the card will move, by its curve and so many standard deviations, by less than its tolerance, in seconds since the part began. */
function settledAfter(sensors: Sensor[], hasRoom: boolean, mostS: number, surely = 1): number {
  let latest = 0;
  for (const { curve, ...sensor } of sensors) {
    if (!curve || sensor.key === "probe") continue;
    const tolerance = stillness({ ...sensor, curve }, hasRoom);
    const moves = (at: number): boolean => {
      const { mean, sd } = curve.changeBetween(at, at + LOOK_AHEAD_S);
      return Math.abs(mean) + surely * sd > tolerance;
    };
    if (!moves(latest)) continue;
    if (moves(mostS)) return mostS;
    let low = latest;
    let high = mostS;
    while (high - low > Math.max(5, mostS / 400)) {
      const middle = (low + high) / 2;
      if (moves(middle)) low = middle;
      else high = middle;
    }
    latest = high;
  }
  return latest;
}

/** From where on every sensor is still, to the end of the part; undefined when less than two minutes are left. */
export function findWindow(
  sensors: Sensor[],
  hasRoom: boolean,
  timeS: Float64Array,
  part: Stretch,
): Stretch | undefined {
  const length = part.toS - part.fromS;
  if (!sensors.some((sensor) => sensor.curve)) return undefined;
  const settled = settledAfter(sensors, hasRoom, length);
  const step = timeS.length > 1 ? last(timeS) / (timeS.length - 1) : 1;
  const toS = Math.min(part.toS - Math.max(2, 1.5 * step), timeS.at(-1) ?? part.toS);
  const fromS = part.fromS + settled;
  if (toS - fromS < Math.min(SHORTEST_WINDOW_S, 0.5 * length)) return undefined;
  return { fromS: Math.round(fromS), toS: Math.round(toS * 1000) / 1000 };
}

/** Minutes to run on until the window would be long enough; null without a curve. */
export function minutesNeeded(sensors: Sensor[], hasRoom: boolean, part: Stretch): number | null {
  if (!sensors.some((sensor) => sensor.curve)) return null;
  // By then more is known than now, so that what is expected decides, not what cannot be ruled out yet.
  const whole = settledAfter(sensors, hasRoom, 7200, 0) + SHORTEST_WINDOW_S;
  return Math.max(1, Math.ceil((whole - (part.toS - part.fromS)) / 60));
}
