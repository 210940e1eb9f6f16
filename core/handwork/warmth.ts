import { type Analysis, temperatureOf } from "../soak/index.ts";

export interface Warmth {
  /** Of the compound, by now. */
  nowC: number;
  roomC: number;
  sinceMin: number;
  /** Where the time constant comes from. */
  curve: "its own cooling" | "its own heating";
}

/** A cooling phase ends when nine tenths of the way are down. */
const NINE_TENTHS = Math.log(10);
/** Dried compound gives way from about here on (common practice of the trade, no source). */
const SOFT_C = 40;

/**
 * How warm the compound still is: from the end of the last load towards the room's air, by the run's own time constant, that of its cooling
 * where the log went on for long enough. Room air and load as they were then.
 * @param keptAt when the log was kept: it ended then or before, so the compound may be cooler than said
 * @returns null for a run without room air or without an edge reading
 */
export function warmthOf(analysis: Analysis, keptAt: number, now: number): Warmth | null {
  const edge = temperatureOf(analysis, "edge") ?? temperatureOf(analysis, "hotspot");
  const loadedC = edge?.meanC ?? edge?.finalC ?? null;
  if (!edge || loadedC === null || !analysis.ambient) return null;
  const { phases, durationS } = analysis;
  const coolingAt = phases.findLastIndex(({ kind }) => kind === "cooldown");
  const cooling = phases[coolingAt];
  // Cut off before it was down, a phase says nothing of how fast it goes.
  const whole = cooling && coolingAt < phases.length - 1;
  const tauS = whole ? (cooling.toS - cooling.fromS) / NINE_TENTHS : Math.max(0, ...edge.timeConstantsS);
  if (!(tauS > 0)) return null;
  const loadEndS = cooling?.fromS ?? durationS;
  const sinceS = Math.max(0, (now - keptAt) / 1000) + (durationS - loadEndS);
  const roomC = analysis.ambient.valueC;
  return {
    nowC: roomC + (loadedC - roomC) * Math.exp(-sinceS / tauS),
    roomC,
    sinceMin: sinceS / 60,
    curve: whole ? "its own cooling" : "its own heating",
  };
}

/** What to do about it before the cooler comes off. */
export function warmthWords(warmth: Warmth | null): string {
  if (!warmth)
    return "Nobody knows how warm the compound is. If the cooler sticks, run the card for 5 minutes, then unplug it again.";
  const since = warmth.sinceMin < 90 ? `${Math.round(warmth.sinceMin)} min` : `${Math.round(warmth.sinceMin / 60)} h`;
  const now = `The compound is at about ${Math.round(warmth.nowC)} °C, ${since} after the load (by ${warmth.curve})`;
  return warmth.nowC >= SOFT_C
    ? `${now}: warm enough to give way, and not too hot to hold.`
    : `${now}: cold. If it is dry, warm the card with a load for 5 minutes, then unplug it again.`;
}
