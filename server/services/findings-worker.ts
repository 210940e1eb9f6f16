import { parentPort } from "node:worker_threads";
import { drizzle } from "drizzle-orm/libsql/sqlite3";
import { connect } from "../db/copying.ts";
import * as schema from "../db/schema.ts";
import { answerFor, stepBack } from "../threads.ts";
import type { Read } from "./findings.ts";
import { answerQuestion, type FindingsRequest } from "./findings-thread.ts";

/** One database for the whole life of the thread: what was read of it is kept by its connection. */
let read: Read | undefined;

function open(file: string): Read {
  const client = connect(file);
  read = { client, db: drizzle(client, { schema, casing: "snake_case" }) };
  return read;
}

stepBack();

parentPort?.on("message", async ({ file, ...asked }: FindingsRequest) => {
  parentPort?.postMessage(await answerFor(() => answerQuestion(read ?? open(file), asked)));
});
