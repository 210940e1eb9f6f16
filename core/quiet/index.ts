/**
 * The quietest fan steps that keep every sensor a margin under its limit in the warmest room.
 *
 * Model: rise ∝ power; of each rise a share follows the fan's speed (`compare`), speed ∝ duty; limits are held with the upper end of a
 * one-sided 95 % interval. Units: K, °C, rpm, %. Limits: one card in its case as it was run; a curve with hysteresis stands a little later.
 */
import { type Cooling, fanFactor } from "../compare/index.ts";
import { levelChangeDb } from "../fans/index.ts";

export interface QuietSensor {
  role: string;
  /** At full load, at the speed it was run. */
  riseK: number;
  sd: number;
  limitC: number;
  /** Of its rise, as much follows the air. */
  share: number;
}

export interface QuietInput {
  sensors: readonly QuietSensor[];
  cooling: Cooling;
  /** The fan's duty and speed of that run. */
  fanPct: number;
  fanRpm: number;
  roomC: number;
  marginK: number;
  /** No slower than this, %. */
  leastPct: number;
}

export interface QuietStep {
  /** Of the full load. */
  loadPct: number;
  /** Null where full speed is not enough. */
  fanPct: number | null;
  fanRpm: number | null;
  /** What the edge comes to there, °C: up to it this step holds. */
  upToC: number | null;
  /** The sensor that asks for it. */
  leads: string;
}

const LOADS = [25, 50, 75, 100] as const;
/** One-sided 95 % of a normal distribution. */
const ONE_SIDED = 1.645;
const PCT_STEP = 1;

/** The steps, lightest load first; the edge has to be among the sensors for its temperatures. */
export function quietSteps(input: QuietInput): QuietStep[] {
  const { sensors, cooling, fanPct, fanRpm, roomC, marginK, leastPct } = input;
  const edge = sensors.find(({ role }) => role === "edge") ?? sensors[0];
  if (!edge) return [];
  const rise = (sensor: QuietSensor, loadPct: number, pct: number): { k: number; sd: number } => {
    const { factor, sd } = fanFactor(cooling, sensor.share, fanPct, pct);
    const full = (sensor.riseK * loadPct) / 100;
    return { k: full * factor, sd: full * Math.hypot(sd, (factor * sensor.sd) / Math.max(1e-9, sensor.riseK)) };
  };
  const over = (sensor: QuietSensor, loadPct: number, pct: number): number => {
    const { k, sd } = rise(sensor, loadPct, pct);
    return roomC + k + ONE_SIDED * sd - (sensor.limitC - marginK);
  };
  const leader = (loadPct: number, pct: number): QuietSensor =>
    sensors.reduce((top, one) => (over(one, loadPct, pct) > over(top, loadPct, pct) ? one : top), edge);
  let slowest = leastPct;
  return LOADS.map((loadPct): QuietStep => {
    let pct = slowest;
    while (pct < 100 && over(leader(loadPct, pct), loadPct, pct) > 0) pct += PCT_STEP;
    pct = Math.min(100, pct);
    const leads = leader(loadPct, pct);
    if (over(leads, loadPct, pct) > 0) return { loadPct, fanPct: null, fanRpm: null, upToC: null, leads: leads.role };
    slowest = pct;
    return {
      loadPct,
      fanPct: pct,
      fanRpm: (fanRpm * pct) / fanPct,
      upToC: roomC + rise(edge, loadPct, pct).k,
      leads: leads.role,
    };
  });
}

/** As they are typed in: a step that is followed by one of the same fan is that one. */
export const asSettings = (steps: readonly QuietStep[]): QuietStep[] =>
  steps.filter(({ fanPct }, index) => fanPct === null || steps[index + 1]?.fanPct !== fanPct);

/** What the owner hears: another speed, and what that does to the level. */
export function heard(beforeRpm: number, afterRpm: number): { rpm: number; db: number } {
  return { rpm: afterRpm - beforeRpm, db: levelChangeDb(beforeRpm, afterRpm) };
}
