import * as v from "valibot";
import { HandOverChange, NextServiceChange, WorkPriceInput } from "#contract";
import { get, param, put } from "../../http/route.ts";
import { changeHandOver, readHandOver } from "../../services/hand-overs.ts";
import { changeNext, dueCards, readNext } from "../../services/next-service.ts";
import { readRecord } from "../../services/record-file.ts";
import { readService } from "../../services/services.ts";
import { loadNothing, type ServerStation } from "../station.ts";
import { setClosed, setPrice } from "./hand-over.ts";

const Closed = v.object({
  closed: v.optional(v.boolean("Give true or false."), false),
  /** Needed where something got worse or stays over its limit. */
  reason: v.optional(v.pipe(v.string(), v.trim(), v.maxLength(500, "At most 500 characters.")), ""),
});

export const station: ServerStation<null> = {
  id: "record",
  tables: {},
  load: loadNothing,
  routes: (context) => [
    get("/services/:id/hand-over", "What the record shows by choice, and what leaves with the card", ({ params }) =>
      readHandOver(context, param(params, "id")),
    ),
    put(
      "/services/:id/hand-over",
      "Choose what the record shows; send the version it was made from, 0 for the first",
      HandOverChange,
      ({ params, body }) => changeHandOver(context, param(params, "id"), body),
    ),
    get("/services/:id/next", "When the card is due again, and why", ({ params }) =>
      readNext(context, param(params, "id")),
    ),
    put(
      "/services/:id/next",
      "Say how the card is used; send the version it was made from, 0 for the first",
      NextServiceChange,
      ({ params, body }) => changeNext(context, param(params, "id"), body),
    ),
    get("/services/:id/record.json", "The record with its checksum", ({ params }) =>
      readRecord(context, param(params, "id")),
    ),
    get("/due", "Cards that are due for service", () => dueCards(context)),
    put("/services/:id/price", "What the work costs its owner, or null", WorkPriceInput, async ({ params, body }) => {
      await setPrice(context, param(params, "id"), body.price);
      return readService(context, param(params, "id"));
    }),
    put("/services/:id/closed", "Hand over, or open again", Closed, async ({ params, body }) => {
      await setClosed(context, param(params, "id"), body.closed, body.reason);
      return readService(context, param(params, "id"));
    }),
  ],
};
