import type { Cause } from "./causes.ts";

/** What is known of a card besides its log; null where nobody knows. Days are those before the run. */
export interface History {
  ageYears: number | null;
  useKind: string;
  repastedDays: number | null;
  padsDays: number | null;
  cleanedDays: number | null;
  fansDays: number | null;
}

/** Work this fresh has not aged; work of a season has hardly (common practice of the trade, no source). */
const FRESH_DAYS = 30;
const SEASON_DAYS = 200;
const YOUNG_YEARS = 1;
const OLD_YEARS = 4;

/**
 * How much more or less often a cause is met on a card with this history than on any (common practice of the trade, no source). Work that was
 * just done takes away what it mends and brings what it may do wrong: pads that hold the cooler off, a plug left out.
 */
export function historyFactor(cause: Cause, history: History): number {
  const { ageYears, useKind, repastedDays, padsDays, cleanedDays, fansDays } = history;
  const young = ageYears !== null && ageYears < YOUNG_YEARS;
  const old = ageYears !== null && ageYears > OLD_YEARS;
  switch (cause) {
    case "dry-paste":
      return since(repastedDays, 0.08, 0.4) * (repastedDays === null ? (young ? 0.4 : old ? 1.5 : 1) : 1);
    case "dust-or-airflow":
      return (
        since(cleanedDays, 0.15, 0.6) *
        (cleanedDays === null ? (young ? 0.6 : useKind === "long constant load" ? 1.3 : 1) : 1)
      );
    case "cooler-held-off":
      return isWithin(padsDays, SEASON_DAYS) ? 2 : isWithin(repastedDays, SEASON_DAYS) ? 1.5 : young ? 0.7 : 1;
    case "memory-pads":
    case "vrm-pads":
      // A cooler that was lifted without new pads may have torn the old ones.
      return isWithin(repastedDays, SEASON_DAYS) && !isWithin(padsDays, SEASON_DAYS) ? 1.5 : 1;
    case "fan-fault":
      return since(fansDays, 0.5, 0.7) * (old ? 1.4 : young ? 0.6 : 1);
    default:
      return 1;
  }
}

const isWithin = (days: number | null, most: number): boolean => days !== null && days <= most;

function since(days: number | null, fresh: number, season: number): number {
  return isWithin(days, FRESH_DAYS) ? fresh : isWithin(days, SEASON_DAYS) ? season : 1;
}
