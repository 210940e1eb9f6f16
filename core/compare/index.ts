/**
 * Tells whether a service changed a card's cooling: rises before and after under equal conditions, with an honest interval.
 *
 * Model: rise ∝ power; a share of the rise scales with a power of the fan speed; room air enters by the rise itself.
 * Units: K, W, rpm, °C; half-widths are 95 % intervals (JCGM 100:2008). Limits: one load; small changes of geometry (another
 * shroud, another case) are beyond it.
 */

export type { CompareOptions, Comparison, EqualComparison, RoleComparison, Verdict } from "./compare.ts";
export { COMPARE_VERSION, compare } from "./compare.ts";

export { differenceOf } from "./conditions.ts";

export type { Cooling } from "./cooling.ts";
export { fanFactor, fitCooling, USUAL_COOLING } from "./cooling.ts";

export { doubtWords } from "./doubts.ts";
export { pairRuns } from "./pair.ts";
export { poolRuns, scatterOf } from "./pool.ts";
export type { Setting, SidePanel } from "./setting.ts";
export { CASES, caseOf, caseWords, checkIntake, loadKey, SIDE_PANELS, tooWarmFor } from "./setting.ts";
export type { Tuning, TuningDifference } from "./tuning.ts";
export { tuningDifferences } from "./tuning.ts";
