import { and, eq, isNull } from "drizzle-orm";
import { NO_BASELINE } from "#contract";
import { Problem } from "#core";
import { leakGate } from "#core/coolers/index.ts";
import type { Reader, Transaction } from "../db/open.ts";
import { coolerPlans, coolers, runs, type services } from "../db/schema.ts";

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

/** No power on a card with water through its cooler before its loop was seen to be tight, or somebody took that on. */
export async function needTight(db: Reader, serviceId: string): Promise<void> {
  const [found] = await db
    .select({ plan: coolerPlans.plan, cooler: coolers.cooler })
    .from(coolerPlans)
    .innerJoin(coolers, eq(coolers.id, coolerPlans.coolerId))
    .where(eq(coolerPlans.serviceId, serviceId));
  const gate = found ? leakGate(found.cooler, found.plan.leak) : "dry";
  if (gate !== "to test" && gate !== "leaking") return;
  throw new Problem({
    code: "leak-test-first",
    what: gate === "leaking" ? "Its loop of water leaks." : "Its loop of water was not tested for leaks yet.",
    remedy:
      "Test it under pressure on the page of its cooler first; water on a card under power can hurt you and ends the card.",
  });
}
