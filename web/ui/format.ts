import { format, formatDistanceToNow, parseISO } from "date-fns";

export const ROLE_NAMES: Record<string, string> = {
  edge: "Edge",
  hotspot: "Hotspot",
  memory: "Memory",
  vrm: "VRM",
  ambient: "Room air",
  coolant: "Coolant",
  probe: "Probe",
  fanRpm: "Fan speed",
  fanPct: "Fan duty",
  power: "Power",
  powerLimit: "Power limit",
  coreClock: "Core clock",
  memoryClock: "Memory clock",
  load: "Load",
  voltage: "Voltage",
  sound: "Sound",
  frameRate: "Frame rate",
  time: "Time",
};

export const roleName = (role: string | null): string => (role === null ? "Not used" : (ROLE_NAMES[role] ?? role));

/** A figure with a true minus sign, or a dash where there is none. */
export function figure(value: number | null | undefined, digits = 1): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "–";
  const text = value.toFixed(digits);
  return Number(text) === 0 ? text.replace("-", "") : text.replace("-", "−");
}

export function signed(value: number | null | undefined, digits = 1): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "–";
  const text = Math.abs(value).toFixed(digits);
  // No sign for nothing: "±0.0" would read as a width.
  if (Number(text) === 0) return text;
  return `${value > 0 ? "+" : "−"}${text}`;
}

/** A half-width: never shown as nothing, because no interval is. */
export function widthOf(value: number | null | undefined, digits = 1): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "–";
  return Math.max(value, 10 ** -digits).toFixed(digits);
}

export const day = (iso: string): string => format(parseISO(iso), "d MMM yyyy");

/** The person's own day, as forms and files write it: 2026-11-28. */
export const today = (): string => format(new Date(), "yyyy-MM-dd");

export const dateTime = (iso: string): string => format(parseISO(iso), "d MMM yyyy, HH:mm");

export const clock = (iso: string): string => format(parseISO(iso), "HH:mm");

/** Moments as the reader's own language writes them. The first one loads what Node and browsers know of languages, so it is made when it is needed. */
export function momentFormat(parts: Intl.DateTimeFormatOptions): (ms: number) => string {
  let made: Intl.DateTimeFormat | undefined;
  return (ms) => (made ??= new Intl.DateTimeFormat(undefined, parts)).format(ms);
}
export const timeOfDay = momentFormat({ hour: "2-digit", minute: "2-digit" });
export const weekdayTime = momentFormat({ weekday: "short", hour: "2-digit", minute: "2-digit" });

export const ago = (iso: string): string => formatDistanceToNow(parseISO(iso), { addSuffix: true });

/** Nobody lets a part get hotter than that: beyond it an estimate says no more. */
const HOTTEST_C = 200;

/** An estimated temperature of a part; one that would burn is not given in figures. */
export const partTemperature = (valueC: number | null | undefined): string =>
  valueC !== null && valueC !== undefined && valueC > HOTTEST_C
    ? `over ${HOTTEST_C} °C: do not run`
    : `${figure(valueC, 0)} °C`;

/** In decimal megabytes, as file managers count. */
export const fileSize = (bytes: number): string => `${figure(bytes / 1e6, bytes < 1e8 ? 1 : 0)} MB`;

export function span(seconds: number): string {
  const whole = Math.round(seconds);
  const minutes = Math.floor(whole / 60);
  return `${minutes}:${String(whole % 60).padStart(2, "0")}`;
}
