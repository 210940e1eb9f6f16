/**
 * Fans: their laws, how one coasts down, how one does beside its twin, whether one can stand in for another.
 *
 * Model: affinity laws; −dω/dt = a + bω + cω² of a fan that coasts down. Units: dB, rpm (any one unit for both), rad/s, s, mm. Sources: fan
 * affinity laws (AMCA/ISO 5801); sound about 50·log₁₀ of the speed ratio (fan engineering handbooks, from memory). Limits: similar fans; air
 * that is not stirred by another fan.
 */

export type { Coast, Measured95 } from "./coast.ts";
export { coastInLog, fitCoast, frictionRatio, frictionWords } from "./coast.ts";
export { addLevelsDb, bladePassHz, levelChangeDb } from "./laws.ts";
export type { FanLabel } from "./replace.ts";
export { labelFrom, replaces } from "./replace.ts";
export { dutyChange, twinWords } from "./twins.ts";
