import { valibotResolver } from "@hookform/resolvers/valibot";
import { useEffect, useState } from "react";
import { useForm } from "react-hook-form";
import { toast } from "sonner";
import { type Board, BoardInput } from "#contract";
import { api } from "../../app/api.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
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

function BoardForm({ board }: { board: Board }) {
  const [change, { isLoading }] = api.useChangeBoardMutation();
  const { refetch } = api.useBoardsQuery();
  const [fault, setFault] = useState<Fault | null>(null);
  const [waiting, setWaiting] = useState<BoardInput | null>(null);
  const { register, handleSubmit, reset, formState } = useForm<BoardInput>({
    defaultValues: board,
    resolver: valibotResolver(BoardInput),
  });
  useEffect(() => reset(board), [board, reset]);
  const { errors, isDirty } = formState;
  const save = async (body: BoardInput, version: number): Promise<void> => {
    const answer = await change({ id: board.id, body: { ...body, version } });
    const found = "error" in answer ? faultOf(answer.error) : null;
    if (found?.code === "changed-elsewhere") return setWaiting(body);
    setFault(found);
    if (!found) toast("Saved");
  };
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
      <form
        noValidate
        className="space-y-3"
        onSubmit={(event) => void handleSubmit((body) => save(body, board.version))(event)}
      >
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
        {isDirty && (
          <div className="text-right">
            <Button look="main" type="submit" disabled={isLoading}>
              Save limits
            </Button>
          </div>
        )}
      </form>
      <ConflictDialog
        open={waiting !== null}
        what="board model"
        onKeep={() => {
          setWaiting(null);
          void refetch();
        }}
        onTakeOver={() => {
          const mine = waiting;
          setWaiting(null);
          void refetch().then(({ data }) => {
            const now = data?.find((one) => one.id === board.id)?.version ?? board.version;
            return mine ? save(mine, now) : undefined;
          });
        }}
      />
    </Sheet>
  );
}
