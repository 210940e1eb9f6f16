import * as v from "valibot";
import { WorkPriceInput } from "#contract";
import { param, put } from "../../http/route.ts";
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
