import { type Analysis, temperatureOf } from "../soak/index.ts";

export interface Warmth {
  /** Of the compound, by now. */
  nowC: number;
  roomC: number;
  sinceMin: number;
  /** Of its cooling. */
  tauMin: number;
  /** Where the time constant comes from. */
  curve: "its own cooling" | "its own heating";
}

/** A cooling phase ends when nine tenths of the way are down. */
const NINE_TENTHS = Math.log(10);
/** Dried compound gives way from about here on (common practice of the trade, no source). */
const SOFT_C = 40;
/** From here on it is waited: bare metal held for minutes burns from 48 °C on (ISO 13732-1, from memory). */
export const WAIT_C = 45;
/** From here on a touch burns within seconds (ISO 13732-1, from memory). */
export const HOT_C = 60;
/** A card whose last load is longer ago has cooled down, or ran without a log: its old log tells nothing. */
const LONGEST_S = 3 * 3600;

/**
 * How warm the compound still is: from the end of the last load by the log's own clock towards the room's air, by the run's own time constant,
 * that of its cooling where the log went on for long enough. Room air and load as they were then.
 * @param begunMs when the log began by its own clock, ms since 1970; null where it has none
 * @param now ms since 1970
 * @returns null for a run without room air, edge reading or a clock of its own, and for one that is hours old
 */
export function warmthOf(analysis: Analysis, begunMs: number | null, now: number): Warmth | null {
  const edge = temperatureOf(analysis, "edge") ?? temperatureOf(analysis, "hotspot");
  const loadedC = edge?.meanC ?? edge?.finalC ?? null;
  if (!edge || loadedC === null || !analysis.ambient || begunMs === null) return null;
  const { phases, durationS } = analysis;
  const coolingAt = phases.findLastIndex(({ kind }) => kind === "cooldown");
  const cooling = phases[coolingAt];
  // Cut off before it was down, a phase says nothing of how fast it goes.
  const whole = cooling && coolingAt < phases.length - 1;
  const tauS = whole ? (cooling.toS - cooling.fromS) / NINE_TENTHS : Math.max(0, ...edge.timeConstantsS);
  if (!(tauS > 0)) return null;
  const loadEndS = cooling?.fromS ?? durationS;
  const sinceS = Math.max(0, (now - begunMs) / 1000 - loadEndS);
  if (sinceS > LONGEST_S) return null;
  const roomC = analysis.ambient.valueC;
  return {
    nowC: roomC + (loadedC - roomC) * Math.exp(-sinceS / tauS),
    roomC,
    sinceMin: sinceS / 60,
    tauMin: tauS / 60,
    curve: whole ? "its own cooling" : "its own heating",
  };
}

const LOAD = "warm the card with a load for 5 minutes, unplug it again, and wait until the cooler can be held";
const BY_HAND = "warm the cooler with warm air by hand; no power and no load until every screw and plug is back";

/**
 * What to do about it before the cooler comes off.
 * @param isOpen a screw or plug is out already: no load any more
 */
export function warmthWords(warmth: Warmth | null, isOpen: boolean): string {
  const dry = `If the compound is dry, ${isOpen ? BY_HAND : LOAD}.`;
  if (!warmth) return `Nobody knows how warm the card is now: touch it with the back of a finger first. ${dry}`;
  const { nowC, roomC, tauMin } = warmth;
  const since = warmth.sinceMin < 90 ? `${Math.round(warmth.sinceMin)} min` : `${Math.round(warmth.sinceMin / 60)} h`;
  const now = `The compound is at about ${Math.round(nowC)} °C, ${since} after the load (by ${warmth.curve})`;
  if (nowC < SOFT_C) return `${now}: cold. ${dry}`;
  if (nowC < WAIT_C) return `${now}: warm enough to give way. Touch it with the back of a finger first.`;
  const wait = roomC < WAIT_C ? Math.ceil(tauMin * Math.log((nowC - roomC) / (WAIT_C - roomC))) : null;
  const until =
    wait === null ? `wait until it is below ${WAIT_C} °C` : `wait ${Math.max(1, wait)} min, until ${WAIT_C} °C`;
  return nowC < HOT_C ? `${now}: too warm to hold; ${until}.` : `${now}: hot, it burns. Touch nothing; ${until}.`;
}
