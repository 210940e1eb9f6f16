import type { CutLine } from "#core/cutting/index.ts";

export interface CutMark {
  xMm: number;
  yMm: number;
}

export const MARK_RADIUS_MM = 1.5;
/** Of the letter on a piece. */
export const letterMm = ({ widthMm, heightMm }: { widthMm: number; heightMm: number }): number =>
  Math.min(5, heightMm * 0.5, widthMm * 0.4);

/** Where along a cut its number may stand, first choice first; then just beyond its ends. */
const SHARES = [0.5, 0.25, 0.75, 0.1, 0.9, 0.38, 0.62, 0, 1];
const BEYOND_MM = 1.9;

/** A place for each cut's number: on its line or at its end, clear of letters and of the numbers before it; sheet's mm, y up. */
export function cutMarks(
  cuts: readonly CutLine[],
  pieces: ReadonlyArray<{ xMm: number; yMm: number; widthMm: number; heightMm: number }>,
): CutMark[] {
  const taken = pieces.map((piece) => ({
    xMm: piece.xMm + piece.widthMm / 2,
    yMm: piece.yMm + piece.heightMm / 2,
    radiusMm: 0.5 * letterMm(piece),
  }));
  return cuts.map(({ x0Mm, y0Mm, x1Mm, y1Mm }) => {
    const length = Math.max(1e-6, Math.hypot(x1Mm - x0Mm, y1Mm - y0Mm));
    const places = [...SHARES, -BEYOND_MM / length, 1 + BEYOND_MM / length].map((share) => ({
      xMm: x0Mm + share * (x1Mm - x0Mm),
      yMm: y0Mm + share * (y1Mm - y0Mm),
    }));
    const clearance = (at: CutMark): number =>
      Math.min(
        0,
        ...taken.map((one) => Math.hypot(one.xMm - at.xMm, one.yMm - at.yMm) - one.radiusMm - MARK_RADIUS_MM),
      );
    // Sorting keeps the order of those that are as clear.
    const [best = { xMm: x0Mm, yMm: y0Mm }] = places.sort((a, b) => clearance(b) - clearance(a));
    taken.push({ ...best, radiusMm: MARK_RADIUS_MM });
    return best;
  });
}

const mm = (value: number): string => (Math.round(value * 10) / 10).toString();

/** The cut in words, as a ruler is laid. */
export function cutWords({ x0Mm, y0Mm, x1Mm, y1Mm }: CutLine): string {
  return x0Mm === x1Mm
    ? `${mm(x0Mm)} mm from the left, upright from ${mm(y0Mm)} to ${mm(y1Mm)} mm`
    : `${mm(y0Mm)} mm from the bottom, across from ${mm(x0Mm)} to ${mm(x1Mm)} mm`;
}
