/**
 * What a service came to, for the whole card: every sensor of a comparison, the hotspot gap, the fan, and limits in the warmest room.
 *
 * Model: changes and intervals of `compare`, widened so that all claims hold together (Šidák). Units: K, °C, %. Limits: rises are taken to
 * the warmest room as they are; a fan on automatic would turn faster there.
 */
export type { CardSensor, Outcome, OutcomeInput } from "./outcome.ts";
export { needsReason, outcomeOf } from "./outcome.ts";
export type { Reader } from "./words.ts";
export { headlineOf, nameFor } from "./words.ts";
