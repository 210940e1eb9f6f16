import type { Cause } from "../diagnose/index.ts";
export type Work = "leave" | "clean" | "repaste" | "pads" | "fans" | "premium" | "cooler" | "not-worth";

export interface AdviceInput {
  /** Rise of the edge (or hotspot) at load, K; null without room air. */
  riseK: number | null;
  causes: ReadonlyArray<{ cause: Cause; probability: number }>;
  /** What healthy cards of this board model show in this shop; null while none is known. */
  model: { meanK: number; sdK: number; cards: number } | null;
  overLimit: ReadonlyArray<{ role: string; valueC: number; limitC: number }>;
  expected: ExpectedGain;
  /** What the card is worth, in the workshop's currency. */
  worth: number | null;
  ageYears: number | null;
  useKind: string;
  warranty: string;
}

/** What similar services brought. */
export interface SimilarGain {
  /** Cooler by this, K. */
  gainK: number;
  /** Standard deviation of the next one's, K. */
  sdK: number;
  /** Services it rests on. */
  services: number;
}

/** Services are those it rests on; 0 when it comes from the physics of this run alone. */
export interface ExpectedGain extends SimilarGain {
  words: string;
}

export interface Reason {
  rule: string;
  speaksFor: Work;
  text: string;
  figure: string;
  source: string;
  /** True for the one (or two, with money) that made the recommendation. */
  decides: boolean;
}

export interface Advice {
  recommended: Work;
  reasons: Reason[];
  expected: ExpectedGain;
  effort: Effort;
  /** Every choice with its effort, to overrule with open eyes. */
  efforts: Record<Work, Effort>;
}

export interface Effort {
  /** Material, in the workshop's currency. */
  material: number;
  minutes: number;
  risk: "none" | "low" | "some" | "high";
  riskWords: string;
}

/** One rule of the trade: looks at what is known and says what it speaks for, with its figure. */
export interface Rule {
  id: string;
  source: string;
  /** Has a say only where no other rule decided. */
  fallback?: boolean;
  /** @returns null when the rule has nothing to say */
  says(input: AdviceInput): { speaksFor: Work; decides: boolean; text: string; figure: string } | null;
}
