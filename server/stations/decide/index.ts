import { eq } from "drizzle-orm";
import { CHOICES, DecisionInput } from "#contract";
import type { DecideFacts } from "#core/stations/decide/index.ts";
import { services } from "../../db/schema.ts";
import { get, param, put } from "../../http/route.ts";
import { readService } from "../../services/services.ts";
import type { ServerStation } from "../station.ts";
import { adviseService, decide } from "./decide.ts";

export const station: ServerStation<DecideFacts> = {
  id: "decide",
  tables: {},
  async load(db, serviceId) {
    const [found] = await db.select({ decision: services.decision }).from(services).where(eq(services.id, serviceId));
    return { label: CHOICES.find((choice) => choice.id === found?.decision?.choice)?.label ?? "" };
  },
  routes: (context) => [
    get("/services/:id/advice", "Open it or leave it: recommendation with reasons", ({ params }) =>
      adviseService(context, param(params, "id")),
    ),
    put(
      "/services/:id/decision",
      "Decide; another choice than the recommended one needs a reason",
      DecisionInput,
      async ({ params, body }) => {
        await decide(context, param(params, "id"), body);
        return readService(context, param(params, "id"));
      },
    ),
  ],
};
