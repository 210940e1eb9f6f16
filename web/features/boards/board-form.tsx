import { toast } from "sonner";
import { type Board, BoardInput } from "#contract";
import { api } from "../../app/api.ts";
import { useDraftForm } from "../../app/use-draft-form.ts";
import { Button } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { AreaField, numberOrNull, TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

const LIMITS = [
  ["edgeC", "Edge"],
  ["hotspotC", "Hotspot"],
  ["memoryC", "Memory"],
  ["vrmC", "VRM"],
] as const;

const inputOf = ({ name, notes, limits }: Board): BoardInput => ({ name, notes, limits });

/** What a board model may run at, and what is worth remembering of it. */
export function BoardForm({ board }: { board: Board }) {
  const [change] = api.useChangeBoardMutation();
  const { refetch } = api.useBoardsQuery();
  const { form, submit, busy, fault, drafted, conflict } = useDraftForm({
    name: `board ${board.id}`,
    schema: BoardInput,
    load: { start: inputOf(board), version: board.version },
    save: (body, version) => change({ boardId: board.id, body: { ...body, version } }),
    newest: async () => {
      const now = (await refetch()).data?.find((one) => one.id === board.id);
      return now && { start: inputOf(now), version: now.version };
    },
    onSaved: () => void toast("Saved"),
  });
  const { register, formState } = form;
  const { errors } = formState;
  return (
    <Sheet title="Limits and notes">
      <form noValidate className="space-y-3" onSubmit={submit}>
        <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-4">
          {LIMITS.map(([key, name]) => (
            <TextField
              key={key}
              label={`${name} limit (°C)`}
              inputMode="decimal"
              {...register(`limits.${key}`, { setValueAs: numberOrNull })}
              error={errors.limits?.[key]?.message}
            />
          ))}
        </div>
        <AreaField label="Worth knowing" rows={2} {...register("notes")} error={errors.notes?.message} />
        <FaultNote fault={fault} />
        {drafted && (
          <div className="text-right">
            <Button look="main" type="submit" disabled={busy}>
              Save limits
            </Button>
          </div>
        )}
      </form>
      <ConflictDialog what="board model" {...conflict} />
    </Sheet>
  );
}
