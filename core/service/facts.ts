import type { Comparison } from "../compare/index.ts";
import type { Outcome } from "../outcome/index.ts";
import type { Analysis } from "../soak/index.ts";

/** What a service's stations read of one run. */
export interface RunFacts {
  id: string;
  side: "before" | "after";
  name: string;
  fanMode: "fixed" | "automatic" | "unknown";
  /** As it was set, %; null where nobody said. */
  fanPct: number | null;
  analysis: Analysis;
}

/** Two runs of a service that were compared. */
export interface PairFacts {
  beforeId: string;
  afterId: string;
  comparison: Comparison;
  /** What it comes to for the whole card. */
  outcome: Outcome;
}

/** What more than one station reads of a service; what only one reads comes from its own folder on the server. */
export interface ServiceFacts {
  /** Reason per skipped station. */
  skips: Readonly<Partial<Record<string, string>>>;
  closed: boolean;
  /** Why the card was set aside at its first power-on; null while it goes on. */
  setAside: string | null;
  /** What was decided, as an id of the choices; null while nothing was. */
  choice: string | null;
  /** Kinds of work that were noted. */
  work: readonly string[];
  runs: readonly RunFacts[];
  pairs: readonly PairFacts[];
}
