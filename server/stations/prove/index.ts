import { AttemptInput } from "#contract";
import { param, post } from "../../http/route.ts";
import { beginAttempt } from "../../services/attempts.ts";
import { readService } from "../../services/services.ts";
import { loadNothing, type ServerStation } from "../station.ts";

/** Its runs are shared with the other station that makes them: `services/runs.ts`. */
export const station: ServerStation<null> = {
  id: "prove",
  tables: {},
  load: loadNothing,
  routes: (context) => [
    post(
      "/services/:id/attempts",
      "Begin another attempt, with what was changed",
      AttemptInput,
      async ({ params, body }) => {
        await beginAttempt(context, param(params, "id"), body.changed);
        return readService(context, param(params, "id"));
      },
    ),
  ],
};
