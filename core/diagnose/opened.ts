import type { Cause } from "./causes.ts";

/** What was seen once the card lay open; null where nobody looked. */
export interface Opened {
  compound: "moist" | "dry" | "cracked" | "gone" | null;
  /** Shares of the die by its imprint. */
  bareShare: number | null;
  /** Contact was lost on one side or at a corner. */
  lopsided: boolean;
  /** What the imprint says, in words. */
  words: string;
}

/** Seen as often as this where the cause is at work, over how often it is seen on any card (common practice of the trade, no source). */
const DRY = { "dry-paste": 3, healthy: 0.5 } as const;
const MOIST = { "dry-paste": 0.4 } as const;
const LOPSIDED = { "cooler-held-off": 4, "dry-paste": 0.8, healthy: 0.4 } as const;
const BARE = { "dry-paste": 2, "cooler-held-off": 1.5, healthy: 0.4 } as const;
const WHOLE = { "cooler-held-off": 0.4 } as const;
/** From here on a die counts as bare in part. */
const BARE_FROM = 0.06;

type Table = Readonly<Partial<Record<Cause, number>>>;

function tablesOf({ compound, bareShare, lopsided }: Opened): Table[] {
  const tables: Table[] = [];
  if (compound === "dry" || compound === "cracked" || compound === "gone") tables.push(DRY);
  if (compound === "moist") tables.push(MOIST);
  if (lopsided) tables.push(LOPSIDED);
  else if (bareShare !== null) tables.push(bareShare >= BARE_FROM ? BARE : WHOLE);
  return tables;
}

/** How much more or less likely a cause is by what was seen on the open card. */
export const openedFactor = (cause: Cause, opened: Opened): number =>
  tablesOf(opened).reduce((factor, table) => factor * (table[cause] ?? 1), 1);

/** What of it speaks for a cause, in words. */
export function openedEvidence(cause: Cause, opened: Opened): string[] {
  const { compound, lopsided, words } = opened;
  const found: string[] = [];
  if (cause === "cooler-held-off" && lopsided) found.push(words);
  if (cause === "dry-paste") {
    if (compound === "dry" || compound === "cracked" || compound === "gone")
      found.push(`Opened: the old compound was ${compound}.`);
    if (!lopsided && words !== "") found.push(words);
  }
  return found;
}
