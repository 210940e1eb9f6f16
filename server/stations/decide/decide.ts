import { and, asc, eq, isNull } from "drizzle-orm";
import { type Advised, type DecisionInput, USUAL_LIMITS } from "#contract";
import type { Cause } from "#core";
import type { SimilarGain } from "#core/decide/index.ts";
import { adviceOf, diagnoseAgainst, leadRun } from "#core/service/index.ts";
import { boardModels, cards, runs, services } from "../../db/schema.ts";
import { type Context, changeService, nextTurn, notFound, record } from "../../services/context.ts";
import { healthyOf, historyOf, symptomsFor } from "../../services/diagnosis.ts";

/** The page 'open it or leave it': diagnosis of the baseline, the shop's own figures, money, warranty, and the recommendation. */
export async function adviseService(context: Context, serviceId: string): Promise<Advised> {
  const { db } = context.store;
  const [held] = await db
    .select({ card: cards, service: services, limits: boardModels.limits })
    .from(services)
    .innerJoin(cards, eq(services.cardId, cards.id))
    .leftJoin(boardModels, eq(cards.boardModelId, boardModels.id))
    .where(eq(services.id, serviceId));
  if (!held) throw notFound("service");
  const { decision } = held.service;
  const before = await db
    .select()
    .from(runs)
    .where(and(eq(runs.serviceId, serviceId), eq(runs.side, "before"), isNull(runs.deletedAt)))
    .orderBy(asc(runs.createdAt));
  const run = leadRun(before, "before");
  if (!run) return { ...NOTHING_TOLD, decision };
  const symptoms = await symptomsFor(context, run.id);
  await nextTurn();
  const healthy = await healthyOf(context, serviceId);
  await nextTurn();
  const diagnosis = diagnoseAgainst(
    symptoms,
    healthy,
    run.analysis,
    await historyOf(context, held.card.id, run.createdAt),
  );
  const { price, ageYears, useKind, warranty } = held.card;
  const facts = {
    run,
    symptoms,
    healthy,
    limits: held.limits ?? USUAL_LIMITS,
    similar: await similarTo(context, serviceId, diagnosis.findings[0]?.cause),
    card: { worth: price, ageYears, useKind, warranty },
  };
  return { runId: run.id, decision, ...adviceOf(facts, diagnosis) };
}

const similarTo = ({ findings }: Context, serviceId: string, cause: Cause | undefined): Promise<SimilarGain | null> =>
  cause === undefined ? Promise.resolve(null) : findings.run({ kind: "similar", serviceId, cause });

const NOTHING_TOLD = {
  runId: null,
  advice: null,
  findings: [],
  known: false,
  minutesNeeded: null,
  notJudged: [],
  limits: [],
  roles: [],
  model: null,
};

export async function decide({ store }: Context, serviceId: string, input: DecisionInput): Promise<void> {
  await store.write(async (tx) => {
    await changeService(tx, serviceId, () => ({ decision: { ...input, at: store.now() } }));
    await record(store, tx, "decided", serviceId, input);
  });
}
