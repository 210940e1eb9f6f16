import { useNavigate } from "react-router";
import { toast } from "sonner";
import type { Card, CardInput, ServiceView } from "#contract";
import { api } from "../../app/api.ts";
import { withUndo } from "../../app/with-undo.ts";
import { CardForm, useCardForm } from "../../parts/card/card-form.tsx";
import { Photos } from "../../parts/card/photos.tsx";
import { NextLink } from "../../parts/service/next-link.tsx";
import { Button } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import type { StationProps } from "../station.ts";
import { PowerOn } from "./power-on.tsx";

export function TakeInStation({ cardId, service }: StationProps) {
  const { data: card } = api.useCardQuery(cardId);
  return card ? <TakeInSheet key={cardId} card={card} service={service} /> : null;
}

function TakeInSheet({ card, service }: { card: Card; service: ServiceView }) {
  const { refetch } = api.useCardQuery(card.id);
  const [change] = api.useChangeCardMutation();
  const draft = useCardForm({
    name: `card ${card.id}`,
    load: { start: inputOf(card), version: card.version },
    save: (body, version) => change({ cardId: card.id, body: { ...body, version } }),
    newest: async () => {
      const { data } = await refetch();
      return data && { start: inputOf(data), version: data.version };
    },
    onSaved: () => void toast("Saved"),
  });
  return (
    <div className="space-y-4">
      <NextLink cardId={card.id} service={service} from="takeIn" />
      <Photos cardId={card.id} photos={card.photos} />
      <CardForm draft={draft} saveLabel="Save changes" />
      <PowerOn service={service} />
      <RemoveCard card={card} />
      <ConflictDialog what="card" {...draft.conflict} />
    </div>
  );
}

/** Off every list, with all that belongs to it; it waits under Removed. */
function RemoveCard({ card: { id, maker, model } }: { card: Card }) {
  const [remove] = api.useRemoveCardMutation();
  const go = useNavigate();
  return (
    <p className="flex flex-wrap items-center gap-x-3 text-sm text-soft">
      <Button
        look="danger"
        onClick={() =>
          void withUndo(`${maker} ${model} removed`, (removed) => remove({ cardId: id, body: { removed } })).then(
            (done) => done && go("/cards"),
          )
        }
      >
        Remove this card
      </Button>
      With its runs, notes and photos. It can be put back from Removed, under Cards.
    </p>
  );
}

function inputOf({
  id: _id,
  serviceId: _service,
  boardModelName: _name,
  version: _version,
  createdAt: _created,
  updatedAt: _updated,
  photos: _photos,
  ...input
}: Card): CardInput {
  return input;
}
