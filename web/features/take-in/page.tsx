import { useNavigate } from "react-router";
import { EMPTY_CARD } from "#contract";
import { api } from "../../app/api.ts";
import { CardForm, useCardForm } from "../../parts/card/card-form.tsx";
import { Page } from "../../ui/page.tsx";

export function TakeInPage() {
  const [takeIn] = api.useTakeInMutation();
  const go = useNavigate();
  const draft = useCardForm({
    name: "take-in",
    load: { start: EMPTY_CARD, version: 0 },
    save: (card) => takeIn(card),
    onSaved: ({ id }) => void go(`/cards/${id}/take-in`),
  });
  return (
    <Page title="Take in a card" lead="Only maker and model are needed now; the rest can follow.">
      <CardForm isFirst draft={draft} saveLabel="Take in" />
    </Page>
  );
}
