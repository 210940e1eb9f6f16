/** What stands in a number field: a number, two that it may be, or none. */
export type NumberRead = { value: number } | { either: readonly [grouped: number, decimal: number] } | undefined;

/** Nobody types a longer one. */
const LONGEST = 200;
const GROUPS = /^\d{1,3}(?:([ .,'’])\d{3})(?:\1\d{3})*$/;

/**
 * Reads a number as people write it: decimal point or comma; thousands parted by blanks, points, commas or apostrophes; a true minus.
 * One point or comma before exactly three figures may be either, and is not guessed.
 * @returns undefined for what is no number
 * @example
 * ```ts
 * readNumber("1.234,5") // => { value: 1234.5 }
 * ```
 */
export function readNumber(text: string): NumberRead {
  if (text.length > LONGEST) return undefined;
  const plain = text.trim().replace(/\s/g, " ").replace(/^[−–]/, "-");
  const sign = plain.startsWith("-") ? -1 : 1;
  const digits = plain.replace(/^[-+] ?/, "");
  const either = /^([1-9]\d{0,2})[.,](\d{3})$/.exec(digits);
  if (either)
    return { either: [sign * Number(`${either[1]}${either[2]}`), sign * Number(`${either[1]}.${either[2]}`)] };
  if (/^\d+(?:[.,]\d*)?$|^[.,]\d+$/.test(digits)) return { value: sign * Number(digits.replace(",", ".")) };
  const parts = /^(.*?)(?:([.,])(\d*))?$/.exec(digits);
  const [, whole = "", mark, rest = ""] = parts ?? [];
  if (GROUPS.test(digits)) return { value: sign * Number(digits.replace(/\D/g, "")) };
  if (mark && GROUPS.test(whole) && !whole.includes(mark))
    return { value: sign * Number(`${whole.replace(/\D/g, "")}.${rest || "0"}`) };
  if (/^\d+(?:\.\d*)?e[-+]?\d+$/i.test(digits)) return { value: sign * Number(digits) };
  return undefined;
}

/** A number as it may be typed, so that `readNumber` knows what it is. */
export function asTyped(value: number): string {
  const text = String(value);
  const read = readNumber(text);
  return read && "either" in read ? `${text}0` : text;
}
