import { eq, inArray } from "drizzle-orm";
import { GapInput, PadPlanInput, WIRES } from "#contract";
import type { PadFacts } from "#core/stations/pads/index.ts";
import { lots, materials } from "../../db/schema.ts";
import { serve } from "../../http/route.ts";
import type { ServerStation } from "../station.ts";
import { bookSheet } from "./booking.ts";
import { addGapReadings, changePadPlan, readOpenPads, readPads, setGapRemoved } from "./pads.ts";
import { gapReadings, padPlans } from "./tables.ts";

const Reading = GapInput.entries.readings.pipe[0].item.entries;

export const station: ServerStation<PadFacts> = {
  id: "pads",
  tables: { gapReadings, padPlans },
  documents: {
    gapReadings: { source: Reading.source, padState: Reading.padState, softness: Reading.softness },
    padPlans: { plan: PadPlanInput },
  },
  async materialCost(db, serviceId) {
    const [found] = await db.select({ plan: padPlans.plan }).from(padPlans).where(eq(padPlans.serviceId, serviceId));
    const sheets = found?.plan.cutting?.sheets;
    if (!sheets || sheets.length === 0) return null;
    const stock = new Map((await db.select({ id: lots.id, price: lots.price }).from(lots)).map((lot) => [lot.id, lot]));
    // Of a sheet in stock what is cut from it counts, of one that is bought all of it.
    return sheets.reduce((sum, { from, sourceId, price, widthMm, heightMm, pieces }) => {
      if (from === "offer") return sum + price;
      const cutMm2 = pieces.reduce((area, piece) => area + piece.widthMm * piece.heightMm, 0);
      return sum + (stock.get(sourceId)?.price ?? 0) * Math.min(1, cutMm2 / (widthMm * heightMm));
    }, 0);
  },
  async tells(db, serviceId) {
    const [found] = await db.select({ plan: padPlans.plan }).from(padPlans).where(eq(padPlans.serviceId, serviceId));
    const ids = [...new Set(Object.values(found?.plan.picks ?? {}).flatMap((pick) => pick?.materialId ?? []))];
    if (ids.length === 0) return {};
    const named = await db.select({ name: materials.name }).from(materials).where(inArray(materials.id, ids));
    return {
      pads: named
        .map(({ name }) => name)
        .sort()
        .join(" and "),
    };
  },
  async waitsFor(db, serviceIds) {
    const plans = await db
      .select()
      .from(padPlans)
      .where(inArray(padPlans.serviceId, [...serviceIds]));
    return plans.flatMap(({ serviceId, plan }) =>
      (plan.cutting?.sheets ?? [])
        .filter(({ from, booked }) => from === "offer" && !booked)
        .map(({ sourceId, materialId, thicknessMm, widthMm, heightMm }) => ({
          serviceId,
          offerId: sourceId,
          materialId,
          thicknessMm,
          widthMm,
          heightMm,
        })),
    );
  },
  async load(db, serviceId) {
    const [found] = await db.select({ plan: padPlans.plan }).from(padPlans).where(eq(padPlans.serviceId, serviceId));
    const picks = Object.values(found?.plan.picks ?? {});
    return { thicknessesMm: picks.flatMap((pick) => (pick ? [pick.thicknessMm] : [])) };
  },
  routes: (context) =>
    serve(WIRES.pads, {
      openPads: () => readOpenPads(context),
      pads: ({ params }) => readPads(context, params.serviceId),
      changePads: ({ params, body }) => changePadPlan(context, params.serviceId, body),
      addGaps: ({ params, body }) => addGapReadings(context, params.serviceId, body),
      removeGap: ({ params, body }) => setGapRemoved(context, params.gapId, body.removed),
      bookSheet: ({ params, body }) => bookSheet(context, params.serviceId, body),
    }),
};
