import { useState } from "react";
import { toast } from "sonner";
import type { Card, CardInput, ServiceView } from "#contract";
import { api } from "../../app/api.ts";
import { dropDraft } from "../../app/drafts.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { useAppDispatch, useAppStore } from "../../app/store.ts";
import { LinkButton } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { CardForm } from "../card/card-form.tsx";
import { Photos } from "../card/photos.tsx";
import type { StationProps } from "./page.tsx";
import { PowerOn } from "./power-on.tsx";

export function TakeInStation({ cardId, service }: StationProps) {
  const { data: card } = api.useCardQuery(cardId);
  return card ? <TakeInSheet key={cardId} card={card} service={service} /> : null;
}

function TakeInSheet({ card, service }: { card: Card; service: ServiceView }) {
  const { refetch } = api.useCardQuery(card.id);
  const [change, { isLoading }] = api.useChangeCardMutation();
  const [fault, setFault] = useState<Fault | null>(null);
  const [waiting, setWaiting] = useState<CardInput | null>(null);
  /** What the form began with: the card as the server last gave it to this form. */
  const [opened, setOpened] = useState(card);
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const form = `card ${card.id}`;
  const open = (now: Card): void => {
    dispatch(dropDraft(form));
    setOpened(now);
  };
  const save = async (input: CardInput, version: number): Promise<void> => {
    const sent = store.getState().drafts[form];
    const answer = await change({ id: card.id, body: { ...input, version } });
    if ("error" in answer) {
      const found = faultOf(answer.error);
      if (found?.code === "changed-elsewhere") setWaiting(input);
      else setFault(found);
      return;
    }
    setFault(null);
    // What was typed since it was sent stays a draft.
    if (store.getState().drafts[form] === sent) open(answer.data);
    else setOpened(answer.data);
    toast("Saved");
  };
  const {
    id: cardId,
    serviceId: _service,
    boardModelName: _name,
    version,
    createdAt: _created,
    updatedAt: _updated,
    photos: _photos,
    ...input
  } = opened;
  return (
    <div className="space-y-4">
      <div className="flex justify-end">
        <LinkButton to={`/cards/${cardId}/baseline`} look="main">
          Next: baseline
        </LinkButton>
      </div>
      <Photos cardId={cardId} photos={card.photos} />
      <CardForm
        key={version}
        form={form}
        start={input}
        saveLabel="Save changes"
        busy={isLoading}
        fault={fault}
        onSave={(value) => void save(value, version)}
      />
      <PowerOn service={service} />
      <ConflictDialog
        open={waiting !== null}
        what="card"
        onKeep={() => {
          setWaiting(null);
          void refetch().then(({ data }) => data && open(data));
        }}
        onTakeOver={() => {
          const mine = waiting;
          setWaiting(null);
          void refetch().then(({ data }) => (mine ? save(mine, data?.version ?? version) : undefined));
        }}
      />
    </div>
  );
}
