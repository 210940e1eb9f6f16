/**
 * What a service's facts come to: state, figure and next step of every station, the one line of a list, the advice.
 *
 * Model: a table of stations, each with a rule over the facts; what hinders most is said before the plain next step.
 * Everything is pure: the server loads facts and stores what comes out. Units: K, °C, mm.
 */
export type { HealthySet } from "./advice.ts";
export { adviceOf, diagnoseAgainst } from "./advice.ts";
export type { CoolerPoint } from "./cooler.ts";
export { coolerSeen, coolerToday } from "./cooler.ts";
export { coolerFace } from "./face.ts";
export type { PairFacts, RunFacts, ServiceFacts } from "./facts.ts";
export type { Change, Gains } from "./gains.ts";
export type { HandsFacts } from "./hands.ts";
export { handsRule, LEFT_ALONE, STAYS_CLOSED } from "./hands.ts";
export { isKnown, leadRun, leadSensor } from "./known.ts";
export { openedByNote } from "./opened.ts";
export type { PairContext } from "./pairs.ts";
export { compareAttempt, comparePairs, gainOf, isSameSetting, leadingPair } from "./pairs.ts";
export type { FanLaw } from "./quiet.ts";
export { quietOf } from "./quiet.ts";
export type { Clock, StationRow, StationRule } from "./rule.ts";
export type { LadderRung } from "./state.ts";
export { mountAgain, stationViews, summarise } from "./state.ts";
export { countOf, signed } from "./words.ts";
