import { connect } from "./db/copying.ts";
import type { KeeperOrder } from "./db/keeper.ts";
import { openStore } from "./db/open.ts";
import { writeExport } from "./services/export.ts";
import { addStaged, stage } from "./services/import.ts";
import { refreshStale } from "./services/summaries.ts";
import { loadStations } from "./stations/registry.ts";

/** Export and import: they need to know every station's tables, which a copy does not. */
export async function transfer(
  order: Extract<KeeperOrder, { kind: "export" | "stage" | "add-staged" }>,
): Promise<unknown> {
  const stations = await loadStations();
  if (order.kind === "export") return writeExport(order.file, order.to, stations, new Date().toISOString());
  if (order.kind === "stage") {
    const client = connect(order.file);
    try {
      return await stage(client, stations, order.from, order.to);
    } finally {
      client.close();
    }
  }
  const store = await openStore(order.file, { derive: (tx) => refreshStale(tx, stations) });
  try {
    return await addStaged(store, stations, order.from);
  } finally {
    await store.close();
  }
}
