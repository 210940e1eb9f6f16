import type { Quote, QuoteView } from "#contract";
import { api } from "../../app/api.ts";
import { documentKind, type Kept, useDocument } from "../../app/document.ts";

export const storedQuote = ({ version, quote }: QuoteView) => ({ version, value: quote });

const QUOTE = documentKind<Quote, QuoteView>({
  name: "quote",
  read: "quote",
  of: storedQuote,
  send: (serviceId, { value, version, changes }, dispatch) =>
    dispatch(
      api.endpoints.changeQuote.initiate({ serviceId, body: { quote: value, version, changes } }, { track: false }),
    ),
});

export const useKeptQuote = (view: QuoteView): Kept<Quote> => useDocument(QUOTE, view.serviceId, storedQuote(view));
