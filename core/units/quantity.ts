import { parseLengthMm } from "./length.ts";
import { type NumberRead, readNumber } from "./number.ts";

/** `whole`: only whole numbers; `coarse`: nobody writes three figures behind the point; `fine`: some do. */
export type Fineness = "whole" | "coarse" | "fine";

/** What stands behind a number that is typed, with how finely it is told; the empty one counts pieces. */
export const TYPED_UNITS = {
  "": "whole",
  rpm: "whole",
  "%": "coarse",
  "°C": "coarse",
  K: "coarse",
  min: "coarse",
  times: "coarse",
  slots: "coarse",
  g: "coarse",
  mL: "coarse",
  µL: "coarse",
  µm: "coarse",
  N: "coarse",
  "N/mm": "coarse",
  GPa: "coarse",
  W: "coarse",
  "W/mK": "coarse",
  "m/s": "coarse",
  dBA: "coarse",
  mm: "fine",
  kPa: "fine",
  "kPa an hour": "fine",
  N·m: "fine",
  "L/min": "fine",
  "K/W": "fine",
  "W/K": "fine",
} as const satisfies Record<string, Fineness>;

/** Money of any currency, with the figures behind its point, or a unit of the trade. */
export type TypedUnit = keyof typeof TYPED_UNITS | { currency: string; digits: number };

const finenessOf = (unit: TypedUnit): Fineness =>
  typeof unit === "string" ? TYPED_UNITS[unit] : unit.digits === 0 ? "whole" : unit.digits < 3 ? "coarse" : "fine";

/** How the unit is written behind a label. */
export const symbolOf = (unit: TypedUnit): string => (typeof unit === "string" ? unit : unit.currency);

/**
 * Reads what was typed into a field of a unit, which may stand behind the number; lengths also in cm and inches. One point or comma before
 * three figures is a decimal one only where the unit is told so finely, or where only that lies within the bounds.
 * @param bounds in the field's unit
 * @returns in the field's unit; both readings where either may be meant, undefined for what is no number
 * @example
 * ```ts
 * readQuantity("1,200 rpm", "rpm", { least: 0, most: 10_000 }) // => { value: 1200 }
 * ```
 */
export function readQuantity(
  text: string,
  unit: TypedUnit,
  { least, most }: { least: number; most: number },
): NumberRead {
  const symbol = symbolOf(unit);
  const plain = text.trim();
  const bare = symbol !== "" && plain.endsWith(symbol) ? plain.slice(0, -symbol.length) : plain;
  const read = readNumber(bare);
  if (read === undefined) {
    const length = unit === "mm" ? parseLengthMm(plain) : undefined;
    return length === undefined ? undefined : { value: length };
  }
  if ("value" in read) return read;
  const [grouped] = read.either;
  const within = read.either.filter((value) => value >= least && value <= most);
  if (within.length === 2 && finenessOf(unit) === "fine") return read;
  return { value: within.length === 1 ? (within[0] ?? grouped) : grouped };
}

/** Whether a unit is told in whole numbers only. */
export const isWhole = (unit: TypedUnit): boolean => finenessOf(unit) === "whole";
