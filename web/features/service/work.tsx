import { valibotResolver } from "@hookform/resolvers/valibot";
import { useEffect, useState } from "react";
import { useForm } from "react-hook-form";
import { toast } from "sonner";
import { NoteInput, WORK_KINDS, type WorkNote } from "#contract";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { faultOf } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { AreaField, numberOrNull, TextField } from "../../ui/field.tsx";
import { day } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { OpeningCautions } from "./opening-cautions.tsx";
import type { StationProps } from "./page.tsx";
import { Skip } from "./skip.tsx";
import { Uses } from "./uses.tsx";

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
      {service.notes.length > 0 && (
        <div className="flex justify-end">
          <LinkButton to={`/cards/${cardId}/prove`} look="main">
            Next: prove it
          </LinkButton>
        </div>
      )}
      <NoteForm serviceId={service.id} />
      <Uses serviceId={service.id} />
      {service.notes.length === 0 && (
        <Skip service={service} station="work" why="Without a note nobody can tell later what made the difference." />
      )}
    </div>
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
          {day(note.doneOn)} · {note.person}
          {note.minutes === null ? "" : ` · ${note.minutes} min`}
        </p>
      </div>
      {note.compound && <p className="text-sm">Compound: {note.compound}</p>}
      {note.text && <p className="mt-1 break-words whitespace-pre-wrap">{note.text}</p>}
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

const today = (): string => new Date().toISOString().slice(0, 10);

function NoteForm({ serviceId, note, onDone }: { serviceId: string; note?: WorkNote; onDone?: () => void }) {
  const key = `note ${note?.id ?? serviceId}`;
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.drafts[key]) as NoteInput | undefined;
  const { data: settings } = api.useSettingsQuery();
  const [add, adding] = api.useAddNoteMutation();
  const [change, changing] = api.useChangeNoteMutation();
  const empty: NoteInput = {
    doneOn: today(),
    person: settings?.person ?? "",
    work: [],
    compound: "",
    minutes: null,
    text: "",
  };
  const { register, handleSubmit, watch, reset, getValues, setValue, formState } = useForm<NoteInput>({
    defaultValues: draft ?? note ?? empty,
    resolver: valibotResolver(NoteInput),
  });
  useEffect(() => {
    const watching = watch((value) => {
      dispatch(keepDraft({ form: key, value: structuredClone(value) }));
    });
    return () => watching.unsubscribe();
  }, [watch, dispatch, key]);
  useEffect(() => {
    if (settings?.person && getValues("person") === "") setValue("person", settings.person);
  }, [settings, getValues, setValue]);
  const { refetch } = api.useServiceQuery(serviceId);
  const [waiting, setWaiting] = useState<NoteInput | null>(null);
  const save = async (body: NoteInput, version = note?.version ?? 0): Promise<void> => {
    const answer = note ? await change({ id: note.id, body: { ...body, version } }) : await add({ serviceId, body });
    if ("error" in answer) {
      if (faultOf(answer.error)?.code === "changed-elsewhere") setWaiting(body);
      return;
    }
    dispatch(dropDraft(key));
    reset({ ...empty, person: body.person });
    toast("Saved");
    onDone?.();
  };
  const { errors } = formState;
  return (
    <Sheet title={note ? "Change the note" : "Note what was done"}>
      <form className="space-y-4" noValidate onSubmit={(event) => void handleSubmit((body) => save(body))(event)}>
        <fieldset>
          <legend className="mb-1 font-medium">Work done</legend>
          <div className="flex flex-wrap gap-1">
            {WORK_KINDS.map((kind) => (
              <label
                key={kind}
                className="flex min-h-11 cursor-pointer items-center gap-2 rounded-lg border border-edge bg-sheet px-3 has-checked:border-ice has-checked:bg-frost has-checked:font-semibold"
              >
                <input type="checkbox" value={kind} className="size-4 accent-[var(--ice)]" {...register("work")} />
                {kind}
              </label>
            ))}
          </div>
          {errors.work && (
            <p role="alert" className="mt-1 text-sm font-medium text-danger">
              {errors.work.message}
            </p>
          )}
        </fieldset>
        <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
          <TextField label="Day" type="date" {...register("doneOn")} error={errors.doneOn?.message} />
          <TextField label="Who" {...register("person")} error={errors.person?.message} />
          <TextField label="Compound" {...register("compound")} error={errors.compound?.message} />
          <TextField
            label="Minutes of hands"
            inputMode="decimal"
            {...register("minutes", { setValueAs: numberOrNull })}
            error={errors.minutes?.message}
          />
        </div>
        <AreaField label="What you saw and did" {...register("text")} error={errors.text?.message} />
        <FaultNote error={adding.error ?? changing.error} />
        <div className="flex justify-end gap-2">
          {note && <Button onClick={onDone}>Leave it as it was</Button>}
          <Button look="main" type="submit" disabled={adding.isLoading || changing.isLoading}>
            {note ? "Save the change" : "Save the note"}
          </Button>
        </div>
      </form>
      <ConflictDialog
        open={waiting !== null}
        what="note"
        onKeep={() => {
          setWaiting(null);
          dispatch(dropDraft(key));
          void refetch();
          onDone?.();
        }}
        onTakeOver={() => {
          const mine = waiting;
          setWaiting(null);
          void refetch().then(({ data }) =>
            mine ? save(mine, data?.notes.find((one) => one.id === note?.id)?.version) : undefined,
          );
        }}
      />
    </Sheet>
  );
}
