import { cleanProgress } from "#core/handwork/index.ts";
import type { HandsFacts } from "#core/service/index.ts";
import { readSettings } from "../../services/settings.ts";
import { loadHands } from "../../services/steps.ts";
import type { ServerStation } from "../station.ts";

/** Its marks lie below the stations (`services/steps.ts`): all that lead step by step share them. */
export const station: ServerStation<HandsFacts> = {
  id: "clean",
  tables: {},
  load: async (db, serviceId) => {
    const { roomC, humidityPct } = await readSettings({ db });
    const room = { airC: roomC, humidityPct };
    return loadHands(db, serviceId, "clean", (marks, attempt) =>
      cleanProgress(marks, attempt, { room, msOf: Date.parse }),
    );
  },
  routes: () => [],
};
