import { useState } from "react";
import { toast } from "sonner";
import type { Run } from "#contract";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { typedFrom } from "./conditions.tsx";
import { runName } from "./run-name.ts";
import { toRunInput } from "./to-input.ts";

const FEWEST_CHARS = 3;

/** Whether a run counts, and why it does not: it stays where it is, and the comparison goes without it. */
export function LeaveOut({ run }: { run: Run }) {
  const [change, { error, isLoading }] = api.useChangeRunMutation();
  const [reason, setReason] = useState<string | null>(null);
  const set = async (leftOut: string): Promise<void> => {
    const { side, mapping, intervalS, window, load, attempt } = run;
    const made = toRunInput(typedFrom(run), { side, mapping, intervalS, window, load, attempt, leftOut });
    if ("errors" in made) return;
    const answer = await change({ runId: run.id, body: { ...made.input, version: run.version } });
    if (!answer.data) return;
    setReason(null);
    toast(leftOut ? "Left out" : "Counts again");
  };
  const name = runName(run);
  if (run.leftOut)
    return (
      <div className="flex flex-wrap items-center gap-2 px-4 pb-2 text-sm">
        <span className="min-w-0 break-words">Does not count: {run.leftOut}</span>
        <Button disabled={isLoading} onClick={() => void set("")}>
          Count it again
        </Button>
        <FaultNote error={error} />
      </div>
    );
  if (reason === null)
    return (
      <div className="px-4 pb-1 text-sm">
        <button
          type="button"
          className="min-h-9 font-medium text-ice hover:underline"
          aria-label={`Leave “${name}” out`}
          onClick={() => setReason("")}
        >
          Leave it out
        </button>
      </div>
    );
  return (
    <form
      noValidate
      className="flex flex-wrap items-end gap-2 px-4 pb-3"
      onSubmit={(event) => {
        event.preventDefault();
        void set(reason.trim());
      }}
    >
      <TextField
        label={`Why “${name}” does not count`}
        value={reason}
        maxLength={300}
        // It was asked for just now.
        // oxlint-disable-next-line jsx-a11y/no-autofocus
        autoFocus
        onChange={(event) => setReason(event.target.value)}
      />
      <Button look="main" type="submit" disabled={isLoading || reason.trim().length < FEWEST_CHARS}>
        Leave it out
      </Button>
      <Button onClick={() => setReason(null)}>Cancel</Button>
      <FaultNote error={error} />
    </form>
  );
}
