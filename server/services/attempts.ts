import { eq } from "drizzle-orm";
import type { RunInput } from "#contract";
import { Problem } from "#core";
import { needsReason } from "#core/outcome/index.ts";
import { isSameSetting, leadingPair } from "#core/service/index.ts";
import type { Transaction } from "../db/open.ts";
import { services } from "../db/schema.ts";
import { type Context, changeService, notFound, record } from "./context.ts";
import { loadFacts } from "./facts.ts";
import { readSettings } from "./settings.ts";

const MOST_ATTEMPTS = 50;

/** Begins another attempt: what is run after it proves that one. @throws Problem `too-many` */
export async function beginAttempt({ store }: Context, serviceId: string, changed: string): Promise<void> {
  await store.write(async (tx) => {
    await changeService(tx, serviceId, ({ attempts }) => {
      if (attempts.length + 2 > MOST_ATTEMPTS)
        throw new Problem({
          code: "too-many",
          what: `A service may have ${MOST_ATTEMPTS} attempts.`,
          remedy: "Hand it over and take it in again.",
        });
      return { attempts: [...attempts, { changed, startedAt: store.now() }] };
    });
    await record(store, tx, "attempt begun", serviceId, { changed });
  });
}

/**
 * Which attempt a new run proves. Where nobody said: the one that is being made; but where that has such a run already and it came out badly,
 * nobody runs the same again for nothing, and another attempt begins.
 */
export async function attemptOf(
  context: Context,
  tx: Transaction,
  serviceId: string,
  input: Pick<RunInput, "side" | "attempt" | "fanMode" | "fanPct" | "loadName" | "sidePanel">,
): Promise<number> {
  const [service] = await tx.select({ attempts: services.attempts }).from(services).where(eq(services.id, serviceId));
  if (!service) throw notFound("service");
  const current = service.attempts.length + 1;
  if (input.side === "before") return 1;
  if (input.attempt !== null) return Math.min(input.attempt, current);
  const facts = await loadFacts(tx, context.stations, serviceId, await readSettings({ db: tx }));
  const again = facts.runs.some(
    (run) => run.side === "after" && run.attempt === current && run.leftOut === "" && isSameSetting(run, input),
  );
  const lead = leadingPair(facts.pairs);
  if (!again || !lead || !needsReason(lead.outcome)) return current;
  await changeService(tx, serviceId, ({ attempts }) => ({
    attempts: [...attempts, { changed: "", startedAt: context.store.now() }],
  }));
  return current + 1;
}
