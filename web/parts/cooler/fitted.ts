import { useMemo } from "react";
import type { CoolerJob, PadJob } from "#contract";
import {
  type Cooler,
  type Fit,
  fit,
  fitTaskOf,
  isWet,
  type KitScrew,
  type Mounted,
  mountedOn,
  screwsAtHand,
} from "#core/coolers/index.ts";
import type { OtherCooler } from "#core/handwork/index.ts";
import { Problem, type ProblemDetail } from "#core/problem/index.ts";
import { api } from "../../app/api.ts";

export interface Fitted {
  cooler: Cooler;
  fit: Fit;
  mounted: Mounted;
  /** Kit and drawer together. */
  screws: readonly KitScrew[];
}

export type FitAnswer = { ok: Fitted } | { problem: ProblemDetail } | null;

/** How the chosen cooler lies on this card’s board; null where none is chosen, or the board has no map. */
export function fittedOf({ cooler, map, plan }: Pick<CoolerJob, "cooler" | "map" | "plan">): FitAnswer {
  if (!cooler || !map) return null;
  try {
    const found = fit(fitTaskOf(map, cooler, plan.drawer));
    return {
      ok: {
        cooler,
        fit: found,
        mounted: mountedOn(map, cooler, found, plan.drawer),
        screws: screwsAtHand(cooler, plan.drawer),
      },
    };
  } catch (error) {
    if (error instanceof Problem) return { problem: error.detail() };
    throw error;
  }
}

/** Another cooler that is chosen for this card and goes onto it, however badly; null for the original. */
export function useFitted(serviceId: string): { ready: boolean; fitted: Fitted | null } {
  const { data: job, error } = api.useCoolerJobQuery(serviceId);
  const answer = useMemo(() => job && fittedOf(job), [job]);
  return {
    ready: job !== undefined || error !== undefined,
    fitted: answer && "ok" in answer && answer.ok.fit.posts.some(({ holeId }) => holeId !== null) ? answer.ok : null,
  };
}

/** Gaps that follow from the drawing: as if they had been taken with a gauge, in place of what was measured under the original. */
export function padJobWith(job: PadJob, fitted: Fitted | null): PadJob {
  if (!fitted) return job;
  const { map, gapsMm } = fitted.mounted;
  const drawn = Object.entries(gapsMm).map(([partId, valueMm]) => ({
    id: `drawing ${partId}`,
    partId,
    source: "gap" as const,
    valueMm,
    padState: "unknown" as const,
    softness: "unknown" as const,
    card: job.serviceId,
    coverPct: null,
    at: "",
  }));
  const behind = new Set(map.parts.filter(({ side }) => side === "back").map(({ id }) => id));
  return { ...job, map, readings: [...drawn, ...job.readings.filter(({ partId }) => behind.has(partId))] };
}

/** What closing up has to know of it. */
export const otherOf = (fitted: Fitted | null): OtherCooler | null =>
  fitted && {
    name: fitted.cooler.name,
    wet: isWet(fitted.cooler),
    screws: screwsInWords(fitted),
    keptOff: fitted.mounted.keptOff,
  };

/** Its screws by kind, such as “4 × short (M2.5 × 8, washer 0.5)”. */
function screwsInWords({ fit: { posts }, screws }: Fitted): string {
  const counts = new Map<string, number>();
  for (const { screwId } of posts) if (screwId) counts.set(screwId, (counts.get(screwId) ?? 0) + 1);
  return [...counts]
    .map(([id, count]) => {
      const kind = screws.find((one) => one.id === id);
      const washer = kind && kind.washerMm > 0 ? `, washer ${kind.washerMm}` : "";
      return `${count} × ${id}${kind ? ` (${kind.thread} × ${kind.lengthMm}${washer})` : ""}`;
    })
    .join(", ");
}
