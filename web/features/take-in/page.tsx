import { useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { type Card, EMPTY_CARD, NO_TERMS } from "#contract";
import { api } from "../../app/api.ts";
import { CardForm, useCardForm } from "../../parts/card/card-form.tsx";
import { useDay } from "../../parts/day/use-day.ts";
import { momentWords, roundUp } from "../../parts/day/words.ts";
import { Page } from "../../ui/page.tsx";

export function TakeInPage() {
  const [takeIn] = api.useTakeInMutation();
  const [changeTerms] = api.useChangeTermsMutation();
  const [isPromised, setPromised] = useState(false);
  const go = useNavigate();
  const { day } = useDay();
  const promiseMs = day?.plan ? roundUp(day.plan.newcomerMs) : null;
  const goOn = async ({ id, serviceId }: Card): Promise<void> => {
    if (isPromised && promiseMs !== null) {
      const promisedAt = new Date(promiseMs).toISOString();
      const made = await changeTerms({ serviceId, body: { ...NO_TERMS, promisedAt, version: 0 } });
      if (made.error) toast.error("The card is taken in, but its promise was not kept: promise it on the Bench.");
    }
    await go(`/cards/${id}/take-in`);
  };
  const draft = useCardForm({
    name: "take-in",
    load: { start: EMPTY_CARD, version: 0 },
    save: (card) => takeIn(card),
    onSaved: (card) => void goOn(card),
  });
  return (
    <Page title="Take in a card" lead="Only maker and model are needed now; the rest can follow.">
      {day && promiseMs !== null && (
        <label className="mb-4 flex min-h-11 items-center gap-3 text-soft">
          <input
            type="checkbox"
            className="size-5 shrink-0"
            checked={isPromised}
            onChange={(event) => setPromised(event.target.checked)}
          />
          <span>
            Promise it for <strong className="text-ink">{momentWords(promiseMs, day.atMs)}</strong>: nine cards in ten
            that come in now, with all that may have to be done, are ready by then.
          </span>
        </label>
      )}
      <CardForm isFirst draft={draft} saveLabel="Take in" />
    </Page>
  );
}
