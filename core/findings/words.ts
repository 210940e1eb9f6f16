import type { Contrast } from "./findings.ts";
import type { Lopsided } from "./lopsided.ts";
import { moreNeeded } from "./more-needed.ts";

const TOLD_APART = 0.05;
const digits = (value: number): string => value.toFixed(1);
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/**
 * A contrast as one would say it.
 * @param count services in both groups together
 */
export function contrastWords({ a, b, differenceK, u95K, pHolm }: Contrast, count: number): string {
  const size = `${digits(Math.abs(differenceK))} ± ${digits(u95K)} K`;
  if (pHolm < TOLD_APART && Math.abs(differenceK) > u95K)
    return `${capital(a)} against ${b}: ${size} ${differenceK < 0 ? "cooler" : "warmer"}.`;
  const more = moreNeeded(differenceK, u95K, count);
  const rest =
    more === undefined
      ? "hundreds more services would not tell them apart"
      : more === 0
        ? "too many pairs were looked at for that"
        : `about ${more} more services would`;
  return `${capital(a)} against ${b}: ${size}; not told apart; ${rest}.`;
}

/** What sets two groups apart besides what they are compared by. */
export function lopsidedWords({ a, b, aMean, bMean, isWhole }: Lopsided, label: string): string {
  const figures = aMean !== null && bMean !== null ? ` (${digits(aMean)} against ${digits(bMean)} on average)` : "";
  return isWhole
    ? `${capital(a)} and ${b} share no ${label.toLowerCase()}${figures}: which of the two made the difference can’t be told.`
    : `${capital(a)} and ${b} differ in ${label.toLowerCase()} as well${figures}: adjust for it, or read their difference with care.`;
}
