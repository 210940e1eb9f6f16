import * as v from "valibot";
import { DayNow, DayTermsChange, DayView, KeptDayTerms } from "../day.ts";
import { get, media, post, put } from "./route.ts";

/** The day's plan and what it holds to. */
export const day = {
  day: get(
    "/day",
    "The day: open cards, the last plan of what still comes for them, and whether another is being made; with a stamp only what changed since",
    { queries: { known: v.optional(v.string()) }, answers: v.union([DayNow, DayView]) },
  ),
  calendar: get("/day.ics", "Promises and clocks as a calendar", { answers: media("text/calendar") }),
  endSearch: post("/day/enough", "Take the best plan found so far of the one being made", {
    answers: v.object({ ok: v.boolean() }),
    stale: ["day"],
  }),
  changeTerms: put(
    "/services/:serviceId/terms",
    "Promise a date, say how much it weighs, hold steps; send the version it was made from, 0 for the first",
    { takes: DayTermsChange, answers: KeptDayTerms, stale: ["day"] },
  ),
};
