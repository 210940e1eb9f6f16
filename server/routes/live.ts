import { WIRES } from "#contract";
import type { Benches } from "../benches/benches.ts";
import { ANSWERED, type Route, serve } from "../http/route.ts";
import type { Context } from "../services/context.ts";
import { addProtocol, listProtocols, setProtocolRemoved } from "../services/protocols.ts";
import { addReading, listReadings, setReadingRemoved } from "../services/readings.ts";
import { Watchers } from "./watchers.ts";

export const pushRoutes = (benches: Benches): Route[] =>
  serve(WIRES.pushed, {
    pushSamples: ({ params, body, request }) => {
      const token = (request.headers.authorization ?? "").replace(/^Bearer\s+/i, "");
      return benches.push(params.benchId, token, body.samples);
    },
  });

export function liveRoutes(context: Context, benches: Benches, watchers = new Watchers(benches)): Route[] {
  /** An order to a live run, answered with what it became. */
  const order =
    (act: (id: string) => void) =>
    ({ params }: { params: { liveId: string } }) => {
      act(params.liveId);
      return benches.read(params.liveId);
    };
  return serve(WIRES.live, {
    testBenches: () => benches.list(),
    addTestBench: ({ body, response }) => {
      // The token of a pushing script is told once and not kept as it is.
      response.set("Cache-Control", "no-store");
      return benches.add(body);
    },
    removeTestBench: async ({ params, body }) => {
      await benches.remove(params.benchId, body.removed);
      return benches.list();
    },
    runningLive: () => benches.running(),
    startLive: ({ body }) => benches.start(body),
    live: ({ params }) => benches.read(params.liveId),
    liveRows: ({ params, query }) => benches.rows(params.liveId, query.after ?? -1),
    liveStream: async ({ params, response }) => {
      await watchers.follow(params.liveId, response);
      return ANSWERED;
    },
    stopLive: order((id) => benches.stop(id)),
    skipAheadLive: order((id) => benches.skipAhead(id)),
    confirmLive: order((id) => benches.confirm(id)),
    liveOfService: ({ params }) => benches.ofService(params.serviceId),
    protocols: () => listProtocols(context),
    addProtocol: ({ body }) => addProtocol(context, body),
    removeProtocol: ({ params, body }) => setProtocolRemoved(context, params.protocolId, body.removed),
    readings: ({ params }) => listReadings(context, params.serviceId),
    addReading: ({ params, body }) => {
      const atS = body.liveId ? benches.elapsed(body.liveId) : null;
      return addReading(context, params.serviceId, body, atS);
    },
    removeReading: async ({ params, body }) =>
      listReadings(context, await setReadingRemoved(context, params.readingId, body.removed)),
  });
}
