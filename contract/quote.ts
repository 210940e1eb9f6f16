import * as v from "valibot";
import { OFFERED } from "#core/quote/index.ts";
import { changes, number } from "./shapes.ts";
import { Bringing, Effort } from "./shapes-of-plans.ts";

const units = v.pipe(number(0, 1e10, "An amount is 0 or more."), v.integer("Amounts are kept in the smallest unit."));

/** What work is offered for, as it was worked out or typed over; amounts in the currency's smallest unit. */
export const QuoteInput = v.object({
  currency: v.pipe(v.string(), v.trim(), v.minLength(1, "Type a currency."), v.maxLength(8)),
  /** Digits behind the point. */
  digits: v.pipe(number(0, 4, "0 to 4 digits."), v.integer("A whole number of digits.")),
  terms: v.object({
    ratePerHour: units,
    benchPerHour: units,
    taxPct: number(0, 100, "A tax lies between 0 and 100 %."),
    worthTimes: number(0, 100, "Between 0 and 100 times."),
  }),
  options: v.pipe(
    v.array(
      v.object({
        work: v.picklist(OFFERED),
        materialUnits: units,
        minutes: number(0, 10_000, "Between 0 and 10 000 min."),
        benchMinutes: number(0, 10_000, "Between 0 and 10 000 min."),
        offered: v.boolean(),
      }),
    ),
    v.maxLength(OFFERED.length),
  ),
  /** Of a card of the shop's own. */
  boughtUnits: v.nullable(units),
  soldUnits: v.nullable(units),
});
export type Quote = v.InferOutput<typeof QuoteInput>;
export const QuoteChange = v.object({ quote: QuoteInput, version: v.number(), changes });
export interface QuoteChange {
  quote: Quote;
  version: number;
  changes?: readonly string[];
}

/** The owner's word. */
export const QuoteAcceptInput = v.object({
  work: v.picklist(OFFERED),
  by: v.pipe(v.string(), v.trim(), v.minLength(1, "Say who accepted it."), v.maxLength(120)),
  version: v.number(),
});
export const QuoteAcceptedFile = v.object({
  work: v.picklist(OFFERED),
  by: v.pipe(v.string(), v.maxLength(120)),
  at: v.string(),
  grossUnits: units,
});
export type QuoteAccepted = v.InferOutput<typeof QuoteAcceptedFile>;

export const QuoteView = v.object({
  serviceId: v.string(),
  quote: QuoteInput,
  /** 0 while nothing is kept: then it is what follows from settings and plans. */
  version: v.number(),
  accepted: v.nullable(QuoteAcceptedFile),
  /** What each option is expected to bring; null where no baseline tells. */
  brings: v.nullable(v.object(v.entriesFromList(OFFERED, v.exactOptional(Bringing)))),
  /** At the fan speed of the baseline, for what a gain is worth in sound. */
  now: v.nullable(
    v.object({
      riseK: v.number(),
      fanRpm: v.number(),
    }),
  ),
  efforts: v.object(v.entriesFromList(OFFERED, Effort)),
  worthUnits: v.nullable(v.number()),
  holder: v.picklist(["owner", "stock"]),
  ownerName: v.string(),
  /** What it came to until now. */
  actual: v.object({
    minutes: v.number(),
    benchMinutes: v.number(),
    materialUnits: v.number(),
  }),
});
export type QuoteView = v.InferOutput<typeof QuoteView>;
