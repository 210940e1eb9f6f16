import { fansProgress } from "#core/handwork/index.ts";
import type { HandsFacts } from "#core/service/index.ts";
import { loadHands } from "../../services/steps.ts";
import type { ServerStation } from "../station.ts";

/** Its marks lie below the stations (`services/steps.ts`): all that lead step by step share them. */
export const station: ServerStation<HandsFacts> = {
  id: "fans",
  tables: {},
  load: (db, serviceId) => loadHands(db, serviceId, "fans", fansProgress),
  routes: () => [],
};
