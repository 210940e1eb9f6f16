import { fanFactor, USUAL_COOLING } from "../compare/index.ts";
import { addLevelsDb, levelChangeDb } from "../fans/index.ts";
import type { AirPoint } from "./drawing.ts";

/** What a card does with the cooler it has, from a run before the work. */
export interface Today {
  powerW: number;
  fanRpm: number;
  dba: number | null;
  edgeK: number;
  edgeU95K: number;
  memoryK: number | null;
  vrmK: number | null;
}

export interface Brought {
  riseK: number;
  u95K: number;
}

/** What is foretold of one speed of the fans. */
interface Row {
  fanRpm: number;
  dba: number | null;
  die: Brought;
  /** Less than today is below 0; null where nobody knows how loud one of the two is. */
  atEqualNoiseK: (Brought & { todayRpm: number }) | null;
  /** Null where the run before did not tell, or where they lose their contact. */
  memory: Brought | null;
  vrm: Brought | null;
}
export interface BringRow extends Row {
  atEqualSpeedK: Brought;
}
export interface WaterRow extends Row {
  coolantOverRoomK: number;
  /** Against the card as it ran: fans of a radiator and fans of a card are not alike at equal speed. */
  againstTodayK: Brought;
}

/** A loop at one speed of its radiators’ fans. */
export interface WaterPoint {
  fanRpm: number;
  dba: number | null;
  die: Brought;
  coolantOverRoomK: number;
}

/** Whether memory and VRM keep a contact with the new cooler: without one nothing is foretold of them. */
export interface Touches {
  memory: boolean;
  vrm: boolean;
}

/** Sheets hold within about an eighth of what a bench shows (common practice, no source). */
const SHEET_U95 = 0.12;
/**
 * By how much a padded part falls for each kelvin of the die, ± 95 % (assumption, no source): 1 where both lie on one thick plate, a third
 * where most of what the die gains is its own joint’s, or the part lies on a plate of its own.
 */
const FOLLOWS = { byDie: 0.7, u95: 0.38 };
/** How far new pads and paste are off the old ones, as a share of the rise (assumption, no source). */
const OWN_U95 = 0.08;
const U95 = 1.96;
const BY_SPEED_DB = levelChangeDb(1, 10);

/** Kelvin per watt at a speed: along the points, beyond them by the usual law of fans. */
function kPerWAt(points: readonly AirPoint[], fanRpm: number): { value: number; u95: number } {
  const sorted = points.toSorted((a, b) => a.fanRpm - b.fanRpm);
  const above = sorted.findIndex((one) => one.fanRpm >= fanRpm);
  const a = sorted[above < 0 ? sorted.length - 1 : above - 1];
  const b = above < 0 ? undefined : sorted[above];
  if (a && b) {
    const along = Math.log(fanRpm / a.fanRpm) / Math.log(b.fanRpm / a.fanRpm);
    const value = Math.exp(Math.log(a.kPerW) * (1 - along) + Math.log(b.kPerW) * along);
    return { value, u95: SHEET_U95 * value };
  }
  const from = a ?? b;
  if (!from) return { value: Number.NaN, u95: Number.NaN };
  const { factor, sd } = fanFactor(USUAL_COOLING, USUAL_COOLING.share, from.fanRpm, fanRpm);
  return { value: from.kPerW * factor, u95: from.kPerW * Math.hypot(SHEET_U95 * factor, U95 * sd) };
}

/** How loud fans are at a speed, by the nearest level that is known; null without any. */
function dbaAt(points: ReadonlyArray<{ fanRpm: number; dba: number | null }>, fanRpm: number): number | null {
  const [near] = points
    .flatMap((one) => (one.dba === null ? [] : [{ rpm: one.fanRpm, dba: one.dba }]))
    .toSorted((a, b) => Math.abs(Math.log(a.rpm / fanRpm)) - Math.abs(Math.log(b.rpm / fanRpm)));
  return near ? near.dba + levelChangeDb(near.rpm, fanRpm) : null;
}

/** How loud the fans of all radiators are together at a speed; null where one of them has no level. */
export function loopDba(
  radiators: ReadonlyArray<ReadonlyArray<{ fanRpm: number; dba: number | null }>>,
  fanRpm: number,
): number | null {
  const levels = radiators.map((points) => dbaAt(points, fanRpm));
  const known = levels.filter((one) => one !== null);
  return known.length === 0 || known.length < levels.length ? null : addLevelsDb(known);
}

/**
 * What another air cooler brings at three speeds of its fans against what the card does today: at equal speed, and at equal noise.
 * Sources: fan laws for level and speed, `compare` for how a rise follows the fan. Parts beside the die are estimates with wide intervals.
 */
export function bringsInAir(points: readonly AirPoint[], today: Today, touches: Touches): BringRow[] {
  if (points.length === 0) return [];
  const speeds = points.map(({ fanRpm }) => fanRpm);
  const spread = points.length === 1 ? 1.5 : 1;
  const low = Math.min(...speeds) / spread;
  const high = Math.max(...speeds) * spread;
  return [low, Math.sqrt(low * high), high].map((fanRpm) => {
    const { value, u95 } = kPerWAt(points, fanRpm);
    const die = { riseK: today.powerW * value, u95K: today.powerW * u95 };
    return {
      ...rowOf({ fanRpm, dba: dbaAt(points, fanRpm), die }, today, touches),
      atEqualSpeedK: against(today, die, fanRpm),
    };
  });
}

/** The same of a loop of water: against the card as it ran, and at equal noise where the radiators’ fans have a level. */
export function bringsInWater(points: readonly WaterPoint[], today: Today, touches: Touches): WaterRow[] {
  return points.map((point) => ({
    ...rowOf(point, today, touches),
    coolantOverRoomK: point.coolantOverRoomK,
    againstTodayK: against(today, point.die, today.fanRpm),
  }));
}

function rowOf(
  { fanRpm, dba, die }: Pick<WaterPoint, "fanRpm" | "dba" | "die">,
  today: Today,
  { memory, vrm }: Touches,
): Row {
  const todayRpm = dba === null || today.dba === null ? null : today.fanRpm * 10 ** ((dba - today.dba) / BY_SPEED_DB);
  return {
    fanRpm,
    dba,
    die,
    atEqualNoiseK: todayRpm === null ? null : { ...against(today, die, todayRpm), todayRpm },
    memory: memory ? beside(today.memoryK, today, die) : null,
    vrm: vrm ? beside(today.vrmK, today, die) : null,
  };
}

/** The new die against today’s cooler with its fans at a speed. */
function against(today: Today, die: Brought, todayRpm: number): Brought {
  const { factor, sd } = fanFactor(USUAL_COOLING, USUAL_COOLING.share, today.fanRpm, todayRpm);
  return {
    riseK: die.riseK - today.edgeK * factor,
    u95K: Math.hypot(die.u95K, today.edgeU95K * factor, U95 * sd * today.edgeK),
  };
}

/** A padded part beside the die: what the plate under both gains, it gains as well; its own joint stays as it was. */
function beside(riseK: number | null, { edgeK }: Today, die: Brought): Brought | null {
  if (riseK === null) return null;
  const fallK = edgeK - die.riseK;
  return {
    riseK: Math.max(0, riseK - FOLLOWS.byDie * fallK),
    u95K: Math.hypot(FOLLOWS.u95 * fallK, FOLLOWS.byDie * die.u95K, OWN_U95 * riseK),
  };
}
