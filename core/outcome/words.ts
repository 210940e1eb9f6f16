import type { CardSensor, Outcome, SensorOutcome } from "./outcome.ts";

/** Who reads it: one of the trade, or the card’s owner. */
export type Reader = "technician" | "owner";

/** What a sentence begins with where it tells of a sensor, or of the gap between hotspot and die. */
const NAMES: Record<Reader, Record<CardSensor | "gap", string>> = {
  technician: { edge: "Die", hotspot: "Hotspot", memory: "Memory", vrm: "VRM", gap: "Hotspot gap" },
  owner: {
    edge: "Chip",
    hotspot: "Hottest point of the chip",
    memory: "Memory",
    vrm: "Power parts",
    gap: "Hottest point over chip",
  },
};

export const nameFor = (reader: Reader, of: CardSensor | "gap"): string => NAMES[reader][of];

const SHORT = {
  before: "The run before the work was too short to tell",
  after: "The run after the work was too short to tell",
  both: "Both runs were too short to tell",
} as const;

/** A width is never told as none. */
const width = (u95K: number): string => Math.max(0.1, u95K).toFixed(1);

/**
 * What it came to in a few plain sentences; empty where nothing can be compared.
 * @param at under which conditions, said of the change that leads; left out where nothing is known yet
 */
export function headlineOf(
  { verdict, known, tells, minutesNeeded, short, ...outcome }: Outcome,
  at = "",
  reader: Reader = "technician",
): string {
  if (verdict === "not-comparable") return "";
  const changed = outcome.sensors.filter((one) => one.verdict !== "no-real-change").map(({ role }) => role);
  const leading = tells.includes("edge") && changed.includes("edge") ? "edge" : tells.find((of) => isIn(changed, of));
  const words = tells
    .map((of): string => {
      if (of === "gap") return gapWords(outcome.gap, reader);
      if (of === "fan") return `Fan turns ${outcome.fanSlowerPct} % slower at the same setting`;
      const sensor = outcome.sensors.find(({ role }) => role === of);
      const where = known && of === leading ? at : "";
      return sensor ? sensorWords(sensor, nameFor(reader, sensor.role), outcome.warmestRoomC, where) : "";
    })
    .join(". ");
  const minutes = minutesNeeded && `run the load ${minutesNeeded} more ${minutesNeeded === 1 ? "minute" : "minutes"}`;
  if (!known)
    return `${short ? SHORT[short] : "Not known yet"}: ${minutes || "run the load for longer"}${words && `. So far: ${words}`}`;
  if (!words) return at ? `No real change ${at}` : "No real change";
  return at && !leading ? `${words}. Compared ${at}` : words;
}

const isIn = (roles: readonly CardSensor[], of: Outcome["tells"][number]): boolean => roles.some((role) => role === of);

const gapWords = (gap: Outcome["gap"], reader: Reader): string =>
  gap ? `${nameFor(reader, "gap")} ${gap.changeK.toFixed(1)} ± ${width(gap.u95K)} K larger: contact is uneven` : "";

function sensorWords(
  { changeK, u95K, verdict, known, limitC, beforeC, overLimit }: SensorOutcome,
  name: string,
  roomC: number,
  at: string,
): string {
  const limit =
    overLimit && limitC !== null ? `over its limit of ${limitC} °C in a room of ${Math.round(roomC)} °C` : "";
  const still = limitC !== null && beforeC > limitC ? "still " : "";
  if (verdict !== "no-real-change") {
    const change = `${name} ${Math.abs(changeK).toFixed(1)} ± ${width(u95K)} K ${verdict}${at && ` ${at}`}`;
    if (!limit) return change;
    return verdict === "hotter" ? `${change} and ${still}${limit}` : `${change}, but still ${limit}`;
  }
  if (limit) return `${name} ${still}${limit}`;
  return `${name}: ${known ? "no real change" : "not known yet"}`;
}
