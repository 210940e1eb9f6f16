import type { QuoteChange, QuoteView } from "#contract";
import type { OfferedWork } from "#core/quote/index.ts";
import { api } from "../../app/api.ts";

export const quoteApi = api.injectEndpoints({
  endpoints: (build) => ({
    quote: build.query<QuoteView, string>({
      query: (id) => `services/${id}/quote`,
      providesTags: ["quote", "service", "card", "stores", "settings"],
      merge: (held, come) => (come.version >= held.version ? come : held),
    }),
    changeQuote: build.mutation<QuoteView, { id: string; body: QuoteChange }>({
      query: ({ id, body }) => ({ url: `services/${id}/quote`, method: "PUT", body }),
      // The answer is the newest there is: it stands there before the change leaves the outbox.
      async onQueryStarted({ id }, { dispatch, queryFulfilled }) {
        const made = await queryFulfilled.catch(() => null);
        if (made) dispatch(quoteApi.util.updateQueryData("quote", id, () => made.data));
      },
    }),
    acceptQuote: build.mutation<QuoteView, { id: string; body: { work: OfferedWork; by: string; version: number } }>({
      query: ({ id, body }) => ({ url: `services/${id}/quote/accepted`, method: "PUT", body }),
      invalidatesTags: ["quote"],
    }),
    reopenQuote: build.mutation<QuoteView, { id: string; version: number }>({
      query: ({ id, version }) => ({ url: `services/${id}/quote/open`, method: "PUT", body: { version } }),
      invalidatesTags: ["quote"],
    }),
  }),
});
