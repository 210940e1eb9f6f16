import type { BenchChannel } from "#core";
import { cellFigure, guessFromHeader } from "#core/runfile/index.ts";

const [COMMA, DOT] = [",", "."].map((sign) => sign.charCodeAt(0)) as [number, number];

const figureIn = (value: unknown, decimalComma: boolean): ReturnType<typeof cellFigure> => {
  if (typeof value === "number") return { value: Number.isFinite(value) ? value : Number.NaN };
  if (value === null || value === undefined) return { value: Number.NaN };
  return cellFigure(String(value).trim(), decimalComma ? COMMA : DOT);
};

/** Reads a number as the reader of logs does; NaN for a gap, undefined for text that is no number. */
export const numberIn = (value: unknown, decimalComma = false): number | undefined =>
  figureIn(value, decimalComma)?.value;

/** What a cell says in the units that are kept: by the header's unit, or by its own where the header has none. */
export function valueIn(
  { unit, scale, offset }: { unit: string | null; scale: number; offset: number },
  value: unknown,
  decimalComma = false,
): number | undefined {
  const figure = figureIn(value, decimalComma);
  if (!figure) return undefined;
  const own = unit === null ? figure.unit : undefined;
  return figure.value * (own?.scale ?? scale) + (own?.offset ?? offset);
}

/** Channels from headers, with units and roles guessed as in a log. */
export function channelsFrom(headers: readonly string[]): Array<BenchChannel & { scale: number; offset: number }> {
  return headers.map((header) => {
    const { role, unit } = guessFromHeader(header);
    return { header, role, unit: unit?.symbol ?? null, scale: unit?.scale ?? 1, offset: unit?.offset ?? 0 };
  });
}
