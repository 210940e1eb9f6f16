import { closeUpProgress } from "#core/handwork/index.ts";
import type { CloseUpFacts } from "#core/stations/close-up/index.ts";
import { attemptOf, marksOf } from "../../services/steps.ts";
import type { ServerStation } from "../station.ts";

/** Its marks lie below the stations (`services/steps.ts`): all that lead step by step share them. */
export const station: ServerStation<CloseUpFacts> = {
  id: "closeUp",
  tables: {},
  load: async (db, serviceId) =>
    closeUpProgress(
      await marksOf(db, serviceId, "strip"),
      await marksOf(db, serviceId, "closeUp"),
      await attemptOf(db, serviceId),
    ),
  routes: () => [],
};
