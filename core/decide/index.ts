/**
 * Answers 'open it or leave it?' from what is known of a card.
 *
 * Model: one ordered table of rules (`rules.ts`), each with its source; efforts in `materials.ts`. Units: K, minutes, the workshop's
 * currency. Limits: rules of the trade, not law; warranty is asked for, never judged.
 */
export { advise, expectedGain } from "./advice.ts";
export { EFFORT } from "./materials.ts";
export type { Advice, AdviceInput, ExpectedGain, Reason, SimilarGain, Work } from "./terms.ts";
