import { useState } from "react";
import { toast } from "sonner";
import type { Run } from "#contract";
import type { Role } from "#core";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { mergeChanges } from "../../app/merge.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { useElsewhere } from "../../app/use-elsewhere.ts";
import { type TypedConditions, typedFrom } from "../../parts/run/conditions.tsx";
import { toRunInput } from "../../parts/run/to-input.ts";

interface Draft {
  typed: TypedConditions;
  /** What it was typed over, and the version of that. */
  base: TypedConditions;
  version: number;
}

const same = (a: TypedConditions, b: TypedConditions): boolean => JSON.stringify(a) === JSON.stringify(b);
/** Of these a log may have several columns. */
const MANY: ReadonlyArray<Role | null> = [null, "fanRpm", "probe"];

/** Conditions, roles and window of a run on their way to the server, where its figures are computed anew. */
export function useRunForm(run: Run, onSaved: () => void) {
  const form = `run ${run.id}`;
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.drafts[form]) as Draft | undefined;
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [fault, setFault] = useState<Fault | null>(null);
  const [conflict, setConflict] = useState<(() => void) | null>(null);
  const [change, { isLoading: busy }] = api.useChangeRunMutation();
  const { refetch } = api.useRunQuery(run.id);
  const kept = typedFrom(run);
  const typed = draft?.typed ?? kept;
  useElsewhere(form, (value) => void dispatch(keepDraft({ form, value })));
  const type = (next: TypedConditions): void => {
    const value: Draft = { typed: next, base: draft?.base ?? kept, version: draft?.version ?? run.version };
    dispatch(same(next, kept) ? dropDraft(form) : keepDraft({ form, value }));
  };
  const save = async (
    what: Partial<Pick<Run, "window" | "mapping" | "load" | "typed">> = {},
    over: Run = run,
    version = draft?.version ?? run.version,
  ): Promise<void> => {
    // After another window was first: what it saved, with what was changed here.
    const merged = over === run ? typed : mergeChanges(draft?.base ?? kept, typed, typedFrom(over));
    const { side, mapping, intervalS, load, attempt, leftOut, window } = over;
    const made = toRunInput(merged, {
      side,
      mapping,
      intervalS,
      load,
      attempt,
      leftOut,
      window,
      typed: over.typed,
      ...what,
    });
    if ("errors" in made) return setErrors(made.errors);
    setErrors({});
    setFault(null);
    const answer = await change({ runId: run.id, body: { ...made.input, version } });
    const found = faultOf(answer.error);
    if (found?.code === "changed-elsewhere") {
      const now = await refetch();
      return setConflict(() => () => void save(what, now.data ?? run, now.data?.version ?? version));
    }
    if (found) return setFault(found);
    onSaved();
    await refetch();
    dispatch(dropDraft(form));
    toast("Saved");
  };
  return {
    typed,
    type,
    errors: { ...errors, ...fault?.errors },
    fault,
    busy,
    dirty: !same(typed, kept),
    save,
    setRole: (header: string, role: Role | null): void =>
      void save({
        mapping: run.mapping.map((one) => {
          if (one.header === header) return { header, role };
          return one.role === role && !MANY.includes(role) ? { header: one.header, role: null } : one;
        }),
      }),
    conflict: {
      open: conflict !== null,
      onKeep: (): void => {
        setConflict(null);
        dispatch(dropDraft(form));
      },
      onTakeOver: (): void => {
        conflict?.();
        setConflict(null);
      },
    },
  };
}

export type RunForm = ReturnType<typeof useRunForm>;
