import { stripProgress } from "#core/handwork/index.ts";
import type { StripFacts } from "#core/stations/strip/index.ts";
import { attemptOf, marksOf } from "../../services/steps.ts";
import type { ServerStation } from "../station.ts";

/** Its marks lie below the stations (`services/steps.ts`): all that lead step by step share them. */
export const station: ServerStation<StripFacts> = {
  id: "strip",
  tables: {},
  load: async (db, serviceId) => stripProgress(await marksOf(db, serviceId, "strip"), await attemptOf(db, serviceId)),
  routes: () => [],
};
