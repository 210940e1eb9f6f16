import { WIRES } from "#contract";
import { serve } from "../../http/route.ts";
import { changeHandOver, readHandOver } from "../../services/hand-overs.ts";
import { changeNext, dueCards, readNext } from "../../services/next-service.ts";
import { readRecord } from "../../services/record-file.ts";
import { readService } from "../../services/services.ts";
import { loadNothing, type ServerStation } from "../station.ts";
import { setClosed, setPrice } from "./hand-over.ts";

export const station: ServerStation<null> = {
  id: "record",
  tables: {},
  load: loadNothing,
  routes: (context) =>
    serve(WIRES.record, {
      handOver: ({ params }) => readHandOver(context, params.serviceId),
      changeHandOver: ({ params, body }) => changeHandOver(context, params.serviceId, body),
      next: ({ params }) => readNext(context, params.serviceId),
      changeNext: ({ params, body }) => changeNext(context, params.serviceId, body),
      recordFile: ({ params }) => readRecord(context, params.serviceId),
      due: () => dueCards(context),
      setPrice: async ({ params, body }) => {
        await setPrice(context, params.serviceId, body.price);
        return readService(context, params.serviceId);
      },
      close: async ({ params, body }) => {
        await setClosed(context, params.serviceId, body.closed, body.reason);
        return readService(context, params.serviceId);
      },
    }),
};
