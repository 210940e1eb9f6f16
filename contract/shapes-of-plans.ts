import * as v from "valibot";
import { GAP_SOURCES, OLD_PAD_SOFTNESS, OLD_PAD_STATES } from "#core/gaps/index.ts";
import { CHOICE_IDS } from "./choices.ts";

export const GapReading = v.object({
  id: v.string(),
  partId: v.string(),
  source: v.picklist(GAP_SOURCES),
  valueMm: v.number(),
  padState: v.picklist(OLD_PAD_STATES),
  softness: v.picklist(OLD_PAD_SOFTNESS),
  card: v.string(),
});
const Reason = v.object({
  rule: v.string(),
  speaksFor: v.picklist(CHOICE_IDS),
  text: v.string(),
  figure: v.string(),
  source: v.string(),
  decides: v.boolean(),
});
const SimilarGain = v.object({
  gainK: v.number(),
  sdK: v.number(),
  services: v.number(),
});
const ExpectedGain = v.object({
  ...SimilarGain.entries,
  words: v.string(),
});
export const Effort = v.object({
  material: v.number(),
  minutes: v.number(),
  risk: v.picklist(["none", "some", "low", "high"]),
  riskWords: v.string(),
});
export const Advice = v.object({
  recommended: v.picklist(CHOICE_IDS),
  reasons: v.array(Reason),
  expected: ExpectedGain,
  effort: Effort,
  efforts: v.object(v.entriesFromList(CHOICE_IDS, Effort)),
});
const Wear = v.object({
  lifeCycles: v.number(),
  sdLog: v.number(),
  cards: v.number(),
  driftPer1000K: v.number(),
  u95Per1000K: v.number(),
});
export const NextService = v.object({
  months: v.number(),
  lowMonths: v.number(),
  highMonths: v.nullable(v.number()),
  cyclesPerMonth: v.number(),
  wear: Wear,
});
export const Bringing = v.object({
  gainK: v.number(),
  u95K: v.number(),
  mends: v.number(),
});
const PlannedBlock = v.object({
  serviceId: v.string(),
  id: v.string(),
  kind: v.picklist(["hands", "bench", "rack"]),
  begun: v.boolean(),
  held: v.boolean(),
  startMs: v.number(),
  endMs: v.number(),
  lane: v.number(),
  why: v.string(),
});
const Kept = v.object({
  serviceId: v.string(),
  endMs: v.number(),
  surelyMs: v.number(),
  promisedMs: v.nullable(v.number()),
  chance: v.nullable(v.number()),
});
export const DayPlan = v.object({
  madeMs: v.number(),
  blocks: v.array(PlannedBlock),
  kept: v.array(Kept),
  risk: v.nullable(
    v.object({
      serviceId: v.string(),
      chance: v.number(),
      saves: v.string(),
    }),
  ),
  testsLate: v.array(v.string()),
  newcomerMs: v.number(),
});
const Coefficient = v.object({
  name: v.string(),
  estimate: v.number(),
  se: v.number(),
  u95: v.number(),
  df: v.number(),
  p: v.number(),
});
const Group = v.object({
  level: v.string(),
  k: v.number(),
  meanK: v.number(),
  u95K: v.number(),
});
const Contrast = v.object({
  a: v.string(),
  b: v.string(),
  differenceK: v.number(),
  u95K: v.number(),
  pHolm: v.number(),
});
export const Findings = v.object({
  k: v.number(),
  tau2: v.number(),
  clusterTau2: v.nullable(v.number()),
  i2Pct: v.number(),
  q: v.number(),
  qDf: v.number(),
  coefficients: v.array(Coefficient),
  groups: v.array(Group),
  contrasts: v.array(Contrast),
  leftOut: v.number(),
  clusters: v.nullable(v.number()),
});
export const Fins = v.object({
  widthMm: v.number(),
  lengthMm: v.number(),
  baseMm: v.number(),
  finHeightMm: v.number(),
  finThickMm: v.number(),
  count: v.number(),
});
