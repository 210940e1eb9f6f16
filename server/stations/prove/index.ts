import { WIRES } from "#contract";
import { serve } from "../../http/route.ts";
import { beginAttempt } from "../../services/attempts.ts";
import { readService } from "../../services/services.ts";
import { loadNothing, type ServerStation } from "../station.ts";

/** Its runs are shared with the other station that makes them: `services/runs.ts`. */
export const station: ServerStation<null> = {
  id: "prove",
  tables: {},
  load: loadNothing,
  routes: (context) =>
    serve(WIRES.prove, {
      beginAttempt: async ({ params, body }) => {
        await beginAttempt(context, params.serviceId, body.changed);
        return readService(context, params.serviceId);
      },
    }),
};
