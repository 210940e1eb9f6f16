import { and, asc, eq, gte, isNull, sql } from "drizzle-orm";
import type { CompoundFacts } from "#contract";
import { heatCycles } from "#core/handwork/index.ts";
import { leadRun } from "#core/service/index.ts";
import type { Reader } from "../../db/open.ts";
import { liveRuns, runs, services } from "../../db/schema.ts";
import type { Context } from "../../services/context.ts";

/** What the baseline tells of the layer that is on the die: the jump of the edge within seconds of a load step, and the power. */
export async function readCompoundFacts({ store: { db } }: Context, serviceId: string): Promise<CompoundFacts> {
  const rows = await db
    .select({
      side: runs.side,
      fanMode: runs.fanMode,
      name: runs.name,
      symptoms: runs.symptoms,
      attempt: runs.attempt,
      loads: sql<number>`coalesce(json_array_length(${runs.analysis}, '$.loads'), 1)`,
    })
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
    cycles: await cyclesOf(db, serviceId, rows),
  };
}

/** Loads that were logged after the work of this attempt, and cycles that a test bench led meanwhile. */
async function cyclesOf(
  db: Reader,
  serviceId: string,
  rows: ReadonlyArray<{ side: string; attempt: number; loads: number }>,
): Promise<number> {
  const [service] = await db.select({ attempts: services.attempts }).from(services).where(eq(services.id, serviceId));
  const attempt = (service?.attempts.length ?? 0) + 1;
  const live = await db
    .select({ protocol: liveRuns.protocol, elapsedS: liveRuns.elapsedS })
    .from(liveRuns)
    .where(
      and(
        eq(liveRuns.serviceId, serviceId),
        eq(liveRuns.side, "after"),
        gte(liveRuns.startedAt, service?.attempts.at(-1)?.startedAt ?? ""),
      ),
    );
  return heatCycles({
    loads: rows.filter((run) => run.side === "after" && run.attempt === attempt).map(({ loads }) => loads),
    live: live.map(({ protocol, elapsedS }) => ({ steps: protocol.steps, elapsedS })),
  });
}
