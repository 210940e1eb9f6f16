import { type ReactNode, useState } from "react";
import { READING_KINDS, type Reading, type ReadingInput } from "#contract";
import { api } from "../../app/api.ts";
import { useKeys } from "../../app/keys.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button } from "../../ui/button.tsx";
import { figure, span } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { ReadingDialog } from "./reading-dialog.tsx";

const unitOf = (kind: ReadingInput["kind"]): string => READING_KINDS.find((one) => one.id === kind)?.unit ?? "";
const labelOf = (kind: ReadingInput["kind"]): string => READING_KINDS.find((one) => one.id === kind)?.label ?? kind;

/** The dialog that takes a reading. @param listens whether `m` opens it: once on a page */
export function useReadingKey(
  serviceId: string,
  liveId: string | null,
  listens: boolean,
): { dialog: ReactNode; take: () => void } {
  const [open, setOpen] = useState(false);
  useKeys((key, event) => {
    if (key !== "m" || !listens) return;
    event.preventDefault();
    setOpen(true);
  });
  return {
    take: () => setOpen(true),
    dialog: <ReadingDialog serviceId={serviceId} liveId={liveId} open={open} onClose={() => setOpen(false)} />,
  };
}

/** Measurements by hand, at any time with `m`; within a live run they carry its time. @param listens false where the page has the key */
export function Readings({
  serviceId,
  liveId,
  listens = true,
}: {
  serviceId: string;
  liveId: string | null;
  listens?: boolean;
}) {
  const { data: readings = [], error } = api.useReadingsQuery(serviceId);
  const [remove] = api.useRemoveReadingMutation();
  const { dialog, take } = useReadingKey(serviceId, liveId, listens);
  return (
    <Sheet
      title="Readings by hand"
      action={
        <Button onClick={take}>
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
              onRemove={() =>
                void withUndo("Reading removed", (removed) =>
                  remove({ serviceId, readingId: one.id, body: { removed } }),
                )
              }
            />
          ))}
        </ul>
      )}
      {dialog}
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
