import type { ServiceFacts } from "./facts.ts";

/**
 * What one station makes of a service's facts. `own` is what the station's folder on the server loaded for it.
 * Everything is text or a yes: arithmetic stands behind it in `core`.
 */
export interface StationRule<Own = unknown> {
  /** The station's one figure; empty while it has none. */
  figure(facts: ServiceFacts, own: Own): string;
  done(facts: ServiceFacts, own: Own): boolean;
  /** Whether it comes up as the next one by itself; usually yes. */
  wanted?(facts: ServiceFacts, own: Own): boolean;
  /** What the Bench says when it is next. */
  todo: string;
  /** Figures of a station that was prepared ahead of the work do not tell how the card is. */
  mayRunAhead?: boolean;
  /** The figure says nothing of the card's cooling, so the Bench does not lead with it. */
  quiet?: boolean;
  /** What runs by itself at this station. */
  clocks?(facts: ServiceFacts, own: Own): readonly Clock[];
}

/** Something that runs by itself until a moment: a part that dries, a joint that sets. */
export interface Clock {
  id: string;
  what: string;
  /** ms since 1970. */
  fromMs: number;
  /** Null where it never ends. */
  untilMs: number | null;
}

/** One line of the table of stations. */
export interface StationRow {
  id: string;
  title: string;
  rule: StationRule<never>;
}
