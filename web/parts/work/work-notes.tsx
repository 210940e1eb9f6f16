import { useState } from "react";
import type { ServiceView, StationId, WorkNote } from "#contract";
import { api } from "../../app/api.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button } from "../../ui/button.tsx";
import { day } from "../../ui/format.ts";
import { NextLink } from "../service/next-link.tsx";
import { Uses } from "../service/uses.tsx";
import { CompoundStock } from "./compound-stock.tsx";
import { NoteForm } from "./note-form.tsx";

/** What was noted by hand, whatever the steps say: day, person, work, compound, words; and what was taken from the stock. */
export function WorkNotes({ cardId, service, from }: { cardId: string; service: ServiceView; from: StationId }) {
  const [isNoting, setNoting] = useState(false);
  return (
    <section aria-label="Noted by hand" className="space-y-3">
      <ul className="space-y-2">
        {service.notes.map((note) => (
          <NoteRow key={note.id} note={note} />
        ))}
      </ul>
      {service.notes.length > 0 && <NextLink cardId={cardId} service={service} from={from} />}
      {isNoting ? (
        <NoteForm serviceId={service.id} onSaved={() => setNoting(false)} />
      ) : (
        <Button onClick={() => setNoting(true)}>Note it by hand</Button>
      )}
      <Uses serviceId={service.id} />
    </section>
  );
}
function NoteRow({ note }: { note: WorkNote }) {
  const [remove] = api.useRemoveNoteMutation();
  const [editing, setEditing] = useState(false);
  if (editing) return <NoteForm serviceId={note.serviceId} note={note} onDone={() => setEditing(false)} />;
  return (
    <li className="rounded-xl border border-line bg-sheet px-4 py-3">
      <div className="flex flex-wrap justify-between gap-2">
        <p className="font-semibold">{note.work.join(", ")}</p>
        <p className="text-sm text-soft">
          {[day(note.doneOn), note.person, note.minutes === null ? "" : `${note.minutes} min`]
            .filter(Boolean)
            .join(" · ")}
        </p>
      </div>
      {note.compound && <p className="text-sm">Compound: {note.compound}</p>}
      {note.text && <p className="mt-1 break-words whitespace-pre-wrap">{note.text}</p>}
      {note.compound && note.work.includes("repasted") && (
        <div className="mt-2">
          <CompoundStock serviceId={note.serviceId} compound={note.compound} />
        </div>
      )}
      <div className="mt-1 flex gap-2">
        <Button look="quiet" onClick={() => setEditing(true)}>
          Change
        </Button>
        <Button
          look="quiet"
          onClick={() => void withUndo("Note removed", (removed) => remove({ noteId: note.id, body: { removed } }))}
        >
          Remove
        </Button>
      </div>
    </li>
  );
}
