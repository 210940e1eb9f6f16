import { useState } from "react";
import { useNavigate } from "react-router";
import { EMPTY_CARD, type RunInput } from "#contract";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

/** Keeps both runs under a new card: two words about it are enough. */
export function KeepAsCard({
  before,
  after,
  onKept,
}: Record<"before" | "after", { log?: File; run: RunInput }> & { onKept?: () => void }) {
  const go = useNavigate();
  const [maker, setMaker] = useState("");
  const [model, setModel] = useState("");
  const [kept, setKept] = useState<{ id: string; serviceId: string; before: boolean } | null>(null);
  const [takeIn, taking] = api.useTakeInMutation();
  const [addRun, adding] = api.useAddRunMutation();
  const keep = async (): Promise<void> => {
    // What was answered as kept is not sent again after a refusal.
    let card = kept;
    if (!card) {
      const made = await takeIn({ ...EMPTY_CARD, maker, model });
      if (!made.data) return;
      card = { id: made.data.id, serviceId: made.data.serviceId, before: false };
      setKept(card);
    }
    if (!card.before) {
      const first = await addRun({ serviceId: card.serviceId, form: before });
      if (!first.data) return;
      card = { ...card, before: true };
      setKept(card);
    }
    const second = await addRun({ serviceId: card.serviceId, form: after });
    if (!second.data) return;
    onKept?.();
    await go(`/cards/${card.id}/prove`);
  };
  const busy = taking.isLoading || adding.isLoading;
  return (
    <Sheet title="Keep it as a card">
      <form
        noValidate
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <TextField label="Maker" value={maker} maxLength={80} onChange={(event) => setMaker(event.target.value)} />
        <TextField label="Model" value={model} maxLength={120} onChange={(event) => setModel(event.target.value)} />
        <Button look="main" type="submit" disabled={busy || maker.trim() === "" || model.trim() === ""}>
          {busy ? "Keeping both runs…" : "Keep card and runs"}
        </Button>
      </form>
      <FaultNote error={taking.error ?? adding.error} />
      {kept && !busy && adding.error && (
        <Note title="The card is kept">What is missing is sent when you press the button again.</Note>
      )}
    </Sheet>
  );
}
