import type { Lot, Offer } from "#contract";

const round = (mm: number): number => Math.round(mm * 10) / 10;

/** Such as '1.5 mm · 85 × 45 mm'. */
export const sizeOf = ({ thicknessMm, widthMm, heightMm, label }: Lot | Offer): string =>
  [
    thicknessMm === null ? "" : `${thicknessMm} mm`,
    widthMm === null || heightMm === null ? "" : `${round(widthMm)} × ${round(heightMm)} mm`,
    label,
  ]
    .filter(Boolean)
    .join(" · ") || "lot";

/** Sheets and pieces are counted, grams and millilitres measured. */
export const plural = (amount: number, unit: string): string =>
  amount !== 1 && (unit === "sheet" || unit === "piece") ? `${unit}s` : unit;
