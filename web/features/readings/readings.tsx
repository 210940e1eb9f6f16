import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useState } from "react";
import { toast } from "sonner";
import { READING_KINDS, type Reading, type ReadingInput } from "#contract";
import { EMISSIVITIES } from "#core/readings/index.ts";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { useKeys } from "../../app/keys.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { numberOrNull, SelectField, TextField } from "../../ui/field.tsx";
import { figure, span } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { SoundReading } from "./sound-reading.tsx";

const unitOf = (kind: ReadingInput["kind"]): string => READING_KINDS.find((one) => one.id === kind)?.unit ?? "";
const labelOf = (kind: ReadingInput["kind"]): string => READING_KINDS.find((one) => one.id === kind)?.label ?? kind;

/** Measurements by hand, at any time with `m`; within a live run they carry its time. */
export function Readings({ serviceId, liveId }: { serviceId: string; liveId: string | null }) {
  const { data: readings = [], error } = api.useReadingsQuery(serviceId);
  const [remove] = api.useRemoveReadingMutation();
  const [open, setOpen] = useState(false);
  useKeys((key, event) => {
    if (key !== "m") return;
    event.preventDefault();
    setOpen(true);
  });
  return (
    <Sheet
      title="Readings by hand"
      action={
        <Button onClick={() => setOpen(true)}>
          Take a reading <kbd className="text-sm font-normal text-soft">m</kbd>
        </Button>
      }
    >
      <FaultNote error={error} />
      {readings.length === 0 && (
        <p className="text-soft">
          None yet. Infrared, contact probe, wall power, sound or room air: press m, type the figure, and it is kept
          with its time.
        </p>
      )}
      {readings.length > 0 && (
        <ul className="divide-y divide-line">
          {readings.map((one) => (
            <ReadingLine
              key={one.id}
              reading={one}
              onRemove={() => void withUndo("Reading removed", (removed) => remove({ id: one.id, removed }))}
            />
          ))}
        </ul>
      )}
      <ReadingDialog serviceId={serviceId} liveId={liveId} open={open} onClose={() => setOpen(false)} />
    </Sheet>
  );
}

function ReadingLine({ reading, onRemove }: { reading: Reading; onRemove: () => void }) {
  const unit = unitOf(reading.kind);
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
      <span className="w-28 text-xl font-bold">
        {figure(reading.value)} <span className="text-sm font-medium">{unit}</span>
      </span>
      <span className="min-w-0 flex-1">
        <span className="font-medium">{labelOf(reading.kind)}</span>
        {reading.place && ` · ${reading.place}`}
        {reading.atS !== null && <span className="text-soft"> · {span(reading.atS)} into the run</span>}
        {reading.kind === "infrared" && (
          <span className="block text-sm text-soft">
            shown {figure(reading.shown)} °C, corrected for emissivity {reading.emissivity ?? 0.93} (Stefan–Boltzmann)
          </span>
        )}
        {reading.warning && <span className="block text-sm font-medium text-amber">{reading.warning}</span>}
        {reading.note && <span className="block text-sm text-soft">{reading.note}</span>}
      </span>
      <Button look="quiet" onClick={onRemove} aria-label={`Remove the reading of ${figure(reading.value)} ${unit}`}>
        Remove
      </Button>
    </li>
  );
}

function ReadingDialog({
  serviceId,
  liveId,
  open,
  onClose,
}: {
  serviceId: string;
  liveId: string | null;
  open: boolean;
  onClose: () => void;
}) {
  const [kind, setKind] = useState<ReadingInput["kind"]>("infrared");
  const [place, setPlace] = useState("");
  const [shown, setShown] = useState("");
  const [emissivity, setEmissivity] = useState("0.93");
  const [surround, setSurround] = useState("22");
  const [note, setNote] = useState("");
  const [add, { error, isLoading, reset }] = api.useAddReadingMutation();
  const fault = faultOf(error);
  const save = async (): Promise<void> => {
    const answer = await add({
      serviceId,
      body: {
        kind,
        place,
        shown: numberOrNull(shown) ?? Number.NaN,
        emissivity: kind === "infrared" ? numberOrNull(emissivity) : null,
        surroundC: kind === "infrared" ? numberOrNull(surround) : null,
        note,
        liveId,
      },
    });
    if ("error" in answer) return;
    setShown("");
    setNote("");
    toast("Reading kept");
    onClose();
  };
  return (
    <Dialog
      open={open}
      onClose={() => {
        reset();
        onClose();
      }}
      className="relative z-50"
    >
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 overflow-y-auto p-4">
        <DialogPanel className="mx-auto w-full max-w-lg space-y-4 rounded-xl bg-sheet p-6 shadow-xl">
          <DialogTitle className="text-lg font-bold">Take a reading</DialogTitle>
          <form
            className="space-y-4"
            onSubmit={(event) => {
              event.preventDefault();
              void save();
            }}
          >
            <Choice
              label="Instrument"
              value={kind}
              options={READING_KINDS.map((one) => ({ value: one.id, label: one.label }))}
              onChange={setKind}
            />
            <TextField
              label={`The figure it shows (${unitOf(kind)})`}
              inputMode="decimal"
              data-autofocus
              value={shown}
              error={fault?.errors.shown}
              onChange={(event) => setShown(event.target.value)}
            />
            {kind === "infrared" && (
              <div className="grid gap-3 sm:grid-cols-2">
                <SelectField
                  label="Surface"
                  value={emissivity}
                  onChange={(event) => setEmissivity(event.target.value)}
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
                  value={surround}
                  error={fault?.errors.surroundC}
                  hint="What it mirrors: usually the room."
                  onChange={(event) => setSurround(event.target.value)}
                />
              </div>
            )}
            {kind === "sound" && <SoundReading onLevel={(level) => setShown(level.toFixed(1))} />}
            <TextField
              label="Where"
              value={place}
              placeholder={kind === "sound" ? "50 cm from the fans" : "such as memory 3, choke by the plug"}
              onChange={(event) => setPlace(event.target.value)}
            />
            <TextField label="Note" value={note} onChange={(event) => setNote(event.target.value)} />
            {!fault?.errors.shown && <FaultNote fault={fault} />}
            <div className="flex justify-end gap-2">
              <Button onClick={onClose}>Close</Button>
              <Button look="main" type="submit" disabled={isLoading}>
                Keep the reading
              </Button>
            </div>
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
