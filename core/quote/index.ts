/**
 * What work on a card costs and is expected to bring, option by option.
 *
 * Model: expected gain of the right work times how likely each kind of work mends what is wrong; sound by the fan laws; money in whole
 * units. Units: K, dB, the currency's smallest unit, min. Limits: gains of other parts than the die are not foretold.
 */
export { meaningOf } from "./meaning.ts";
export type { OfferedWork } from "./quote.ts";
export { bringing, earned, OFFERED, priceTask, quieterBy } from "./quote.ts";
