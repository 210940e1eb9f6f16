import { toast } from "sonner";
import { type Board, BoardInput } from "#contract";
import { api } from "../../app/api.ts";
import { useDraftForm } from "../../app/use-draft-form.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { AreaField, numberOrNull, TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";

/** Board models: what they may run at, and what is worth remembering of them. */
export function BoardsPage() {
  const { data, error, isLoading } = api.useBoardsQuery();
  return (
    <Page
      title="Boards"
      lead="Board models with the limits their ladders show. A new model is added while taking in a card."
    >
      {isLoading && <Waiting what="the boards" />}
      <FaultNote error={error} />
      {data?.length === 0 && <p>No board model yet. Type one when you take in a card.</p>}
      <div className="grid gap-4 lg:grid-cols-2">
        {data?.map((board) => (
          <BoardForm key={board.id} board={board} />
        ))}
      </div>
    </Page>
  );
}

const LIMITS = [
  ["edgeC", "Edge"],
  ["hotspotC", "Hotspot"],
  ["memoryC", "Memory"],
  ["vrmC", "VRM"],
] as const;

const inputOf = ({ name, notes, limits }: Board): BoardInput => ({ name, notes, limits });

function BoardForm({ board }: { board: Board }) {
  const [change] = api.useChangeBoardMutation();
  const { refetch } = api.useBoardsQuery();
  const { form, submit, busy, fault, drafted, conflict } = useDraftForm({
    name: `board ${board.id}`,
    schema: BoardInput,
    load: { start: inputOf(board), version: board.version },
    save: (body, version) => change({ id: board.id, body: { ...body, version } }),
    newest: async () => {
      const now = (await refetch()).data?.find((one) => one.id === board.id);
      return now && { start: inputOf(now), version: now.version };
    },
    onSaved: () => void toast("Saved"),
  });
  const { register, formState } = form;
  const { errors } = formState;
  return (
    <Sheet
      title={board.name}
      action={
        <span className="flex items-center gap-3">
          <span className="text-sm text-soft">{board.cards === 1 ? "1 card" : `${board.cards} cards`}</span>
          <LinkButton to={`/boards/${board.id}/map`}>Board map</LinkButton>
        </span>
      }
    >
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
