/** What takes long on a whole database, in a process of its own: one order, one answer. Where the database breaks it, only this ends. */
import { constants, setPriority } from "node:os";
import { Problem } from "#core";
import { connect, writeCopy } from "./db/copying.ts";
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

process.once("message", (order: KeeperOrder) => {
  // Whoever waits for a page comes first.
  setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
  void serve(order)
    .then(
      (done): KeeperAnswer => ({ done }),
      (error: unknown): KeeperAnswer =>
        error instanceof Problem
          ? { problem: error.detail() }
          : { fault: error instanceof Error ? (error.stack ?? error.message) : String(error) },
    )
    .then((answer) => process.send?.(answer, undefined, undefined, () => process.exit(0)));
});
process.on("disconnect", () => process.exit(0));
