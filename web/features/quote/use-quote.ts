import type { Quote, QuoteView } from "#contract";
import { api } from "../../app/api.ts";
import { keyOf, outboxKind, sentAnswer } from "../../app/outbox.ts";
import { useAppStore } from "../../app/store.ts";
import { type OutboxHandle, useOutbox } from "../../app/use-outbox.ts";

const QUOTE = outboxKind<Quote>({
  name: "quote",
  afterMs: 0,
  async send(id, { value, version, changes }, dispatch) {
    const body = { quote: value, version, changes };
    const sending = dispatch(api.endpoints.changeQuote.initiate({ serviceId: id, body }, { track: false }));
    return sentAnswer(await sending, (view) => view.version);
  },
});

/** A change of the quote, made from what it is by then: quick hands change twice before the first has its answer. */
export type Keep = (more: (quote: Quote) => Partial<Quote>) => void;

export interface KeptQuote extends Pick<OutboxHandle<Quote>, "phase" | "fault" | "settled"> {
  quote: Quote;
  keep: Keep;
  /** What the server has goes on: what was changed here is left out. */
  leaveOut: (stored: QuoteView) => void;
  takeOver: (stored: QuoteView) => void;
}

/** The quote as it was changed here, saved by itself. */
export function useKeptQuote({ serviceId, version, quote: stored }: QuoteView): KeptQuote {
  const store = useAppStore();
  const { value, change, adopt, takeOver, ...out } = useOutbox(QUOTE, serviceId, version);
  return {
    ...out,
    quote: value ?? stored,
    keep: (more) => {
      const { data } = api.endpoints.quote.select(serviceId)(store.getState());
      const now =
        (store.getState().outbox[keyOf(QUOTE, serviceId)]?.value as Quote | undefined) ?? data?.quote ?? stored;
      change({ ...now, ...more(now) });
    },
    leaveOut: (view) => adopt(view.version),
    takeOver: (view) => takeOver(view.version),
  };
}
