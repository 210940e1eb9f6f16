import type { StationStore } from "../db/station-store.ts";
import type { Route } from "../http/route.ts";
import type { Context } from "../services/context.ts";

/** What a station's folder on the server gives: the rest follows from the table in `contract/stations.ts`. */
export interface ServerStation<Own = unknown> extends StationStore<Own> {
  routes(context: Context): Route[];
}

/** For a station whose rule reads nothing of its own. */
export const loadNothing = (): Promise<null> => Promise.resolve(null);
