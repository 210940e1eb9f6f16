import { readNumber } from "./number.ts";

const INCH_MM = 25.4;

/**
 * A length as it is typed: `12`, `12,5`, `12.5 mm`, `1.2 cm`, `0.5 in`, `1/2"`.
 * @returns millimetres; undefined when it is none
 * @example
 * ```ts
 * parseLengthMm("0,5 in") // => 12.7
 * ```
 */
export function parseLengthMm(text: string): number | undefined {
  const [, number = "", over, unit = "mm"] =
    /^\s*([+\-−]?\d+(?:[.,]\d+)?)(?:\/(\d+))?\s*(mm|cm|in|inch|inches|["″])?\s*$/i.exec(text) ?? [];
  if (number === "" || over === "0") return undefined;
  const value = Number(number.replace("−", "-").replace(",", ".")) / (over ? Number(over) : 1);
  const scale = /^cm$/i.test(unit) ? 10 : /^mm$/i.test(unit) ? 1 : INCH_MM;
  return Math.round(value * scale * 1000) / 1000;
}

const OUNCE_G = 28.349523125;
const SCALE: Record<string, readonly [base: "g" | "ml", scale: number]> = {
  g: ["g", 1],
  mg: ["g", 1e-3],
  kg: ["g", 1000],
  oz: ["g", OUNCE_G],
  ml: ["ml", 1],
  cm3: ["ml", 1],
  l: ["ml", 1000],
  cl: ["ml", 10],
};

/**
 * An amount as it is typed, in the unit a lot is counted in: `3.5`, `2 ml`, `0.5 oz`; mass and volume change into each other where
 * the density is known. Avoirdupois ounce 28.349523125 g (NIST SP 811).
 * @returns undefined when it is none or may be two, or the density is needed and not known
 * @example
 * ```ts
 * parseAmount("2 ml", "g", 2.5) // => 5
 * ```
 */
export function parseAmount(text: string, unit: string, densityGPerMl: number | null): number | undefined {
  const [, number = "", typed = ""] = /^\s*(\d[\d.,'’ ]{0,40}?)\s*([a-z]+3?)?\s*$/i.exec(text) ?? [];
  const read = readNumber(number);
  if (!read || "either" in read) return undefined;
  return amountIn(read.value, typed.toLowerCase() || unit, unit, densityGPerMl);
}

/**
 * An amount in another unit of mass or volume; the two change into each other where the density is known.
 * @returns undefined when there is no such unit, or the density is needed and not known
 */
export function amountIn(value: number, from: string, unit: string, densityGPerMl: number | null): number | undefined {
  if (from === unit) return value;
  const [base, scale] = SCALE[from] ?? [];
  if (!base || scale === undefined) return undefined;
  if (base === unit) return value * scale;
  if (densityGPerMl === null) return undefined;
  if (base === "ml" && unit === "g") return value * scale * densityGPerMl;
  if (base === "g" && unit === "ml") return (value * scale) / densityGPerMl;
  return undefined;
}
