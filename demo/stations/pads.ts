import type { GapInput } from "#contract";
import { inferGaps } from "#core/gaps/index.ts";
import { choosePads, gapPlaces } from "#core/padplan/index.ts";
import type { Context } from "#server/services/context.ts";
import { readStores } from "#server/services/stores.ts";
import { addGapReadings, changePadPlan, readPads } from "#server/stations/pads/pads.ts";
import type { FillStation } from "../station.ts";

/** The cards of one board model have been measured: an earlier one well, the one on the bench in part. */
export const fill: FillStation = async (context, serviceOf) => {
  let measured: string | undefined;
  for (const { serial, readings } of DEMO_READINGS) {
    measured = serviceOf.get(serial);
    if (measured) await addGapReadings(context, measured, { readings });
  }
  if (measured) await choosePadsOf(context, measured);
};

/** What the page's own *Choose for me* would take from the stores. */
async function choosePadsOf(context: Context, serviceId: string): Promise<void> {
  const [job, stores] = [await readPads(context, serviceId), await readStores(context)];
  if (!job.map) return;
  const guides = job.map.parts.flatMap(({ id, guideMm }) =>
    guideMm === null ? [] : [{ ...squeezed(id, guideMm), source: "guide" as const, id, card: "guide" }],
  );
  const gaps = inferGaps(gapPlaces(job.map), [...guides, ...job.readings], serviceId);
  const soft = stores.materials.find((one) => one.curve?.[1]?.[1] === 35);
  if (!soft) return;
  const { pads } = choosePads(
    {
      map: job.map,
      gapsMm: Object.fromEntries(gaps.gaps.map((gap) => [gap.id, gap.gapMm])),
      covariance: gaps.covariance,
      materials: [{ ...soft, form: "pad", conductivityWPerMK: soft.conductivityWPerMK ?? 1 }],
      offers: [0.5, 1, 1.25, 1.5, 2].map((thicknessMm) => ({ materialId: soft.id, thicknessMm, inStock: true })),
      prefer: "fewest",
    },
    { samples: 2 },
  );
  const picks = Object.fromEntries(pads.map(({ id, pick }) => [id, pick]));
  await changePadPlan(context, serviceId, { plan: { ...job.plan, picks }, version: job.version });
}

const squeezed = (partId: string, valueMm: number): GapInput["readings"][number] => ({
  partId,
  source: "squeezed",
  valueMm,
  padState: "moist",
  softness: "soft",
  coverPct: null,
});
const DEMO_READINGS: ReadonlyArray<{ serial: string; readings: GapInput["readings"] }> = [
  {
    serial: "OF70-10342",
    readings: [
      ...["M1", "M2", "M3", "M5", "M7"].map((id, index) => squeezed(id, [1.08, 1.11, 1.06, 1.12, 1.09][index] ?? 1.1)),
      ...["Q1", "Q4", "Q8"].map((id, index) => squeezed(id, [0.94, 0.9, 0.96][index] ?? 0.9)),
      squeezed("L2", 1.22),
    ],
  },
  {
    serial: "OF70-11907",
    readings: [
      squeezed("M1", 1.07),
      squeezed("M1", 1.05),
      squeezed("M4", 1.13),
      squeezed("Q2", 0.93),
      squeezed("L4", 1.25),
    ],
  },
];
