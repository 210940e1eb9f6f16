import { WIRES } from "#contract";
import { compoundProgress } from "#core/handwork/index.ts";
import type { HandsFacts } from "#core/service/index.ts";
import { serve } from "../../http/route.ts";
import { loadHands } from "../../services/steps.ts";
import type { ServerStation } from "../station.ts";
import { readCompoundFacts } from "./fast.ts";

/** Its marks, the plan among them, lie below the stations (`services/steps.ts`). */
export const station: ServerStation<HandsFacts> = {
  id: "compound",
  tables: {},
  load: (db, serviceId) =>
    loadHands(db, serviceId, "compound", (marks, attempt) => compoundProgress(marks, attempt, Date.parse)),
  routes: (context) =>
    serve(WIRES.compound, { compoundFacts: ({ params }) => readCompoundFacts(context, params.serviceId) }),
};
