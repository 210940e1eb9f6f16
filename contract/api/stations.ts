import * as v from "valibot";
import { Advised, DecisionInput, PowerOnInput } from "../decide.ts";
import { DueCard, HandOverChange, HandOverView, NextServiceChange, NextView, RecordFile } from "../hand-over.ts";
import { BookInput, GapInput, OpenPads, PadJob, PadPlanChange } from "../pads.ts";
import { QuoteAcceptInput, QuoteChange, QuoteView } from "../quote.ts";
import { AttemptInput, ServiceView, WorkPriceInput } from "../service.ts";
import { CompoundFacts } from "../steps.ts";
import { add, get, put, removable } from "./route.ts";
import { LINES, SERVICE } from "./stale.ts";

const served = { answers: ServiceView, fills: "service", stale: [...SERVICE, ...LINES] } as const;
const quoted = { answers: QuoteView, fills: "quote" } as const;
const padded = { answers: PadJob, fills: "pads" } as const;

export const takeIn = {
  powerOn: put("/services/:serviceId/power-on", "Keep the first power-on check, or set the card aside", {
    takes: PowerOnInput,
    ...served,
  }),
};

export const decide = {
  advice: get("/services/:serviceId/advice", "Open it or leave it: recommendation with reasons", { answers: Advised }),
  decide: put("/services/:serviceId/decision", "Decide; another choice than the recommended one needs a reason", {
    takes: DecisionInput,
    ...served,
  }),
  quote: get("/services/:serviceId/quote", "What options cost and bring, what was accepted, what it came to", {
    answers: QuoteView,
    idIn: "serviceId",
    newest: "version",
  }),
  changeQuote: put("/services/:serviceId/quote", "Keep a quote; send the version it was made from", {
    takes: QuoteChange,
    ...quoted,
  }),
  acceptQuote: put("/services/:serviceId/quote/accepted", "The owner accepts one option", {
    takes: QuoteAcceptInput,
    ...quoted,
  }),
  reopenQuote: put("/services/:serviceId/quote/open", "The acceptance is taken back", {
    takes: v.object({ version: v.number() }),
    ...quoted,
  }),
};

export const pads = {
  openPads: get("/pads/open", "Open cards whose pads are chosen and not all cut yet", { answers: v.array(OpenPads) }),
  pads: get("/services/:serviceId/pads", "Gaps, readings and pad plan of a service", {
    answers: PadJob,
    idIn: "serviceId",
  }),
  changePads: put("/services/:serviceId/pads", "Keep the pad plan; send the version it was made from", {
    takes: PadPlanChange,
    ...padded,
    stale: [...SERVICE, ...LINES],
  }),
  addGaps: add("/services/:serviceId/gaps", "Add caliper readings", {
    takes: GapInput,
    ...padded,
    stale: ["openPads"],
  }),
  removeGap: removable("/gaps/:gapId", "Remove a caliper reading, or put it back", { ...padded, stale: ["openPads"] }),
  bookSheet: put("/services/:serviceId/pads/booked", "Book a cut sheet and its left-overs, or take that back", {
    takes: BookInput,
    ...padded,
    stale: ["openPads", "stores", "uses", ...SERVICE, ...LINES],
  }),
};

export const compound = {
  compoundFacts: get("/services/:serviceId/compound", "What the baseline tells of the layer on the die", {
    answers: CompoundFacts,
  }),
};

export const prove = {
  beginAttempt: add("/services/:serviceId/attempts", "Begin another attempt, with what was changed", {
    takes: AttemptInput,
    ...served,
  }),
};

export const record = {
  handOver: get("/services/:serviceId/hand-over", "What the record shows by choice, and what leaves with the card", {
    answers: HandOverView,
  }),
  changeHandOver: put(
    "/services/:serviceId/hand-over",
    "Choose what the record shows; send the version it was made from, 0 for the first",
    { takes: HandOverChange, answers: HandOverView, fills: "handOver" },
  ),
  next: get("/services/:serviceId/next", "When the card is due again, and why", { answers: NextView, RecordFile }),
  changeNext: put(
    "/services/:serviceId/next",
    "Say how the card is used; send the version it was made from, 0 for the first",
    { takes: NextServiceChange, answers: NextView, fills: "next", stale: ["due"] },
  ),
  recordFile: get("/services/:serviceId/record.json", "The record with its checksum", {
    answers: RecordFile,
  }),
  due: get("/due", "Cards that are due for service", { answers: v.array(DueCard) }),
  setPrice: put("/services/:serviceId/price", "What the work costs its owner, or null", {
    takes: WorkPriceInput,
    answers: ServiceView,
    fills: "service",
    stale: [...SERVICE],
  }),
  close: put("/services/:serviceId/closed", "Hand over, or open again", {
    takes: v.object({
      closed: v.optional(v.boolean("Give true or false."), false),
      /** Needed where something got worse or stays over its limit. */
      reason: v.optional(v.pipe(v.string(), v.trim(), v.maxLength(500, "At most 500 characters.")), ""),
    }),
    answers: ServiceView,
    fills: "service",
    stale: [...SERVICE, ...LINES, "handOver"],
  }),
};
