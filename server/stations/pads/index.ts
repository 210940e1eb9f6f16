import { eq } from "drizzle-orm";
import { BookInput, GapInput, PadPlanChange, PadPlanInput } from "#contract";
import type { PadFacts } from "#core/stations/pads/index.ts";
import { get, param, post, put, removable } from "../../http/route.ts";
import type { ServerStation } from "../station.ts";
import { bookSheet } from "./booking.ts";
import { addGapReadings, changePadPlan, readPads, setGapRemoved } from "./pads.ts";
import { gapReadings, padPlans } from "./tables.ts";

const Reading = GapInput.entries.readings.pipe[0].item.entries;

export const station: ServerStation<PadFacts> = {
  id: "pads",
  tables: { gapReadings, padPlans },
  documents: {
    gapReadings: { source: Reading.source, padState: Reading.padState, softness: Reading.softness },
    padPlans: { plan: PadPlanInput },
  },
  async load(db, serviceId) {
    const [found] = await db.select({ plan: padPlans.plan }).from(padPlans).where(eq(padPlans.serviceId, serviceId));
    const picks = Object.values(found?.plan.picks ?? {});
    return { thicknessesMm: picks.flatMap((pick) => (pick ? [pick.thicknessMm] : [])) };
  },
  routes: (context) => [
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
