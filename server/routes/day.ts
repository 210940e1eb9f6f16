import { DayTermsChange } from "#contract";
import type { Benches } from "../benches/benches.ts";
import { ANSWERED, bare, get, param, put, type Route } from "../http/route.ts";
import type { Planner } from "../planning/planner.ts";
import { calendarOf } from "../services/calendar.ts";
import type { Context } from "../services/context.ts";
import { changeTerms, readDay, readDaySince } from "../services/day.ts";
import { dueCards } from "../services/next-service.ts";

/** All that are due at any time to come. */
const NO_END = "9999-12-31";

export const dayRoutes = (context: Context, benches: Benches, planner: Planner): Route[] => [
  get(
    "/day",
    "The day: open cards, the last plan of what still comes for them, and whether another is being made; with a stamp only what changed since",
    ({ query }) => readDaySince(context, () => benches.running(), planner, query.known),
    { queries: ["known"] },
  ),
  get("/day.ics", "Promises and clocks as a calendar", async ({ response }) => {
    const day = await readDay(context, () => benches.running(), planner);
    response.type("text/calendar").send(calendarOf(day, await dueCards(context, NO_END)));
    return ANSWERED;
  }),
  bare("post", "/day/enough", "Take the best plan found so far of the one being made", () => {
    planner.endSearch();
    return Promise.resolve({ ok: true });
  }),
  put(
    "/services/:id/terms",
    "Promise a date, say how much it weighs, hold steps; send the version it was made from, 0 for the first",
    DayTermsChange,
    ({ params, body }) => changeTerms(context, param(params, "id"), body),
  ),
];
