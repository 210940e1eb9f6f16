import { BenchInput, LiveStart, ProtocolInput, PushInput, ReadingInput } from "#contract";
import type { Benches } from "../benches/benches.ts";
import { ANSWERED, bare, get, param, post, type Route, removable } from "../http/route.ts";
import type { Context } from "../services/context.ts";
import { addProtocol, listProtocols, setProtocolRemoved } from "../services/protocols.ts";
import { addReading, listReadings, setReadingRemoved } from "../services/readings.ts";
import { Watchers } from "./watchers.ts";

/** What a script may do with a bench's token alone. */
export const pushRoutes = (benches: Benches): Route[] => [
  post(
    "/benches/:id/samples",
    "Send samples with the bench’s token (Authorization: Bearer)",
    PushInput,
    ({ params, body, request }) => {
      const token = (request.headers.authorization ?? "").replace(/^Bearer\s+/i, "");
      return benches.push(param(params, "id"), token, body.samples);
    },
    { status: 200 },
  ),
];

export const liveRoutes = (context: Context, benches: Benches, watchers = new Watchers(benches)): Route[] => [
  get("/benches", "Test benches", () => benches.list()),
  post(
    "/benches",
    "Add a test bench; answers with the token of a pushing script once",
    BenchInput,
    ({ body, response }) => {
      // The token of a pushing script is told once and not kept as it is.
      response.set("Cache-Control", "no-store");
      return benches.add(body);
    },
  ),
  removable("/benches/:id", "Remove a test bench, or put it back", (params, removed) =>
    benches.remove(param(params, "id"), removed),
  ),
  get("/live", "Live runs under way", () => benches.running()),
  post("/live", "Start a protocol on a bench", LiveStart, ({ body }) => benches.start(body)),
  get("/live/:id", "One live run", ({ params }) => benches.read(param(params, "id"))),
  get(
    "/live/:id/rows",
    "Its samples so far, thinned; after=SECONDS for the rest",
    ({ params, query }) => benches.rows(param(params, "id"), Number(query.after ?? -1)),
    { queries: ["after"] },
  ),
  get("/live/:id/stream", "State and new samples as server-sent events", async ({ params, response }) => {
    await watchers.follow(param(params, "id"), response);
    return ANSWERED;
  }),
  order(benches, "stop", "Stop it; what came in is kept", (id) => benches.stop(id)),
  order(benches, "skip-ahead", "Go on to the next thing", (id) => benches.skipAhead(id)),
  order(benches, "confirm", "A person did what was asked", (id) => benches.confirm(id)),
  get("/services/:id/live", "Live runs of a service", ({ params }) => benches.ofService(param(params, "id"))),
  get("/protocols", "Protocols, own ones first", () => listProtocols(context)),
  post("/protocols", "Keep a protocol of one’s own", ProtocolInput, ({ body }) => addProtocol(context, body)),
  removable("/protocols/:id", "Remove an own protocol, or put it back", (params, removed) =>
    setProtocolRemoved(context, param(params, "id"), removed),
  ),
  get("/services/:id/readings", "Readings by hand", ({ params }) => listReadings(context, param(params, "id"))),
  post("/services/:id/readings", "Take a reading", ReadingInput, ({ params, body }) => {
    const atS = body.liveId ? benches.elapsed(body.liveId) : null;
    return addReading(context, param(params, "id"), body, atS);
  }),
  removable("/readings/:id", "Remove a reading, or put it back", (params, removed) =>
    setReadingRemoved(context, param(params, "id"), removed),
  ),
];

/** An order to a live run, answered with what it became. */
const order = (benches: Benches, name: string, summary: string, act: (id: string) => void): Route =>
  bare("put", `/live/:id/${name}`, summary, ({ params }) => {
    act(param(params, "id"));
    return benches.read(param(params, "id"));
  });
