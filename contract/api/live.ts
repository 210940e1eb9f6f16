import * as v from "valibot";
import {
  BenchInput,
  LiveRows,
  LiveRun,
  LiveStart,
  OwnProtocol,
  ProtocolInput,
  PushInput,
  Reading,
  ReadingInput,
  TestBench,
} from "../live.ts";
import { add, get, media, post, put, removable } from "./route.ts";
import { LIVE } from "./stale.ts";

const ordered = { answers: LiveRun, fills: "live" } as const;
const read = { answers: v.array(Reading), fills: "readings" } as const;
const kept = { answers: v.array(OwnProtocol), fills: "protocols" } as const;

/** Test benches, the runs they lead, and what hands read beside them. */
export const live = {
  testBenches: get("/benches", "Test benches", { answers: v.array(TestBench) }),
  addTestBench: post("/benches", "Add a test bench; answers with the token of a pushing script once", {
    takes: BenchInput,
    answers: TestBench,
    stale: ["testBenches"],
  }),
  removeTestBench: removable("/benches/:benchId", "Remove a test bench, or put it back", {
    answers: v.array(TestBench),
    fills: "testBenches",
  }),
  runningLive: get("/live", "Live runs under way", { answers: v.array(LiveRun) }),
  startLive: add("/live", "Start a protocol on a bench", {
    takes: LiveStart,
    answers: LiveRun,
    fills: "live",
    stale: [...LIVE, "testBenches"],
  }),
  live: get("/live/:liveId", "One live run", { answers: LiveRun, idIn: "id" }),
  liveRows: get("/live/:liveId/rows", "Its samples so far, thinned; after=SECONDS for the rest", {
    queries: { after: v.optional(v.pipe(v.string(), v.transform(Number), v.number("A number of seconds."))) },
    answers: LiveRows,
  }),
  liveStream: get("/live/:liveId/stream", "State and new samples as server-sent events", {
    answers: media("text/event-stream"),
  }),
  stopLive: put("/live/:liveId/stop", "Stop it; what came in is kept", ordered),
  skipAheadLive: put("/live/:liveId/skip-ahead", "Go on to the next thing", ordered),
  confirmLive: put("/live/:liveId/confirm", "A person did what was asked", ordered),
  liveOfService: get("/services/:serviceId/live", "Live runs of a service", { answers: v.array(LiveRun) }),
  protocols: get("/protocols", "Protocols, own ones first", { answers: v.array(OwnProtocol) }),
  addProtocol: add("/protocols", "Keep a protocol of one’s own", { takes: ProtocolInput, ...kept }),
  removeProtocol: removable("/protocols/:protocolId", "Remove an own protocol, or put it back", kept),
  readings: get("/services/:serviceId/readings", "Readings by hand", { answers: v.array(Reading) }),
  addReading: add("/services/:serviceId/readings", "Take a reading", { takes: ReadingInput, ...read }),
  removeReading: removable("/readings/:readingId", "Remove a reading, or put it back", read),
};

/** What a script may do with a bench's token alone. */
export const pushed = {
  pushSamples: post("/benches/:benchId/samples", "Send samples with the bench’s token (Authorization: Bearer)", {
    takes: PushInput,
    answers: v.object({ kept: v.number(), running: v.boolean() }),
  }),
};
