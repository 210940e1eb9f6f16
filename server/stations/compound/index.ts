import { compoundProgress } from "#core/handwork/index.ts";
import type { HandsFacts } from "#core/service/index.ts";
import { get, param } from "../../http/route.ts";
import { loadHands } from "../../services/steps.ts";
import type { ServerStation } from "../station.ts";
import { readCompoundFacts } from "./fast.ts";

/** Its marks, the plan among them, lie below the stations (`services/steps.ts`). */
export const station: ServerStation<HandsFacts> = {
  id: "compound",
  tables: {},
  load: (db, serviceId) =>
    loadHands(db, serviceId, "compound", (marks, attempt) => compoundProgress(marks, attempt, Date.parse)),
  routes: (context) => [
    get("/services/:id/compound", "What the baseline tells of the layer on the die", ({ params }) =>
      readCompoundFacts(context, param(params, "id")),
    ),
  ],
};
