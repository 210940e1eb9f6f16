import { useState } from "react";
import type { DayTerms, DayView } from "#contract";
import { api } from "../../app/api.ts";
import { useAppStore } from "../../app/store.ts";
import { useInTurn } from "../../app/use-in-turn.ts";

const LOOK_MS = { planning: 500, quiet: 10_000 };

/** The day, looked at anew while it is planned and now and then after. */
export function useDay(): { day: DayView | undefined; isLoading: boolean; error: unknown } {
  const [isPlanning, setPlanning] = useState(true);
  const {
    data: day,
    isLoading,
    error,
  } = api.useDayQuery(undefined, {
    pollingInterval: isPlanning ? LOOK_MS.planning : LOOK_MS.quiet,
    skipPollingIfUnfocused: true,
    refetchOnFocus: true,
  });
  if (day && day.planning !== isPlanning) setPlanning(day.planning);
  return { day, isLoading, error };
}

/** What is changed of a card's terms, from what they are by then. */
export type TermsChange = (terms: DayTerms) => Partial<DayTerms>;

/** Keeps what is promised of a card, and where its steps are held: one change after the other, each from what the one before left. */
export function useTerms(): { keep: (serviceId: string, change: TermsChange) => void; fault: unknown } {
  const [send, { error }] = api.useChangeTermsMutation();
  const store = useAppStore();
  const inTurn = useInTurn();
  const sendNext = async (serviceId: string, change: TermsChange): Promise<void> => {
    const { data } = api.endpoints.day.select()(store.getState());
    const card = data?.cards.find((one) => one.serviceId === serviceId);
    if (card) await send({ serviceId, body: { ...card.terms, ...change(card.terms), version: card.version } });
  };
  return {
    keep: (serviceId, change) => inTurn(() => sendNext(serviceId, change)),
    fault: error,
  };
}
