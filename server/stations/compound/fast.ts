import { and, asc, eq, isNull } from "drizzle-orm";
import type { CompoundFacts } from "#contract";
import { leadRun } from "#core/service/index.ts";
import { runs } from "../../db/schema.ts";
import type { Context } from "../../services/context.ts";

/** What the baseline tells of the layer that is on the die: the jump of the edge within seconds of a load step, and the power. */
export async function readCompoundFacts({ store: { db } }: Context, serviceId: string): Promise<CompoundFacts> {
  const rows = await db
    .select({ side: runs.side, fanMode: runs.fanMode, name: runs.name, symptoms: runs.symptoms })
    .from(runs)
    .where(and(eq(runs.serviceId, serviceId), eq(runs.leftOut, ""), isNull(runs.deletedAt)))
    .orderBy(asc(runs.createdAt));
  const lead = leadRun(
    rows.filter(({ symptoms }) => symptoms?.step),
    "before",
  );
  const step = lead?.symptoms?.step;
  return {
    run: lead?.name ?? null,
    fast: step ? { value: step.kPerW, sd: step.sd } : null,
    powerW: lead?.symptoms?.powerW ?? null,
  };
}
