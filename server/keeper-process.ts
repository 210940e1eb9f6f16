/** What takes long on a whole database, in a process of its own: an order, an answer, one after the other. Where the database breaks it, only this ends. */
import { constants, setPriority } from "node:os";
import { connect, writeCopy } from "./db/copying.ts";
import { problemOfDatabase } from "./db/faults.ts";
import { inspect } from "./db/inspect.ts";
import type { KeeperAnswer, KeeperOrder } from "./db/keeper.ts";

async function serve(order: KeeperOrder): Promise<unknown> {
  switch (order.kind) {
    case "copy":
      return writeCopy(order.file, order.to);
    case "export":
    case "stage":
    case "add-staged":
      return (await import("./keeper-transfer.ts")).transfer(order);
    case "inspect": {
      const client = connect(order.file);
      try {
        return await inspect(client, order.how);
      } finally {
        client.close();
      }
    }
  }
}

process.on("message", (order: KeeperOrder) => {
  // Whoever waits for a page comes first.
  setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
  void serve(order)
    .then(
      (done): KeeperAnswer => ({ done }),
      (error: unknown): KeeperAnswer => {
        // Codes do not cross to the server: what they say does.
        const problem = problemOfDatabase(error, "database");
        if (problem) return { problem: problem.detail() };
        return { fault: error instanceof Error ? (error.stack ?? error.message) : String(error) };
      },
    )
    // Where the server was killed meanwhile there is nobody to tell.
    .then((answer) => process.send?.(answer, undefined, undefined, () => undefined));
});
process.on("disconnect", () => process.exit(0));
