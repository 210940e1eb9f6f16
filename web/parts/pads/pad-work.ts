import type { PadJob, Stores } from "#contract";
import { type PadWork, USUAL_POWER_W } from "#core/padplan/index.ts";
import { gapsOf } from "./gaps-of.ts";
import { padMaterials } from "./stock.ts";

/** What a service's pads come to as a task for the contact; null without a map, undefined while something is not known yet. */
export function padWorkOf(job: PadJob | undefined, stores: Stores | undefined): PadWork | null | undefined {
  if (!job || !stores) return undefined;
  if (!job.map) return null;
  const { gaps } = gapsOf(job.map, job);
  return {
    map: job.map,
    gapsMm: Object.fromEntries(gaps.map((gap) => [gap.id, gap.gapMm])),
    picks: job.plan.picks,
    materials: padMaterials(stores),
    heat: { faceC: job.plan.faceC ?? job.face.valueC, powerW: USUAL_POWER_W },
  };
}
