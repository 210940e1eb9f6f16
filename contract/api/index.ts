import { boards } from "./boards.ts";
import { cards } from "./cards.ts";
import { coolers } from "./coolers.ts";
import { day } from "./day.ts";
import { findings } from "./findings.ts";
import { live, pushed } from "./live.ts";
import { services } from "./services.ts";
import { compound, decide, pads, prove, record, takeIn } from "./stations.ts";
import { stores } from "./stores.ts";
import { keeping, open, workshop } from "./workshop.ts";

export * from "./route.ts";

/** The whole API by what it is about, each line of it once. */
export const WIRES = {
  boards,
  cards,
  coolers,
  compound,
  day,
  decide,
  findings,
  keeping,
  live,
  open,
  pads,
  prove,
  pushed,
  record,
  services,
  stores,
  takeIn,
  workshop,
};

/** All its lines by their names. */
export const API = {
  ...boards,
  ...cards,
  ...coolers,
  ...compound,
  ...day,
  ...decide,
  ...findings,
  ...keeping,
  ...live,
  ...open,
  ...pads,
  ...prove,
  ...pushed,
  ...record,
  ...services,
  ...stores,
  ...takeIn,
  ...workshop,
};
