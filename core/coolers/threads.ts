/** Metric coarse threads are named for their diameter (ISO 261); UNC number n measures 0.060 + 0.013 n inch (ASME B1.1, from memory). */
const METRIC = /^M(\d{1,2}(?:\.\d{1,2})?)$/;
const UNC = /^#?(\d{1,2})-\d{2}(?: UNC)?$/;
const UNC_MM = { base: 0.06 * 25.4, step: 0.013 * 25.4 };

/**
 * Outer diameter of a thread by its name, mm; null for a name that is none.
 * @example
 * ```ts
 * threadDiameterMm("M2.5") // => 2.5
 * ```
 */
export function threadDiameterMm(name: string): number | null {
  const metric = METRIC.exec(name.trim())?.[1];
  if (metric !== undefined) {
    const mm = Number(metric);
    return mm >= 1 && mm <= 12 ? mm : null;
  }
  const number = UNC.exec(name.trim())?.[1];
  return number === undefined || Number(number) > 12 ? null : UNC_MM.base + UNC_MM.step * Number(number);
}

const NAMED = /(M\d{1,2}(?:\.\d{1,2})?|#?\d{1,2}-\d{2}(?: UNC)?)\s*[x×]\s*(\d{1,3}(?:[.,]\d{1,2})?)/i;

/**
 * Thread and length of a screw by what it is called in the stores; null where the name does not say.
 * @example
 * ```ts
 * screwNamed("cross head M2.5 × 8, black") // => { thread: "M2.5", lengthMm: 8 }
 * ```
 */
export function screwNamed(name: string): { thread: string; lengthMm: number } | null {
  const [, thread = "", length = ""] = NAMED.exec(name) ?? [];
  const lengthMm = Number(length.replace(",", "."));
  return threadDiameterMm(thread.toUpperCase()) !== null && lengthMm >= 0.5 && lengthMm <= 100
    ? { thread: thread.toUpperCase(), lengthMm }
    : null;
}
