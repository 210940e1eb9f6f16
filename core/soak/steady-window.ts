import { last, nth } from "../numeric/index.ts";
import { binMeans, rowAt, wideningEdges } from "./bins.ts";
import { fitHeatingCurve, type HeatingCurve } from "./heating-curve.ts";
import type { Stretch } from "./load.ts";
import type { Sensor } from "./prepare.ts";

const SHORTEST_WINDOW_S = 120;
/** Steady means: over the next ten minutes it would move by less than this (or 1 % of its rise). */
const STILL_K = 0.3;
const LOOK_AHEAD_S = 600;

/** The heating curve of a sensor's rise over one part of constant fan and power; without a room column, of its temperature. */
export function fitSensor(
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
    const air = roomLine ? nth(roomLine, bin) : 0;
    if (Number.isNaN(value) || Number.isNaN(air)) return;
    t.push((nth(edges, bin) + nth(edges, bin + 1)) / 2 - part.fromS);
    y.push(value - air);
    sd.push(Math.hypot(0.03, jitter / Math.sqrt(Math.max(1, nth(count, bin))), sensor.step * 0.289));
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
    const jump = nth(sensor.values, row) - nth(sensor.values, row - 1);
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
    const centre = (nth(edges, bin) + nth(edges, bin + 1)) / 2;
    for (let k = 0; k < mean.length; k++) {
      const at = (nth(edges, k) + nth(edges, k + 1)) / 2;
      const value = nth(mean, k);
      if (Number.isNaN(value) || Math.abs(at - centre) > Math.max(wide, (nth(edges, bin + 1) - nth(edges, bin)) * 2))
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

/** From where on every sensor is still, to the end of the part; undefined when less than two minutes are left. */
export function findWindow(
  sensors: Sensor[],
  room: Float64Array | undefined,
  timeS: Float64Array,
  part: Stretch,
): Stretch | undefined {
  const length = part.toS - part.fromS;
  if (!sensors.some((sensor) => sensor.curve)) return undefined;
  const settled = settledAfter(sensors, room !== undefined, length);
  const step = timeS.length > 1 ? last(timeS) / (timeS.length - 1) : 1;
  const toS = Math.min(part.toS - Math.max(2, 1.5 * step), timeS.at(-1) ?? part.toS);
  const fromS = part.fromS + settled;
  if (toS - fromS < Math.min(SHORTEST_WINDOW_S, 0.5 * length)) return undefined;
  return { fromS: Math.round(fromS), toS: Math.round(toS * 1000) / 1000 };
}

/** Minutes to run on until the window would be long enough; null without a curve. */
export function minutesNeeded(sensors: Sensor[], hasRoom: boolean, part: Stretch): number | null {
  if (!sensors.some((sensor) => sensor.curve)) return null;
  const whole = settledAfter(sensors, hasRoom, 7200) + SHORTEST_WINDOW_S;
  return Math.max(1, Math.ceil((whole - (part.toS - part.fromS)) / 60));
}
