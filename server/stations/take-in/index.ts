import { PowerOnInput } from "#contract";
import { param, put } from "../../http/route.ts";
import { readService } from "../../services/services.ts";
import { loadNothing, type ServerStation } from "../station.ts";
import { keepPowerOn } from "./power-on.ts";

export const station: ServerStation<null> = {
  id: "takeIn",
  tables: {},
  load: loadNothing,
  routes: (context) => [
    put(
      "/services/:id/power-on",
      "Keep the first power-on check, or set the card aside",
      PowerOnInput,
      async ({ params, body }) => {
        await keepPowerOn(context, param(params, "id"), body);
        return readService(context, param(params, "id"));
      },
    ),
  ],
};
