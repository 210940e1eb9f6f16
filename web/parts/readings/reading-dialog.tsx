import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { toast } from "sonner";
import * as v from "valibot";
import { READING_KINDS, ReadingInput } from "#contract";
import { EMISSIVITIES } from "#core/readings/index.ts";
import { api } from "../../app/api.ts";
import { useDraftForm } from "../../app/use-draft-form.ts";
import { Button } from "../../ui/button.tsx";
import { Caution } from "../../ui/caution.tsx";
import { Choice } from "../../ui/choice.tsx";
import { numberOrNull, SelectField, TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { SoundReading } from "./sound-reading.tsx";

const ReadingText = v.object({
  kind: v.picklist(READING_KINDS.map((one) => one.id)),
  place: v.string(),
  shown: v.string(),
  emissivity: v.string(),
  surroundC: v.string(),
  note: v.string(),
});
type ReadingText = v.InferOutput<typeof ReadingText>;
const EMPTY: ReadingText = {
  kind: "infrared",
  place: "",
  shown: "",
  emissivity: "0.93",
  surroundC: "22",
  note: "",
};

/** From what is typed to a reading of this live run, if it is one's. */
const reading = (liveId: string | null) =>
  v.pipe(
    ReadingText,
    v.transform(({ shown, emissivity, surroundC, ...text }) => ({
      ...text,
      shown: numberOrNull(shown) ?? Number.NaN,
      emissivity: text.kind === "infrared" ? numberOrNull(emissivity) : null,
      surroundC: text.kind === "infrared" ? numberOrNull(surroundC) : null,
      liveId,
    })),
    ReadingInput,
  );

const unitOf = (kind: ReadingInput["kind"]): string => READING_KINDS.find((one) => one.id === kind)?.unit ?? "";

interface ReadingDialogProps {
  serviceId: string;
  liveId: string | null;
  open: boolean;
  onClose: () => void;
}

/** Any single measurement, typed as the instrument shows it. */
export function ReadingDialog({ serviceId, liveId, open, onClose }: ReadingDialogProps) {
  const [add] = api.useAddReadingMutation();
  const { form, submit, busy, fault } = useDraftForm({
    name: `reading ${serviceId}`,
    schema: reading(liveId),
    load: { start: EMPTY, version: 0 },
    save: (body) => add({ serviceId, body }),
    onSaved: () => {
      // The next one is taken with the same instrument, often at the same place.
      form.reset({ ...form.getValues(), shown: "", note: "" });
      toast("Reading kept");
      onClose();
    },
  });
  const { register, watch, setValue, formState } = form;
  const { errors } = formState;
  const kind = watch("kind");
  const emissivity = watch("emissivity");
  return (
    <Dialog open={open} onClose={onClose} className="relative z-50">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 overflow-y-auto p-4">
        <DialogPanel className="mx-auto w-full max-w-lg space-y-4 rounded-xl bg-sheet p-6 shadow-xl">
          <DialogTitle className="text-lg font-bold">Take a reading</DialogTitle>
          <form className="space-y-4" onSubmit={submit}>
            <Choice
              label="Instrument"
              value={kind}
              options={READING_KINDS.map((one) => ({ value: one.id, label: one.label }))}
              onChange={(value) => setValue("kind", value, { shouldDirty: true })}
            />
            <TextField
              label={`The figure it shows (${unitOf(kind)})`}
              inputMode="decimal"
              data-autofocus
              error={errors.shown?.message}
              {...register("shown")}
            />
            {kind === "infrared" && (
              <div className="grid gap-3 sm:grid-cols-2">
                <SelectField
                  label="Surface"
                  {...register("emissivity")}
                  hint={
                    Number(emissivity) < 0.5
                      ? "Bare metal mirrors the room and can’t be read: stick matt tape on it, or use a probe."
                      : `Emissivity ${emissivity}; set the instrument itself to 1.`
                  }
                >
                  {EMISSIVITIES.map((one) => (
                    <option key={one.surface} value={one.emissivity}>
                      {one.surface}
                    </option>
                  ))}
                </SelectField>
                <TextField
                  label="Surroundings (°C)"
                  inputMode="decimal"
                  error={errors.surroundC?.message}
                  hint="What it mirrors: usually the room."
                  {...register("surroundC")}
                />
              </div>
            )}
            {kind === "sound" && (
              <SoundReading onLevel={(level) => setValue("shown", level.toFixed(1), { shouldDirty: true })} />
            )}
            <TextField
              label="Where"
              placeholder={kind === "sound" ? "50 cm from the fans" : "such as memory 3, choke by the plug"}
              {...register("place")}
            />
            <TextField label="Note" {...register("note")} />
            {kind !== "sound" && <Caution of="underLoad" />}
            <FaultNote fault={fault} />
            <div className="flex justify-end gap-2">
              <Button onClick={onClose}>Close</Button>
              <Button look="main" type="submit" disabled={busy}>
                Keep the reading
              </Button>
            </div>
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
