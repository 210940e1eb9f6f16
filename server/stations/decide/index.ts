import { eq } from "drizzle-orm";
import * as v from "valibot";
import { CHOICES, QuoteAcceptedFile, QuoteInput, WIRES } from "#contract";
import type { DecideFacts } from "#core/stations/decide/index.ts";
import { services } from "../../db/schema.ts";
import { serve } from "../../http/route.ts";
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
  routes: (context) =>
    serve(WIRES.decide, {
      advice: ({ params }) => adviseService(context, params.serviceId),
      decide: async ({ params, body }) => {
        await decide(context, params.serviceId, body);
        return readService(context, params.serviceId);
      },
      quote: ({ params }) => readQuote(context, params.serviceId),
      changeQuote: ({ params, body }) => changeQuote(context, params.serviceId, body),
      acceptQuote: ({ params, body }) => acceptQuote(context, params.serviceId, body),
      reopenQuote: ({ params, body: { version } }) => acceptQuote(context, params.serviceId, { work: null, version }),
    }),
};
