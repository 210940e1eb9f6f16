import type { BenchChannel } from "#core";
import { guessFromHeader } from "#core/runfile/index.ts";

/** Reads a number as loggers write it; NaN for a gap, undefined for text that is no number. */
export function numberIn(value: unknown, decimalComma = false): number | undefined {
  if (typeof value === "number") return Number.isFinite(value) ? value : Number.NaN;
  if (value === null || value === undefined) return Number.NaN;
  const text = String(value).trim();
  if (text === "" || text === "-" || /^(n\/?a|nan|null)$/i.test(text)) return Number.NaN;
  const number = Number(decimalComma ? text.replace(",", ".") : text);
  return Number.isFinite(number) ? number : undefined;
}

/** Channels from headers, with units and roles guessed as in a log. */
export function channelsFrom(headers: readonly string[]): Array<BenchChannel & { scale: number; offset: number }> {
  return headers.map((header) => {
    const { role, unit } = guessFromHeader(header);
    return { header, role, unit: unit?.symbol ?? null, scale: unit?.scale ?? 1, offset: unit?.offset ?? 0 };
  });
}
