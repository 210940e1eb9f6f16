import { useState } from "react";
import { type ServiceView, type SkippableId, type StationState, stationOf } from "#contract";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";

/** A station is skipped with a reason or not at all; why it matters is said first. */
export function Skip({ service, station }: { service: ServiceView; station: SkippableId }) {
  const [reason, setReason] = useState("");
  const [open, setOpen] = useState(false);
  const [skip, { error, isLoading }] = api.useSkipMutation();
  const state: StationState | undefined = service.stations.find((one) => one.id === station);
  if (state?.skipReason)
    return (
      <Note kind="caution" title={`Skipped: ${state.skipReason}`}>
        <button
          type="button"
          className="min-h-9 font-semibold text-ice underline"
          onClick={() => void skip({ serviceId: service.id, body: { station, reason: null } })}
        >
          Take the skip back
        </button>
      </Note>
    );
  if (!open)
    return (
      <Button look="quiet" onClick={() => setOpen(true)}>
        Skip this station
      </Button>
    );
  return (
    <form
      className="space-y-3 rounded-xl border border-line bg-sheet p-4"
      onSubmit={(event) => {
        event.preventDefault();
        void skip({ serviceId: service.id, body: { station, reason } });
      }}
    >
      <p>{stationOf(station).skipWhy}</p>
      <TextField label="Reason for skipping" value={reason} onChange={(event) => setReason(event.target.value)} />
      <FaultNote error={error} />
      <div className="flex gap-2">
        <Button type="submit" disabled={isLoading || reason.trim().length < 3}>
          Skip with this reason
        </Button>
        <Button look="quiet" onClick={() => setOpen(false)}>
          Don’t skip
        </Button>
      </div>
    </form>
  );
}
