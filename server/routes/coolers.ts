import { CoolerChange, CoolerInput, CoolerPlanChange } from "#contract";
import { get, param, post, put, type Route, removable } from "../http/route.ts";
import type { Context } from "../services/context.ts";
import {
  addCooler,
  changeCooler,
  changeCoolerPlan,
  readCooler,
  readCoolerJob,
  readCoolers,
  seenWith,
  setCoolerRemoved,
} from "../services/coolers.ts";

export const coolerRoutes = (context: Context): Route[] => [
  get("/coolers", "Coolers to choose from", () => readCoolers(context)),
  post("/coolers", "Add a cooler", CoolerInput, ({ body }) => addCooler(context, body)),
  get("/coolers/:id", "A cooler with its drawing", ({ params }) => readCooler(context, param(params, "id"))),
  put("/coolers/:id", "Keep a cooler; send the version it was made from", CoolerChange, ({ params, body }) =>
    changeCooler(context, param(params, "id"), body),
  ),
  removable("/coolers/:id", "Remove a cooler, or put it back", (params, removed) =>
    setCoolerRemoved(context, param(params, "id"), removed),
  ),
  get("/coolers/:id/seen", "What runs with this cooler came to", ({ params }) =>
    seenWith(context, param(params, "id")),
  ),
  get(
    "/services/:id/cooler",
    "Another cooler for this card: its plan, the board, what the card does today",
    ({ params }) => readCoolerJob(context, param(params, "id")),
  ),
  put(
    "/services/:id/cooler",
    "Keep that plan; send the version it was made from",
    CoolerPlanChange,
    ({ params, body }) => changeCoolerPlan(context, param(params, "id"), body),
  ),
];
