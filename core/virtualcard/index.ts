/**
 * A simulated card on a simulated bench: makes demo data, and logs whose truth is known for the tests.
 *
 * Model: heat stores and resistances from die to room air, fan curve with zero-fan mode, throttling at its limits, dust,
 * dried paste, bad pads, a cooler held off the die; sensors with display step and noise. Seeded: one seed, one run.
 * Limits: lumped, not a field solution; its figures are plausible for a bench, not those of any real card.
 */

export type { CardBuild, CardFaults } from "./card.ts";
export { MIDSIZE } from "./card.ts";
export type { LiveCard } from "./live.ts";
export { LIVE_CHANNELS, liveCard } from "./live.ts";
export type { LogStyle } from "./log.ts";
export { logText } from "./log.ts";
export { randomBuild } from "./random-card.ts";
export type { Bench, RunSpec, Sensors } from "./simulate.ts";
export { settledRises, simulate } from "./simulate.ts";
