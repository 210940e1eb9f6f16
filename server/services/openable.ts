import { and, eq, isNull } from "drizzle-orm";
import { NO_BASELINE } from "#contract";
import { Problem } from "#core";
import type { Transaction } from "../db/open.ts";
import { runs, type services } from "../db/schema.ts";

/** Nothing is opened before it has run, or without a reason on record why it did not; what is set aside stays closed. */
export async function needOpenable(tx: Transaction, service: typeof services.$inferSelect): Promise<void> {
  if (service.powerOn?.setAside)
    throw new Problem({
      code: "set-aside",
      what: `This card is set aside: ${service.powerOn.setAside}.`,
      remedy: "Take that back under Take in before you work on it.",
    });
  if (service.skips.baseline) return;
  const [baseline] = await tx
    .select({ id: runs.id })
    .from(runs)
    .where(and(eq(runs.serviceId, service.id), eq(runs.side, "before"), isNull(runs.deletedAt)))
    .limit(1);
  if (!baseline)
    throw new Problem({
      code: "baseline-first",
      what: `This card has no baseline: ${NO_BASELINE}.`,
      remedy: "Run the baseline first, or skip it there with a reason.",
    });
}
