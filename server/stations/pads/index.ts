import { eq, inArray } from "drizzle-orm";
import { BookInput, GapInput, PadPlanChange, PadPlanInput } from "#contract";
import type { PadFacts } from "#core/stations/pads/index.ts";
import { lots, materials } from "../../db/schema.ts";
import { get, param, post, put, removable } from "../../http/route.ts";
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
  routes: (context) => [
    get("/pads/open", "Open cards whose pads are chosen and not all cut yet", () => readOpenPads(context)),
    get("/services/:id/pads", "Gaps, readings and pad plan of a service", ({ params }) =>
      readPads(context, param(params, "id")),
    ),
    put(
      "/services/:id/pads",
      "Keep the pad plan; send the version it was made from",
      PadPlanChange,
      ({ params, body }) => changePadPlan(context, param(params, "id"), body),
    ),
    post("/services/:id/gaps", "Add caliper readings", GapInput, ({ params, body }) =>
      addGapReadings(context, param(params, "id"), body),
    ),
    removable("/gaps/:id", "Remove a caliper reading, or put it back", (params, removed) =>
      setGapRemoved(context, param(params, "id"), removed),
    ),
    put(
      "/services/:id/pads/booked",
      "Book a cut sheet and its left-overs, or take that back",
      BookInput,
      ({ params, body }) => bookSheet(context, param(params, "id"), body),
    ),
  ],
};
