/**
 * Leads a test bench through a protocol: idle, load, rest, cool down, next run; stops when the answer is known or a limit is met.
 *
 * Model: a state machine fed with samples; the early stop is `lookAhead` of `soak`. Units: s, °C, %, dBA.
 * Limits: one card per bench; noise is matched by the fan law of sound, not by a search for the quietest duty.
 */
export type { Protocol, ProtocolStep, RunMade } from "./protocol.ts";
export { asBefore, minutesAhead, PROTOCOLS } from "./protocol.ts";
export type { BenchChannel, RunnerState, SafetyLimits, Setting } from "./runner.ts";
export { ProtocolRunner } from "./runner.ts";
