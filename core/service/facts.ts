import type { Comparison, TuningDifference } from "../compare/index.ts";
import type { LeakGate } from "../coolers/index.ts";
import type { Outcome } from "../outcome/index.ts";
import type { Analysis } from "../soak/index.ts";
import type { Gains } from "./gains.ts";

/** What a service's stations read of one run. */
export interface RunFacts {
  id: string;
  side: "before" | "after";
  name: string;
  fanMode: "fixed" | "automatic" | "unknown";
  /** As it was set, %; null where nobody said. */
  fanPct: number | null;
  /** Which attempt an after-run proves, from 1. */
  attempt: number;
  /** Why it does not count; empty where it does. */
  leftOut: string;
  analysis: Analysis;
}

/** Two runs of a service that were compared, or two groups of repeated ones. */
export interface PairFacts {
  /** The newest run of each group. */
  beforeId: string;
  afterId: string;
  /** All runs that were pooled for it. */
  beforeIds: string[];
  afterIds: string[];
  /** Settings of the card that differ, and what that does to the answer. */
  tuning: TuningDifference[];
  /** What the gain is worth besides kelvins. */
  gains: Gains;
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
  /** What the first power-on did not pass, in words; first things first. */
  failed?: readonly string[];
  /** What was decided, as an id of the choices; null while nothing was. */
  choice: string | null;
  /** Kinds of work that were noted. */
  work: readonly string[];
  /** Whether water runs through its cooler, and what is known of its tightness; missing where it has no other cooler. */
  leak?: LeakGate;
  runs: readonly RunFacts[];
  /** The attempt that is being made or was made last, from 1. */
  attempt: number;
  /** Pairs of the attempt that counts: the last one with a run that does. */
  pairs: readonly PairFacts[];
}
