/**
 * The units a log may use, how they are spelled, and how they become the units used everywhere inside:
 * °C for temperatures, K for differences, W, V, rpm, %, MHz, s, dBA, frames per second.
 */
export type Quantity =
  | "temperature"
  | "power"
  | "voltage"
  | "speed"
  | "share"
  | "frequency"
  | "duration"
  | "sound"
  | "frames"
  | "other";

export interface Unit {
  /** How the unit is written on screen. */
  symbol: string;
  quantity: Quantity;
  /** inside = file × scale + offset */
  scale: number;
  offset: number;
}

const unit = (symbol: string, quantity: Quantity, scale = 1, offset = 0): Unit => ({ symbol, quantity, scale, offset });

const celsius = unit("°C", "temperature");
const fahrenheit = unit("°F", "temperature", 5 / 9, -160 / 9);
const kelvin = unit("K", "temperature", 1, -273.15);
const rpm = unit("rpm", "speed");
const percent = unit("%", "share");
const second = unit("s", "duration");
const millisecond = unit("ms", "duration", 1e-3);
const dba = unit("dBA", "sound");
const fps = unit("fps", "frames");

/** Spellings in lower case without accents; the first of a unit is the usual one. */
const SPELLINGS: ReadonlyArray<readonly [Unit, string]> = [
  [celsius, "°c|c|degc|deg c|celsius|℃|grad c|grad celsius|oc|ºc|degre c|degres c|degrees c|degree c"],
  [fahrenheit, "°f|f|degf|deg f|fahrenheit|℉|ºf|grad f|degrees f|degree f"],
  [kelvin, "kelvin"],
  [unit("W", "power"), "w|watt|watts"],
  [unit("mW", "power", 1e-3), "mw|milliwatt|milliwatts"],
  [unit("kW", "power", 1e3), "kw"],
  [unit("V", "voltage"), "v|volt|volts"],
  [unit("mV", "voltage", 1e-3), "mv"],
  [rpm, "rpm|u/min|umin|tr/min|upm|1/min|min-1|r/min|rev/min|tours/min|umdr/min"],
  [percent, "%|pct|percent|prozent|pourcent|% pwm"],
  [unit("MHz", "frequency"), "mhz"],
  [unit("GHz", "frequency", 1e3), "ghz"],
  [unit("kHz", "frequency", 1e-3), "khz"],
  [unit("Hz", "frequency", 1e-6), "hz"],
  [second, "s|sec|secs|second|seconds|sek|sekunde|sekunden|seconde|secondes"],
  [millisecond, "ms|msec|millisecond|milliseconds|millisekunden|millisecondes"],
  [unit("µs", "duration", 1e-6), "us|µs|μs"],
  [unit("min", "duration", 60), "min|minutes|minuten"],
  [unit("h", "duration", 3600), "h|hours|stunden|heures"],
  [dba, "dba|db(a)|db a|db"],
  [fps, "fps|frames/s|bilder/s|images/s|img/s|ips"],
  [unit("other", "other"), "mb|gb|mib|gib|kb|kb/s|mb/s|gb/s|gt/s|a|ma|j|x|yes/no|y/n|bool|°|l/h|l/min|gpm|mm|pa|bar"],
];

const BY_SPELLING = new Map<string, Unit>();
for (const [known, spellings] of SPELLINGS) for (const word of spellings.split("|")) BY_SPELLING.set(word, known);

/** No unit is spelled at such length. */
const LONGEST_UNIT = 64;

/**
 * @returns the unit a spelling stands for, in any case, with or without accents; undefined when it is not one.
 * @example
 * ```ts
 * unitOf("U/min")?.symbol // => "rpm"
 * ```
 */
export function unitOf(spelling: string): Unit | undefined {
  if (spelling.length > LONGEST_UNIT) return undefined;
  const plain = spelling
    .trim()
    .toLowerCase()
    .normalize("NFD")
    .replace(/[\u0300-\u036f]/g, "")
    .replace(/\s+/g, " ");
  return BY_SPELLING.get(plain);
}

export { amountIn, parseAmount, parseLengthMm } from "./length.ts";
export { asTyped, type NumberRead, readNumber } from "./number.ts";
export { isWhole, readQuantity, symbolOf, TYPED_UNITS, type TypedUnit } from "./quantity.ts";
