import { type RequestHandler, type Response, Router } from "express";
import { BenchInput, LiveStart, ProtocolInput, PushInput, ReadingInput } from "#contract";
import type { Benches } from "../benches/benches.ts";
import { checkedBody } from "../http/problems.ts";
import type { Context } from "../services/context.ts";
import { addProtocol, listProtocols, setProtocolRemoved } from "../services/protocols.ts";
import { addReading, listReadings, setReadingRemoved } from "../services/readings.ts";

const KEEP_ALIVE_MS = 15_000;

/** What a script may do with a bench's token alone. */
export function pushRoutes(benches: Benches): Router {
  const router = Router();
  router.post("/benches/:id/samples", async (request, response) => {
    const token = (request.headers.authorization ?? "").replace(/^Bearer\s+/i, "");
    const { samples } = checkedBody(PushInput, request.body);
    response.json(await benches.push(request.params.id, token, samples));
  });
  return router;
}

export function liveRoutes(context: Context, benches: Benches): Router {
  const router = Router();
  router.get("/benches", async (_request, response) => {
    response.json(await benches.list());
  });
  router.post("/benches", async (request, response) => {
    // The token of a pushing script is told once and not kept as it is.
    response.set("Cache-Control", "no-store");
    response.status(201).json(await benches.add(checkedBody(BenchInput, request.body)));
  });
  router.put("/benches/:id/removed", async (request, response) => {
    await benches.remove(request.params.id, request.body?.removed === true);
    response.status(204).end();
  });
  router.get("/live", async (_request, response) => {
    response.json(await benches.running());
  });
  router.post("/live", async (request, response) => {
    response.status(201).json(await benches.start(checkedBody(LiveStart, request.body)));
  });
  router.get("/live/:id", async (request, response) => {
    response.json(await benches.read(request.params.id));
  });
  router.get("/live/:id/rows", async (request, response) => {
    response.json(await benches.rows(request.params.id, Number(request.query.after ?? -1)));
  });
  router.get("/live/:id/stream", async (request, response) => {
    stream(response, benches, request.params.id, JSON.stringify(await benches.read(request.params.id)));
  });
  const order =
    (act: (id: string) => void): RequestHandler<{ id: string }> =>
    async (request, response) => {
      act(request.params.id);
      response.json(await benches.read(request.params.id));
    };
  router.put(
    "/live/:id/stop",
    order((id) => benches.stop(id)),
  );
  router.put(
    "/live/:id/skip-ahead",
    order((id) => benches.skipAhead(id)),
  );
  router.put(
    "/live/:id/confirm",
    order((id) => benches.confirm(id)),
  );
  router.get("/services/:id/live", async (request, response) => {
    response.json(await benches.ofService(request.params.id));
  });
  router.get("/protocols", async (_request, response) => {
    response.json(await listProtocols(context));
  });
  router.post("/protocols", async (request, response) => {
    response.status(201).json(await addProtocol(context, checkedBody(ProtocolInput, request.body)));
  });
  router.put("/protocols/:id/removed", async (request, response) => {
    response.json(await setProtocolRemoved(context, request.params.id, request.body?.removed === true));
  });
  router.get("/services/:id/readings", async (request, response) => {
    response.json(await listReadings(context, request.params.id));
  });
  router.post("/services/:id/readings", async (request, response) => {
    const input = checkedBody(ReadingInput, request.body);
    const atS = input.liveId ? benches.elapsed(input.liveId) : null;
    response.status(201).json(await addReading(context, request.params.id, input, atS));
  });
  router.put("/readings/:id/removed", async (request, response) => {
    await setReadingRemoved(context, request.params.id, request.body?.removed === true);
    response.status(204).end();
  });
  return router;
}

/** Server-sent events: the state at once and whenever it changes, new rows as they come. A page that was away asks for the rest by `/rows`. */
function stream(response: Response, benches: Benches, id: string, first: string): void {
  response.set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store", "X-Accel-Buffering": "no" });
  response.flushHeaders();
  const say = (event: string, data: string): void => {
    response.write(`event: ${event}\ndata: ${data}\n\n`);
  };
  say("state", first);
  const stopListening = benches.listen(id, (told) =>
    told.kind === "rows"
      ? say("rows", JSON.stringify({ rows: told.rows, upToS: told.upToS }))
      : say("state", JSON.stringify(told.live)),
  );
  const alive = setInterval(() => response.write(": here\n\n"), KEEP_ALIVE_MS);
  response.on("close", () => {
    clearInterval(alive);
    stopListening?.();
  });
}
