import { and, asc, eq, isNull, ne } from "drizzle-orm";
import type { Advised, DecisionInput, PowerOnInput, Run, RunDiagnosis } from "#contract";
import { USUAL_LIMITS } from "#contract";
import {
  type Advice,
  advise,
  type Cause,
  type Diagnosis,
  diagnoseSymptoms,
  expectedGain,
  type Symptoms,
  temperatureOf,
} from "#core";
import { fanFactor, USUAL_COOLING } from "#core/compare/index.ts";
import { blobs, boardModels, cards, runs, services } from "../db/schema.ts";
import { leadingPair } from "./bench.ts";
import { type Context, notFound, record } from "./context.ts";
import { comparePairs } from "./runs.ts";
import { readSettings } from "./settings.ts";

/** Causes by which services count as similar. */
const leadOf = (diagnosis: Diagnosis): Cause | undefined => diagnosis.findings[0]?.cause;

/** Symptoms of a run; worked out from its kept log when the run is older than they are. */
async function symptomsFor(context: Context, id: string): Promise<Symptoms> {
  const { store, pool } = context;
  const [run] = await store.db.select().from(runs).where(eq(runs.id, id));
  if (!run) throw notFound("run");
  if (run.symptoms) return run.symptoms;
  const [log] = await store.db.select({ bytes: blobs.bytes }).from(blobs).where(eq(blobs.hash, run.logHash));
  if (!log) throw notFound("log");
  const { symptoms } = await pool.run({
    source: { gzip: log.bytes },
    mapping: run.mapping,
    intervalS: run.intervalS ?? undefined,
    options: {
      ambientC: run.ambientC ?? undefined,
      ambientU95K: run.ambientU95K ?? undefined,
      windowS: run.window ?? undefined,
    },
  });
  await store.write((tx) => tx.update(runs).set({ symptoms }).where(eq(runs.id, id)));
  return symptoms;
}

/** Runs after a service on other cards of the same board model: what healthy ones show here. */
async function healthyOf(
  { store: { db } }: Context,
  serviceId: string,
): Promise<{ symptoms: Symptoms[]; cards: number }> {
  const [held] = await db
    .select({ boardModelId: cards.boardModelId, cardId: cards.id })
    .from(services)
    .innerJoin(cards, eq(services.cardId, cards.id))
    .where(eq(services.id, serviceId));
  if (!held?.boardModelId) return { symptoms: [], cards: 0 };
  const found = await db
    .select({ symptoms: runs.symptoms, cardId: cards.id })
    .from(runs)
    .innerJoin(services, eq(runs.serviceId, services.id))
    .innerJoin(cards, eq(services.cardId, cards.id))
    .where(
      and(
        eq(cards.boardModelId, held.boardModelId),
        ne(cards.id, held.cardId),
        eq(runs.side, "after"),
        isNull(runs.deletedAt),
      ),
    );
  const symptoms = found.flatMap((one) => (one.symptoms ? [one.symptoms] : []));
  return { symptoms, cards: new Set(found.map((one) => one.cardId)).size };
}

export async function diagnoseRun(context: Context, id: string): Promise<RunDiagnosis> {
  const [run] = await context.store.db.select({ serviceId: runs.serviceId }).from(runs).where(eq(runs.id, id));
  if (!run) throw notFound("run");
  const [symptoms, healthy] = await Promise.all([symptomsFor(context, id), healthyOf(context, run.serviceId)]);
  const {
    findings,
    limits,
    healthy: expected,
  } = diagnoseSymptoms(symptoms, {
    healthy: healthy.symptoms,
    healthySource: "board model",
  });
  return { findings, limits, source: expected.source, cards: healthy.cards };
}

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
  const before = await db
    .select()
    .from(runs)
    .where(and(eq(runs.serviceId, serviceId), eq(runs.side, "before"), isNull(runs.deletedAt)))
    .orderBy(asc(runs.createdAt));
  const lead = before.find((run) => run.fanMode === "fixed") ?? before[0];
  if (!lead)
    return {
      runId: null,
      advice: null,
      findings: [],
      limits: [],
      roles: [],
      model: null,
      decision: held.service.decision,
    };
  const [symptoms, healthy] = await Promise.all([symptomsFor(context, lead.id), healthyOf(context, serviceId)]);
  const diagnosis = diagnoseSymptoms(symptoms, { healthy: healthy.symptoms, healthySource: "board model" });
  const limits = held.limits ?? USUAL_LIMITS;
  const model =
    healthy.symptoms.length > 0
      ? {
          meanK: diagnosis.healthy.symptoms.fast.median + diagnosis.healthy.symptoms.slow.median,
          sdK: Math.hypot(
            diagnosis.healthy.symptoms.fast.median * diagnosis.healthy.symptoms.fast.spread,
            diagnosis.healthy.symptoms.slow.median * diagnosis.healthy.symptoms.slow.spread,
          ),
          cards: healthy.cards,
        }
      : null;
  const roles = (["edge", "hotspot", "memory", "vrm"] as const).flatMap((role) => {
    const found = temperatureOf(lead.analysis, role);
    if (!found || found.finalC === null) return [];
    const limitC = limits[`${role}C`];
    return [{ role, valueC: found.finalC, riseK: found.riseK, riseU95K: found.riseU95K, limitC }];
  });
  const advice: Advice = advise({
    riseK: symptoms.edgeRiseK ?? null,
    causes: diagnosis.findings,
    model: symptoms.edgeRiseK === undefined ? null : model,
    overLimit: roles.flatMap(({ role, valueC, limitC }) =>
      limitC !== null && valueC > limitC ? [{ role, valueC, limitC }] : [],
    ),
    expected: expectedGain(await similarGains(context, serviceId, leadOf(diagnosis)), physicsGain(diagnosis)),
    worth: held.card.price,
    ageYears: held.card.ageYears,
    useKind: held.card.useKind,
    warranty: held.card.warranty,
  });
  return {
    runId: lead.id,
    advice,
    findings: diagnosis.findings,
    limits: diagnosis.limits,
    roles,
    model,
    decision: held.service.decision,
  };
}

/** What the run shows beyond healthy figures at the place of its leading cause, K. */
function physicsGain({ findings, symptoms, healthy }: Diagnosis): number {
  const over = (found: { value: number } | undefined, key: "fast" | "slow" | "memory" | "vrm"): number =>
    found ? Math.max(0, found.value - healthy.symptoms[key].median) : 0;
  switch (findings[0]?.cause) {
    case "memory-pads":
      return over(symptoms.memoryK, "memory");
    case "vrm-pads":
      return over(symptoms.vrmK, "vrm");
    case "fan-fault": {
      // What the air carries would fall with the speed that the duty should give.
      const { slowK, fanRpm, fanPct } = symptoms;
      if (!slowK || !fanRpm || !fanPct) return 0;
      const sound = Math.exp(healthy.rpmPerPctLn.mean) * fanPct;
      return sound > fanRpm ? slowK.value * (1 - fanFactor(USUAL_COOLING, 0.8, fanRpm, sound).factor) : 0;
    }
    case "dust-or-airflow":
      return over(symptoms.slowK, "slow");
    case "dry-paste":
    case "cooler-held-off":
      return over(symptoms.fastK, "fast");
    default:
      return 0;
  }
}

/** Gains of the services that began with the same leading cause, K. */
async function similarGains(context: Context, serviceId: string, cause: Cause | undefined): Promise<number[]> {
  const { db } = context.store;
  const [settings, all] = await Promise.all([
    readSettings(context),
    db
      .select()
      .from(runs)
      .where(and(ne(runs.serviceId, serviceId), isNull(runs.deletedAt)))
      .orderBy(asc(runs.createdAt)),
  ]);
  const byService = new Map<string, typeof all>();
  for (const run of all) byService.set(run.serviceId, [...(byService.get(run.serviceId) ?? []), run]);
  return [...byService.values()].flatMap((own) => {
    const before = own.find((run) => run.side === "before" && run.symptoms);
    if (!before?.symptoms || !own.some((run) => run.side === "after")) return [];
    if (leadOf(diagnoseSymptoms(before.symptoms)) !== cause) return [];
    const shown = own.map((run): Run => ({ ...run, cardId: "", window: run.window ?? null }));
    const equal = leadingPair(comparePairs(shown, settings))?.comparison.atEqualConditions?.roles;
    const change = (equal?.edge ?? equal?.hotspot)?.changeK;
    return change === undefined ? [] : [-change];
  });
}

export async function decide(context: Context, serviceId: string, input: DecisionInput): Promise<void> {
  const { store } = context;
  await store.write(async (tx) => {
    const [service] = await tx.select({ version: services.version }).from(services).where(eq(services.id, serviceId));
    if (!service) throw notFound("service");
    await tx
      .update(services)
      .set({ decision: { ...input, at: store.now() }, version: service.version + 1 })
      .where(eq(services.id, serviceId));
    await record(store, tx, "decided", serviceId, input);
  });
}

export async function keepPowerOn(context: Context, serviceId: string, input: PowerOnInput): Promise<void> {
  const { store } = context;
  await store.write(async (tx) => {
    const [service] = await tx.select({ version: services.version }).from(services).where(eq(services.id, serviceId));
    if (!service) throw notFound("service");
    await tx
      .update(services)
      .set({ powerOn: input, version: service.version + 1 })
      .where(eq(services.id, serviceId));
    await record(store, tx, input.setAside ? "set aside" : "power-on check", serviceId, input);
  });
}
