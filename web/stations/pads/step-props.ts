import type { PadJob } from "#contract";
import type { BoardMap } from "#core/boardmap/index.ts";
import type { GapInference } from "#core/gaps/index.ts";
import type { Plan } from "./use-plan.ts";

/** What each step of the pad work is given. */
export interface PadStepProps {
  job: PadJob;
  map: BoardMap;
  gaps: GapInference;
  plan: Plan;
  cardId: string;
}
