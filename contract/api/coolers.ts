import * as v from "valibot";
import { CoolerChange, CoolerInput, CoolerJob, CoolerLine, CoolerPlanChange, CoolerView } from "../coolers.ts";
import { CoolerPoint } from "../shapes-of-runs.ts";
import { add, get, put, removable } from "./route.ts";
import { COOLERS, LINES, SERVICE } from "./stale.ts";

/** Coolers to choose from, and the plan of one for a card. */
export const coolers = {
  coolers: get("/coolers", "Coolers to choose from", { answers: v.array(CoolerLine) }),
  addCooler: add("/coolers", "Add a cooler", {
    takes: CoolerInput,
    answers: CoolerView,
    fills: "cooler",
    stale: [...COOLERS],
  }),
  cooler: get("/coolers/:coolerId", "A cooler with its drawing", {
    answers: CoolerView,
    idIn: "id",
    newest: "version",
  }),
  changeCooler: put("/coolers/:coolerId", "Keep a cooler; send the version it was made from", {
    takes: CoolerChange,
    answers: CoolerView,
    fills: "cooler",
    stale: [...COOLERS, "coolerJob", ...SERVICE, ...LINES],
  }),
  removeCooler: removable("/coolers/:coolerId", "Remove a cooler, or put it back", {
    answers: v.array(CoolerLine),
    fills: "coolers",
    stale: [...COOLERS],
  }),
  coolerSeen: get("/coolers/:coolerId/seen", "What runs with this cooler came to", { answers: v.array(CoolerPoint) }),
  coolerJob: get(
    "/services/:serviceId/cooler",
    "Another cooler for this card: its plan, the board, what the card does today",
    { answers: CoolerJob, idIn: "serviceId", newest: "version" },
  ),
  changeCoolerPlan: put("/services/:serviceId/cooler", "Keep that plan; send the version it was made from", {
    takes: CoolerPlanChange,
    answers: CoolerJob,
    fills: "coolerJob",
    stale: [...COOLERS, ...SERVICE, ...LINES],
  }),
};
