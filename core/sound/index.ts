/**
 * Listens to a recording of a card's fans: A-weighted level, bands, the blade-pass line, a tick once per turn.
 *
 * Model: Welch spectrum with A-weighting of IEC 61672-1; a comb of harmonics in the energy's own spectrum for ticks. Units: Hz, dB,
 * rpm; levels are relative to full scale until a calibration is added. Limits: one steady fan speed per recording; a phone's
 * microphone changes its gain unless that is switched off.
 */
export { aWeightingDb } from "./a-weighting.ts";
export { fallingLine } from "./fall.ts";
export type { FanHint, SoundFindings } from "./listen.ts";
export { listen } from "./listen.ts";
export { spectrumOf } from "./spectrum.ts";
