import * as v from "valibot";
import type { StationRow } from "#core/service/index.ts";
import { baselineRule } from "#core/stations/baseline/index.ts";
import { cleanRule } from "#core/stations/clean/index.ts";
import { closeUpRule } from "#core/stations/close-up/index.ts";
import { compoundRule } from "#core/stations/compound/index.ts";
import { decideRule } from "#core/stations/decide/index.ts";
import { fansRule } from "#core/stations/fans/index.ts";
import { padsRule } from "#core/stations/pads/index.ts";
import { proveRule } from "#core/stations/prove/index.ts";
import { recordRule } from "#core/stations/record/index.ts";
import { stripRule } from "#core/stations/strip/index.ts";
import { takeInRule } from "#core/stations/take-in/index.ts";

import { NO_BASELINE } from "./cautions.ts";

interface Station extends StationRow {
  /** Its part of the address, and the name of its folders: `core/stations/<path>`, `server/stations/<path>`, `web/stations/<path>`. */
  path: string;
  /** What speaks against skipping it; null where it can't be skipped. */
  skipWhy: string | null;
}

/**
 * The one table of stations, in the order of work. Tabs, "Next" links, skips, the Bench's words, the API and its description,
 * export, import and cache tags follow from it; all else of a station stands in the folders named for its path.
 */
export const STATIONS = [
  { id: "takeIn", path: "take-in", title: "Take in", skipWhy: null, rule: takeInRule },
  {
    id: "baseline",
    path: "baseline",
    title: "Baseline",
    skipWhy: `Without a baseline ${NO_BASELINE}, and no gain can be proved.`,
    rule: baselineRule,
  },
  {
    id: "decide",
    path: "decide",
    title: "Decide",
    skipWhy: "Then the card is worked on without a recommendation.",
    rule: decideRule,
  },
  {
    id: "strip",
    path: "strip",
    title: "Strip",
    skipWhy: "Then nobody knows which screw came from where, and the next card of this board is not led.",
    rule: stripRule,
  },
  {
    id: "clean",
    path: "clean",
    title: "Clean",
    skipWhy: "Dirt left inside keeps the heat, and nobody knows later what made the difference.",
    rule: cleanRule,
  },
  {
    id: "pads",
    path: "pads",
    title: "Pads",
    skipWhy: "Old pads that stay are a decision too: say which and why.",
    rule: padsRule,
  },
  {
    id: "compound",
    path: "compound",
    title: "Compound",
    skipWhy: "Old compound that was opened is never good again: say why it stays.",
    rule: compoundRule,
  },
  {
    id: "fans",
    path: "fans",
    title: "Fans",
    skipWhy: "A fan that nobody turned may be what made it loud.",
    rule: fansRule,
  },
  {
    id: "closeUp",
    path: "close-up",
    title: "Close up",
    skipWhy: "Then nobody has counted screws and films, nor turned the screws by a plan.",
    rule: closeUpRule,
  },
  {
    id: "prove",
    path: "prove",
    title: "Prove",
    skipWhy: "Without a run after the work nobody knows whether it helped or harmed.",
    rule: proveRule,
  },
  { id: "record", path: "record", title: "Record", skipWhy: null, rule: recordRule },
] as const satisfies readonly Station[];

export const StationName = v.picklist(
  STATIONS.map(({ id }) => id),
  "No such station.",
);
export type StationId = (typeof STATIONS)[number]["id"];
/** Those that can be skipped with a reason. */
export type SkippableId = Extract<(typeof STATIONS)[number], { skipWhy: string }>["id"];

/** The line of a station in the table. @throws RangeError for an id that is none */
export function stationOf(id: StationId): (typeof STATIONS)[number] {
  const found = STATIONS.find((station) => station.id === id);
  if (!found) throw new RangeError(`There is no station “${id}”.`);
  return found;
}
