import { and, eq, isNull } from "drizzle-orm";
import { ranAt, type ServiceResult } from "#contract";
import { toldByHands } from "#core/handwork/index.ts";
import { leadingPair } from "#core/service/index.ts";
import type { Reader } from "../db/open.ts";
import { coolerPlans, coolers, workNotes } from "../db/schema.ts";
import type { StationStore } from "../db/station-store.ts";
import type { LoadedFacts } from "./facts.ts";
import { marksOf } from "./steps.ts";

/** The kind of work that others come with: the first that was done. */
const KINDS: ReadonlyArray<readonly [is: (done: ReadonlySet<string>) => boolean, words: string]> = [
  [(done) => done.has("cooler changed"), "another cooler"],
  [(done) => done.has("pads") && done.has("repasted"), "paste and pads"],
  [(done) => done.has("pads"), "pads"],
  [(done) => done.has("repasted"), "repasted"],
  [(done) => done.has("cleaned"), "cleaned"],
  [(done) => done.has("fans oiled") || done.has("fan replaced"), "fans"],
];

/** What a service says to Findings, from its proof and all that tells what was done; null while it is not proved. */
export async function resultOf(
  db: Reader,
  stations: readonly StationStore[],
  facts: LoadedFacts,
): Promise<ServiceResult | null> {
  const lead = leadingPair(facts.pairs);
  const equal = lead?.comparison.atEqualConditions?.roles;
  const change = equal?.edge ?? equal?.hotspot;
  const after = facts.runs.find((run) => run.id === lead?.afterId);
  if (!lead || !change || !after) return null;
  const gap = lead.comparison.hotspotGap;
  const serviceId = facts.service.id;
  const told = Object.assign(
    {},
    ...(await Promise.all(stations.map(async (station) => (await station.tells?.(db, serviceId)) ?? {}))),
  ) as Record<string, string>;
  const [other] = await db
    .select({ name: coolers.name })
    .from(coolerPlans)
    .innerJoin(coolers, eq(coolers.id, coolerPlans.coolerId))
    .where(eq(coolerPlans.serviceId, serviceId));
  const hands = toldByHands(await marksOf(db, serviceId));
  const notes = await db
    .select({ compound: workNotes.compound })
    .from(workNotes)
    .where(and(eq(workNotes.serviceId, serviceId), isNull(workNotes.deletedAt)));
  const done = new Set(
    [...facts.work, ...hands.done].map((work) => (work === "pads replaced" || work === "putty" ? "pads" : work)),
  );
  if (told.pads) done.add("pads");
  if (other) done.add("cooler changed");
  return {
    changeK: change.changeK,
    u95K: change.u95K,
    gap: gap ? { changeK: gap.changeK, u95K: gap.u95K } : null,
    told: {
      work: KINDS.find(([is]) => is(done))?.[1] ?? null,
      compound: hands.compound || notes.find(({ compound }) => compound !== "")?.compound || null,
      compoundKind: hands.compoundKind,
      pads: told.pads ?? null,
      pattern: hands.pattern,
      cleaning: hands.cleaning,
      dirt: hands.dirt,
      cooler: other?.name ?? "original",
    },
    provedAt: ranAt(after.analysis, after.createdAt),
  };
}
