import { useEffect, useState } from "react";
import { type DayTerms, type DayView, NO_TERMS } from "#contract";
import { api } from "../../app/api.ts";
import { type Change, changeDocument, documentKind } from "../../app/document.ts";
import type { Fault } from "../../app/fault.ts";
import { mergeChanges } from "../../app/merge.ts";
import { dropped, keyOf, type Outbox, type Outgoing, opened } from "../../app/outbox.ts";
import { useAppSelector, useAppStore } from "../../app/store.ts";

const LOOK_MS = { planning: 500, quiet: 10_000 };

/** The day, looked at anew while it is planned and now and then after. */
export function useDay(): { day: DayView | undefined; isLoading: boolean; error: unknown } {
  const [isPlanning, setPlanning] = useState(true);
  const { data, isLoading, error } = api.useDayQuery(undefined, {
    pollingInterval: isPlanning ? LOOK_MS.planning : LOOK_MS.quiet,
    skipPollingIfUnfocused: true,
    refetchOnFocus: true,
  });
  if (data && data.planning !== isPlanning) setPlanning(data.planning);
  const outbox = useAppSelector((state) => state.outbox);
  return { day: data && withWaiting(data, outbox), isLoading, error };
}

/** What is promised of a card, and where its steps are held. */
const TERMS = documentKind<DayTerms, DayView>({
  name: "terms",
  read: "day",
  call: () => undefined,
  of: (day, serviceId) => {
    const card = day.cards.find((one) => one.serviceId === serviceId);
    return card && { version: card.version, value: card.terms };
  },
  async send(serviceId, { value, version, changes }, dispatch) {
    const body = { ...value, version, changes };
    const made = await dispatch(api.endpoints.changeTerms.initiate({ serviceId, body }, { track: false }));
    // The day shows it before it leaves the outbox.
    if (made.data) {
      const { version: kept, ...terms } = made.data;
      dispatch(
        api.util.updateQueryData("day", undefined, (day) => {
          const card = day.cards.find((one) => one.serviceId === serviceId);
          if (card) Object.assign(card, { terms, version: kept });
        }),
      );
    }
    return made;
  },
  merge: mergeChanges,
});

/** A change of a card's terms, from what they are by then. */
export type TermsChange = Change<DayTerms>;

/** Keeps what is promised of cards: shown at once, one change after the other. */
export function useTerms(): { keep: (serviceId: string, change: TermsChange) => void; fault: Fault | null } {
  const store = useAppStore();
  // What a page before this one had not saved goes out from here.
  useEffect(() => {
    for (const [key, { version }] of ofTerms(store.getState().outbox)) store.dispatch(opened({ key, version }));
  }, [store]);
  const fault = useAppSelector(({ outbox }) => ofTerms(outbox).find(([, held]) => held.fault)?.[1].fault ?? null);
  const keep = (serviceId: string, change: TermsChange): void => {
    const key = keyOf(TERMS, serviceId);
    // What was refused is not meant any more once something else is done.
    if (store.getState().outbox[key]?.phase === "refused") store.dispatch(dropped(key));
    changeDocument(store, TERMS, serviceId, NO_TERMS, change);
  };
  return { keep, fault };
}

const ofTerms = (outbox: Outbox): Array<[string, Outgoing]> =>
  Object.entries(outbox).filter(([key]) => key.startsWith(`${TERMS.name} `));

/** The day with what was changed here and has no answer yet. */
function withWaiting(day: DayView, outbox: Outbox): DayView {
  const waiting = new Map(
    ofTerms(outbox).flatMap(
      ([key, { value, phase }]): Array<[string, DayTerms]> =>
        value && phase !== "refused" ? [[key, value as DayTerms]] : [],
    ),
  );
  if (waiting.size === 0) return day;
  const cards = day.cards.map((card) => ({ ...card, terms: waiting.get(keyOf(TERMS, card.serviceId)) ?? card.terms }));
  return { ...day, cards };
}
