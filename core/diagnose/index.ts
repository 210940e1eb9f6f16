/**
 * Says what is probably wrong with a card that runs warm, from one logged run.
 *
 * Model: the answer to a load step is split into a fast part (die, compound) and a slow one (plate, fins, air), after the idea of
 * JEDEC JESD51-14; with hotspot gap, memory and VRM over the plate, fan speeds and room air it is weighed by Bayes' rule
 * against eight causes over their severities. Healthy figures come from a healthy run, the board model's runs, or usual cards.
 * Units: K, W, rpm, °C. Limits: one cause at a time; without a healthy reference only marked faults can be told.
 */
export type { Cause } from "./causes.ts";
export { CAUSE_WORDS, CAUSES } from "./causes.ts";
export type { Diagnosis, Finding } from "./diagnose.ts";
export { DIAGNOSE_VERSION, diagnose, diagnoseSymptoms, reachOf } from "./diagnose.ts";
export type { History } from "./history.ts";
export type { Opened } from "./opened.ts";
export { stepAnswer } from "./step.ts";
export type { Symptoms } from "./symptoms.ts";
export { symptomsOf } from "./symptoms.ts";
