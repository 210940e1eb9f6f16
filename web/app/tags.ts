import { STATIONS } from "#contract";

/** Kinds of things that the server owns beside the stations' own. */
const SHARED = [
  "lines",
  "card",
  "removed",
  "service",
  "board",
  "settings",
  "passphrase",
  "keeping",
  "testBench",
  "live",
  "protocol",
  "reading",
  "map",
  "stores",
  "packages",
  "steps",
  "coolers",
  "coolerJob",
  "day",
  "quote",
  "findings",
  "handOver",
] as const;

/** Every cache tag there is; a station's own is its id. What may have changed anywhere makes all of them stale. */
export const TAGS = [...SHARED, ...STATIONS.map(({ id }) => id)];
