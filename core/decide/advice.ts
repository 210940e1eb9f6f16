import { EFFORT } from "./materials.ts";
import { afford, RULES } from "./rules.ts";
import type { Advice, AdviceInput, ExpectedGain, Reason, SimilarGain, Work } from "./terms.ts";

/**
 * Recommends what to do with a card, from the table of rules: all rules that have something to say are reasons, the first that
 * decides makes the recommendation, money may then move it.
 */
export function advise(input: AdviceInput): Advice {
  let recommended: Work | undefined;
  const reasons: Reason[] = [];
  for (const rule of RULES) {
    const said = rule.says(input);
    // The last rule speaks only where no other has decided.
    if (!said || (rule.fallback && recommended !== undefined)) continue;
    const decides = said.decides && recommended === undefined;
    if (decides) recommended = said.speaksFor;
    reasons.push({ rule: rule.id, source: rule.source, ...said, decides });
  }
  const { work, reason } = afford(recommended ?? "leave", input.worth);
  if (reason) reasons.unshift(reason);
  reasons.sort((a, b) => Number(b.decides) - Number(a.decides));
  return { recommended: work, reasons, expected: input.expected, effort: EFFORT[work], efforts: EFFORT };
}

/** Spread of a gain that is worked out from this run's own figures instead of similar services, as a share (a guess that says so). */
const PHYSICS_SPREAD = 0.45;

/**
 * What the work is expected to bring.
 * @param similar what services of cards with the same leading cause brought; null where there are none
 * @param physicsK what this run shows above healthy figures, K
 * @example
 * ```ts
 * expectedGain({ gainK: 6, sdK: 1, services: 3 }, 0).gainK // => 6
 * ```
 */
export function expectedGain(similar: SimilarGain | null, physicsK: number): ExpectedGain {
  if (similar && similar.services >= 3)
    return {
      ...similar,
      words: `${similar.services} services here with the same leading cause, each weighed by how sure it is.`,
    };
  const gainK = Math.max(0, physicsK);
  return {
    gainK,
    sdK: Math.max(1.2, PHYSICS_SPREAD * gainK),
    services: similar?.services ?? 0,
    words:
      "From this run’s own figures: what compound, fins or pads take beyond healthy ones. Too few similar services yet.",
  };
}
