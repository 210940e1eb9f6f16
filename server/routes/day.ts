import { WIRES } from "#contract";
import type { Benches } from "../benches/benches.ts";
import { ANSWERED, type Route, serve } from "../http/route.ts";
import type { Planner } from "../planning/planner.ts";
import { calendarOf } from "../services/calendar.ts";
import type { Context } from "../services/context.ts";
import { changeTerms, readDay, readDaySince } from "../services/day.ts";
import { dueCards } from "../services/next-service.ts";

/** All that are due at any time to come. */
const NO_END = "9999-12-31";

export const dayRoutes = (context: Context, benches: Benches, planner: Planner): Route[] =>
  serve(WIRES.day, {
    day: ({ query }) => readDaySince(context, () => benches.running(), planner, query.known),
    calendar: async ({ response }) => {
      const day = await readDay(context, () => benches.running(), planner);
      response.type("text/calendar").send(calendarOf(day, await dueCards(context, NO_END)));
      return ANSWERED;
    },
    endSearch: () => {
      planner.endSearch();
      return { ok: true };
    },
    changeTerms: ({ params, body }) => changeTerms(context, params.serviceId, body),
  });
