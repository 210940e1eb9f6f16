import { eq } from "drizzle-orm";
import * as v from "valibot";
import { CHOICES, DecisionInput, QuoteAcceptedFile, QuoteAcceptInput, QuoteChange, QuoteInput } from "#contract";
import type { DecideFacts } from "#core/stations/decide/index.ts";
import { services } from "../../db/schema.ts";
import { get, param, put } from "../../http/route.ts";
import { readService } from "../../services/services.ts";
import type { ServerStation } from "../station.ts";
import { adviseService, decide } from "./decide.ts";
import { acceptQuote, changeQuote, readQuote } from "./quote.ts";
import { quotes } from "./tables.ts";

export const station: ServerStation<DecideFacts> = {
  id: "decide",
  tables: { quotes },
  documents: { quotes: { quote: QuoteInput, accepted: v.nullable(QuoteAcceptedFile) } },
  async load(db, serviceId) {
    const [found] = await db.select({ decision: services.decision }).from(services).where(eq(services.id, serviceId));
    return { label: CHOICES.find((choice) => choice.id === found?.decision?.choice)?.label ?? "" };
  },
  routes: (context) => [
    get("/services/:id/advice", "Open it or leave it: recommendation with reasons", ({ params }) =>
      adviseService(context, param(params, "id")),
    ),
    put(
      "/services/:id/decision",
      "Decide; another choice than the recommended one needs a reason",
      DecisionInput,
      async ({ params, body }) => {
        await decide(context, param(params, "id"), body);
        return readService(context, param(params, "id"));
      },
    ),
    get("/services/:id/quote", "What options cost and bring, what was accepted, what it came to", ({ params }) =>
      readQuote(context, param(params, "id")),
    ),
    put("/services/:id/quote", "Keep a quote; send the version it was made from", QuoteChange, ({ params, body }) =>
      changeQuote(context, param(params, "id"), body),
    ),
    put("/services/:id/quote/accepted", "The owner accepts one option", QuoteAcceptInput, ({ params, body }) =>
      acceptQuote(context, param(params, "id"), body),
    ),
    put(
      "/services/:id/quote/open",
      "The acceptance is taken back",
      v.object({ version: v.number() }),
      ({ params, body: { version } }) => acceptQuote(context, param(params, "id"), { work: null, version }),
    ),
  ],
};
