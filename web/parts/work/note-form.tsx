import { useId } from "react";
import { toast } from "sonner";
import { NoteInput, WORK_KINDS, type WorkNote } from "#contract";
import { api } from "../../app/api.ts";
import { useDraftForm } from "../../app/use-draft-form.ts";
import { Button } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { AreaField, numberOrNull, TextField } from "../../ui/field.tsx";
import { today } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { compoundsOf } from "./compound-stock.tsx";

/** A work note, new or changed. */
export function NoteForm({
  serviceId,
  note,
  onDone,
  onSaved,
}: {
  serviceId: string;
  note?: WorkNote;
  onDone?: () => void;
  onSaved?: () => void;
}) {
  const { data: settings } = api.useSettingsQuery();
  const { data: stores } = api.useStoresQuery();
  const compoundsId = useId();
  const { refetch } = api.useServiceQuery(serviceId);
  const [add] = api.useAddNoteMutation();
  const [change] = api.useChangeNoteMutation();
  const empty: NoteInput = {
    doneOn: today(),
    person: settings?.person ?? "",
    work: [],
    compound: "",
    minutes: null,
    text: "",
  };
  const { form, submit, busy, fault, discard, conflict } = useDraftForm({
    name: `note ${note?.id ?? serviceId}`,
    schema: NoteInput,
    load: { start: note ?? empty, version: note?.version ?? 0 },
    save: (body, version) =>
      note ? change({ noteId: note.id, body: { ...body, version } }) : add({ serviceId, body }),
    newest: async () => {
      const now = (await refetch()).data?.notes.find((one) => one.id === note?.id);
      return now && { start: now, version: now.version };
    },
    onSaved: () => {
      form.reset({ ...empty, person: form.getValues("person") });
      toast("Saved");
      onDone?.();
      onSaved?.();
    },
    ...(onDone ? { onKept: onDone } : {}),
  });
  const { register, formState } = form;
  const { errors } = formState;
  return (
    <Sheet title={note ? "Change the note" : "Note what was done"}>
      <form className="space-y-4" noValidate onSubmit={submit}>
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
          <TextField
            label="Who"
            {...register("person")}
            hint="May stay empty where one person works"
            error={errors.person?.message}
          />
          <TextField
            label="Compound"
            list={compoundsId}
            autoComplete="off"
            {...register("compound")}
            hint="From the stores, or as you call it"
            error={errors.compound?.message}
          />
          <datalist id={compoundsId}>
            {compoundsOf(stores?.materials ?? []).map(({ id, name }) => (
              <option key={id} value={name} />
            ))}
          </datalist>
          <TextField
            label="Minutes of hands"
            inputMode="decimal"
            {...register("minutes", { setValueAs: numberOrNull })}
            error={errors.minutes?.message}
          />
        </div>
        <AreaField label="What you saw and did" {...register("text")} error={errors.text?.message} />
        <FaultNote fault={fault} />
        <div className="flex justify-end gap-2">
          {note && (
            <Button
              onClick={() => {
                discard();
                onDone?.();
              }}
            >
              Cancel
            </Button>
          )}
          <Button look="main" type="submit" disabled={busy}>
            {note ? "Save the change" : "Save the note"}
          </Button>
        </div>
      </form>
      <ConflictDialog what="note" {...conflict} />
    </Sheet>
  );
}
