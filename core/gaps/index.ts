/**
 * Infers pad gaps with their uncertainty from caliper readings of old pads, guide values, like places and earlier cards.
 *
 * Model: normal differences between kinds, places and cards; readings as gap times a factor for jaw squeeze, set and recovery.
 * Units: mm. Sources: propagation of uncertainty after JCGM 100:2008; factors and spreads are common practice without a source.
 * Limits: a place of a different height than its kin needs a reading of its own.
 */
export type { GapInference, GapPlace } from "./infer.ts";
export { inferGaps } from "./infer.ts";
export type { GapReading, GapSource, OldPadSoftness, OldPadState } from "./readings.ts";
export { GAP_SOURCES, OLD_PAD_SOFTNESS, OLD_PAD_STATES, parseReadings, readingModel } from "./readings.ts";
