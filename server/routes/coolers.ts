import { WIRES } from "#contract";
import { type Route, serve } from "../http/route.ts";
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

export const coolerRoutes = (context: Context): Route[] =>
  serve(WIRES.coolers, {
    coolers: () => readCoolers(context),
    addCooler: ({ body }) => addCooler(context, body),
    cooler: ({ params }) => readCooler(context, params.coolerId),
    changeCooler: ({ params, body }) => changeCooler(context, params.coolerId, body),
    removeCooler: ({ params, body }) => setCoolerRemoved(context, params.coolerId, body.removed),
    coolerSeen: ({ params }) => seenWith(context, params.coolerId),
    coolerJob: ({ params }) => readCoolerJob(context, params.serviceId),
    changeCoolerPlan: ({ params, body }) => changeCoolerPlan(context, params.serviceId, body),
  });
