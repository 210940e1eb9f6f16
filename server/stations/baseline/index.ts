import { loadNothing, type ServerStation } from "../station.ts";

/** Its runs are shared with the other station that makes them: `services/runs.ts`. */
export const station: ServerStation<null> = { id: "baseline", tables: {}, load: loadNothing, routes: () => [] };
