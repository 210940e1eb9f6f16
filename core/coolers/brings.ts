import { fanFactor, USUAL_COOLING } from "../compare/index.ts";
import { levelChangeDb } from "../fans/index.ts";
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

export interface BringRow {
  fanRpm: number;
  dba: number | null;
  die: Brought;
  /** Less than today is below 0; null where nobody knows how loud one of the two is. */
  atEqualSpeedK: Brought;
  atEqualNoiseK: (Brought & { todayRpm: number }) | null;
  memory: Brought | null;
  vrm: Brought | null;
}

/** Sheets hold within about an eighth of what a bench shows (common practice, no source). */
const SHEET_U95 = 0.12;
/** So much of a padded part's rise is the cooler's own under the die, ± (assumption, no source: parts share the plate with the die). */
const SHARED = { share: 0.55, u95: 0.35 };
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

function dbaAt(points: readonly AirPoint[], fanRpm: number): number | null {
  const known = points
    .filter((one) => one.dba !== null)
    .toSorted((a, b) => Math.abs(Math.log(a.fanRpm / fanRpm)) - Math.abs(Math.log(b.fanRpm / fanRpm)));
  const [near] = known;
  return near?.dba === undefined || near.dba === null ? null : near.dba + levelChangeDb(near.fanRpm, fanRpm);
}

/**
 * What another air cooler brings at three speeds of its fans against what the card does today: at equal speed, and at equal noise.
 * Sources: fan laws for level and speed, `compare` for how a rise follows the fan. Parts beside the die are estimates with wide intervals.
 * @param touches whether memory and VRM keep a contact with it: without one nothing is foretold of them
 */
export function bringsInAir(
  points: readonly AirPoint[],
  today: Today,
  touches: { memory: boolean; vrm: boolean },
): BringRow[] {
  if (points.length === 0) return [];
  const speeds = points.map(({ fanRpm }) => fanRpm);
  const spread = points.length === 1 ? 1.5 : 1;
  const low = Math.min(...speeds) / spread;
  const high = Math.max(...speeds) * spread;
  return [low, Math.sqrt(low * high), high].map((fanRpm) => {
    const { value, u95 } = kPerWAt(points, fanRpm);
    const die = { riseK: today.powerW * value, u95K: today.powerW * u95 };
    const dba = dbaAt(points, fanRpm);
    const against = (todayRpm: number): Brought => {
      const { factor, sd } = fanFactor(USUAL_COOLING, USUAL_COOLING.share, today.fanRpm, todayRpm);
      return {
        riseK: die.riseK - today.edgeK * factor,
        u95K: Math.hypot(die.u95K, today.edgeU95K * factor, U95 * sd * today.edgeK),
      };
    };
    const quietRpm = dba === null || today.dba === null ? null : today.fanRpm * 10 ** ((dba - today.dba) / BY_SPEED_DB);
    const ratio = die.riseK / today.edgeK;
    const beside = (riseK: number | null, touch: boolean): Brought | null =>
      riseK === null || !touch
        ? null
        : {
            riseK: riseK * (1 - SHARED.share * (1 - ratio)),
            u95K: riseK * Math.hypot(SHARED.u95 * (1 - ratio), (SHARED.share * die.u95K) / today.edgeK, 0.08),
          };
    return {
      fanRpm,
      dba,
      die,
      atEqualSpeedK: against(fanRpm),
      atEqualNoiseK: quietRpm === null ? null : { ...against(quietRpm), todayRpm: quietRpm },
      memory: beside(today.memoryK, touches.memory),
      vrm: beside(today.vrmK, touches.vrm),
    };
  });
}
