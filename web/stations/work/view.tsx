import { useState } from "react";
import type { WorkNote } from "#contract";
import { withUndo } from "../../app/with-undo.ts";
import { NextLink } from "../../parts/service/next-link.tsx";
import { OpeningCautions } from "../../parts/service/opening-cautions.tsx";
import { Skip } from "../../parts/service/skip.tsx";
import { Uses } from "../../parts/service/uses.tsx";
import { Button } from "../../ui/button.tsx";
import { day } from "../../ui/format.ts";
import type { StationProps } from "../station.ts";
import { CompoundStock } from "./compound-stock.tsx";
import { workApi } from "./endpoints.ts";
import { NoteForm } from "./note-form.tsx";

/** What was done between the runs: day, person, work, compound, words. */
export function WorkStation({ cardId, service }: StationProps) {
  return (
    <div className="space-y-4">
      <OpeningCautions service={service} />
      <ul className="space-y-2">
        {service.notes.map((note) => (
          <NoteRow key={note.id} note={note} />
        ))}
      </ul>
      {service.notes.length > 0 && <NextLink cardId={cardId} service={service} from="work" />}
      <NoteForm serviceId={service.id} />
      <Uses serviceId={service.id} />
      {service.notes.length === 0 && <Skip service={service} station="work" />}
    </div>
  );
}

function NoteRow({ note }: { note: WorkNote }) {
  const [remove] = workApi.useRemoveNoteMutation();
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
          onClick={() => void withUndo("Note removed", (removed) => remove({ id: note.id, removed }))}
        >
          Remove
        </Button>
      </div>
    </li>
  );
}
