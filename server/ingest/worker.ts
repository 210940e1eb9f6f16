import { parentPort } from "node:worker_threads";
import { answerFor, stepBack } from "../threads.ts";
import { type IngestRequest, ingest } from "./ingest.ts";

stepBack();

parentPort?.on("message", async (request: IngestRequest) => {
  parentPort?.postMessage(await answerFor(() => ingest(request)));
});
