import { eq } from "drizzle-orm";
import { LOOK_OVER_ITEMS, type NextView, type RecordFile, ranAt, type ServiceView, type Use } from "#contract";
import { differenceOf } from "#core/compare/index.ts";
import { handSummary } from "#core/handwork/index.ts";
import { headlineOf } from "#core/outcome/index.ts";
import { services } from "../db/schema.ts";
import { readCard } from "./cards.ts";
import { type Context, notFound } from "./context.ts";
import { readHandOver } from "./hand-overs.ts";
import { readNext } from "./next-service.ts";
import { sealed } from "./record-checksum.ts";
import { readService } from "./services.ts";
import { readSettings } from "./settings.ts";
import { marksOf } from "./steps.ts";
import { listUses } from "./stores.ts";

/** A record as it can be kept and checked later. @throws Problem `not-found` */
export async function readRecord(context: Context, serviceId: string): Promise<RecordFile> {
  const { store } = context;
  const [held] = await store.db.select({ cardId: services.cardId }).from(services).where(eq(services.id, serviceId));
  if (!held) throw notFound("service");
  const [card, service, settings, next, handOver, uses, marks] = await Promise.all([
    readCard(context, held.cardId),
    readService(context, serviceId),
    readSettings(store),
    readNext(context, serviceId),
    readHandOver(context, serviceId),
    listUses(context, serviceId),
    marksOf(store.db, serviceId),
  ]);
  const hands = handSummary(marks, Date.parse);
  const { maker, model, serial, boardModelName, complaint, seal, warranty, lookOver } = card;
  return sealed({
    madeAt: store.now(),
    workshop: { name: settings.workshop, address: settings.address },
    card: { maker, model, serial, board: boardModelName },
    service: { openedAt: service.openedAt, closedAt: service.closedAt },
    found: {
      complaint,
      seal,
      warranty,
      noted: lookOver
        .filter(({ state }) => state === "noted")
        .map(({ id, text }) => text || (LOOK_OVER_ITEMS.find((item) => item.id === id)?.label ?? id)),
    },
    done: {
      notes: service.notes.map(({ doneOn, person, work, compound, text }) => ({
        on: doneOn,
        by: person,
        work,
        compound,
        text,
      })),
      steps: hands?.done ?? [],
      handMin: hands ? Math.round(hands.minutes) : null,
    },
    used: usedOf(uses),
    results: resultsOf(service),
    nextService: nextOf(next),
    watch: handOver.watch,
    leavesWithCard: handOver.leaves,
  });
}

const usedOf = (uses: readonly Use[]): RecordFile["used"] =>
  uses
    .filter(({ what }) => what === "")
    .map(({ materialName, amount, unit }) => ({ what: materialName, amount, unit }));

const nextOf = ({ foretold, dueOn, lowOn, highOn, reason }: NextView): RecordFile["nextService"] =>
  foretold ? { dueOn, notBefore: lowOn, notAfter: highOn, reason } : null;

function resultsOf({ comparisons, runs }: ServiceView): RecordFile["results"] {
  const nameOf = (id: string): string => runs.find((run) => run.id === id)?.name ?? "";
  const roomOf = (id: string): number | null => runs.find((run) => run.id === id)?.analysis.ambient?.valueC ?? null;
  const atOf = (id: string): string => {
    const run = runs.find((one) => one.id === id);
    return run ? ranAt(run.analysis, run.createdAt) : "";
  };
  return comparisons.map(({ beforeId, afterId, comparison, outcome }) => {
    const both = (what: Parameters<typeof differenceOf>[1]) => {
      const { before = null, after = null } = differenceOf(comparison.differences, what) ?? {};
      return { before, after };
    };
    const equal = comparison.atEqualConditions?.roles;
    return {
      beforeRun: nameOf(beforeId),
      afterRun: nameOf(afterId),
      beforeAt: atOf(beforeId),
      afterAt: atOf(afterId),
      headline: headlineOf(outcome),
      roomC: { before: roomOf(beforeId), after: roomOf(afterId) },
      fanRpm: both("fan"),
      powerW: both("power"),
      atEqualConditions: equal
        ? Object.fromEntries(
            Object.entries(equal).flatMap(([role, one]) =>
              one ? [[role, { changeK: one.changeK, u95K: one.u95K }] as const] : [],
            ),
          )
        : null,
    };
  });
}
