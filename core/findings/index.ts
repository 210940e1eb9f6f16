/**
 * What each kind of work brought, over all services that were proved: mixed-effects meta-regression.
 *
 * Model: change of a service = what its columns say + what its cluster adds + what it adds itself + its own error of known size; τ² and the
 * clusters' variance by restricted maximum likelihood. Units: K; a half-width u95 holds 95 %. Limits: clusters are few in a small shop, and
 * what was not noted is not adjusted for.
 */
export type { ResultRow } from "./columns.ts";
export type { Findings } from "./findings.ts";
export { findings } from "./findings.ts";
export { holm } from "./holm.ts";
export { lopsided } from "./lopsided.ts";
export { moreNeeded } from "./more-needed.ts";
export { paperChange } from "./paper.ts";
export { readResults } from "./read-results.ts";
export { contrastWords, lopsidedWords } from "./words.ts";
