/**
 * The computation. No interface, no input or output, no clock; chance only from a seed.
 * Units everywhere: °C for temperatures, K for differences, W, mm, N, kPa, s, rpm, dB.
 */

export type { CompareOptions, Comparison, Cooling, EqualComparison, RoleComparison, Verdict } from "./compare/index.ts";
export { COMPARE_VERSION, compare, fitCooling, pairRuns } from "./compare/index.ts";
export type { Advice, AdviceInput, ExpectedGain, Reason, Work } from "./decide/index.ts";
export { advise, expectedGain } from "./decide/index.ts";
export type { Cause, Diagnosis, Finding, Symptoms } from "./diagnose/index.ts";
export { CAUSE_WORDS, CAUSES, DIAGNOSE_VERSION, diagnose, diagnoseSymptoms, symptomsOf } from "./diagnose/index.ts";
export type { Notice, ProblemDetail } from "./problem/index.ts";
export { Problem } from "./problem/index.ts";
export type { BenchChannel, Protocol, ProtocolStep, RunnerState, SafetyLimits } from "./protocol/index.ts";
export { PROTOCOLS, ProtocolRunner } from "./protocol/index.ts";
export { correctInfrared, EMISSIVITIES } from "./readings/index.ts";
export type { ReadOptions, Role, RunColumn, RunTable, TemperatureRole } from "./runfile/index.ts";
export {
  channel,
  isRole,
  isTemperatureRole,
  ROLES,
  RunReader,
  readRun,
  TEMPERATURE_ROLES,
  tabulate,
} from "./runfile/index.ts";
export type {
  AnalyseOptions,
  Analysis,
  LevelFigures,
  Outlook,
  PhaseStretch,
  Stretch,
  TemperatureFigures,
  TypedFigures,
} from "./soak/index.ts";
export { analyse, levelOf, SOAK_VERSION, temperatureOf, typedAnalysis } from "./soak/index.ts";
