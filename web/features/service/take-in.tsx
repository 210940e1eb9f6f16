import { useState } from "react";
import { toast } from "sonner";
import type { CardInput } from "#contract";
import { api } from "../../app/api.ts";
import { dropDraft } from "../../app/drafts.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { useAppDispatch } from "../../app/store.ts";
import { LinkButton } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { CardForm } from "../card/card-form.tsx";
import { Photos } from "../card/photos.tsx";
import type { StationProps } from "./page.tsx";
import { PowerOn } from "./power-on.tsx";

export function TakeInStation({ cardId, service }: StationProps) {
  const { data: card, refetch } = api.useCardQuery(cardId);
  const [change, { isLoading }] = api.useChangeCardMutation();
  const [fault, setFault] = useState<Fault | null>(null);
  const [waiting, setWaiting] = useState<CardInput | null>(null);
  const [reset, setReset] = useState(0);
  const dispatch = useAppDispatch();
  const form = `card ${cardId}`;
  const [opened, setOpened] = useState(card?.version ?? 0);
  if (!card) return null;
  const save = async (input: CardInput, version: number): Promise<void> => {
    const answer = await change({ id: cardId, body: { ...input, version } });
    if ("error" in answer) {
      const found = faultOf(answer.error);
      if (found?.code === "changed-elsewhere") setWaiting(input);
      else setFault(found);
      return;
    }
    setFault(null);
    setOpened(answer.data.version);
    dispatch(dropDraft(form));
    setReset((old) => old + 1);
    toast("Saved");
  };
  const {
    id: _id,
    serviceId: _service,
    boardModelName: _name,
    version: _version,
    createdAt: _created,
    updatedAt: _updated,
    photos,
    ...input
  } = card;
  return (
    <div className="space-y-4">
      <div className="flex justify-end">
        <LinkButton to={`/cards/${cardId}/baseline`} look="main">
          Next: baseline
        </LinkButton>
      </div>
      <Photos cardId={cardId} photos={photos} />
      <CardForm
        key={reset}
        form={form}
        start={input}
        saveLabel="Save changes"
        busy={isLoading}
        fault={fault}
        onSave={(value) => void save(value, opened)}
      />
      <PowerOn service={service} />
      <ConflictDialog
        open={waiting !== null}
        what="card"
        onKeep={() => {
          setWaiting(null);
          dispatch(dropDraft(form));
          void refetch().then(({ data }) => {
            setOpened(data?.version ?? opened);
            setReset((old) => old + 1);
          });
        }}
        onTakeOver={() => {
          const mine = waiting;
          setWaiting(null);
          void refetch().then(({ data }) => (mine ? save(mine, data?.version ?? opened) : undefined));
        }}
      />
    </div>
  );
}
