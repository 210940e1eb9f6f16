import { WIRES } from "#contract";
import { serve } from "../../http/route.ts";
import { readService } from "../../services/services.ts";
import { loadNothing, type ServerStation } from "../station.ts";
import { keepPowerOn } from "./power-on.ts";

export const station: ServerStation<null> = {
  id: "takeIn",
  tables: {},
  load: loadNothing,
  routes: (context) =>
    serve(WIRES.takeIn, {
      powerOn: async ({ params, body }) => {
        await keepPowerOn(context, params.serviceId, body);
        return readService(context, params.serviceId);
      },
    }),
};
