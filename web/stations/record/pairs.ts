import type { PairedComparison, Run, ServiceView } from "#contract";
import { leadingPair } from "#core/service/index.ts";

export interface RunPair extends PairedComparison {
  before: Run;
  after: Run;
}

/** Pairs with their runs, and the one that is judged. */
export function leadOf({ comparisons, runs }: Pick<ServiceView, "comparisons" | "runs">): {
  pairs: RunPair[];
  lead: RunPair | undefined;
} {
  const pairs = comparisons.flatMap((pair) => {
    const before = runs.find((run) => run.id === pair.beforeId);
    const after = runs.find((run) => run.id === pair.afterId);
    return before && after ? [{ ...pair, before, after }] : [];
  });
  const judged = leadingPair(comparisons);
  return { pairs, lead: pairs.find((pair) => pair.comparison === judged?.comparison) ?? pairs[0] };
}
