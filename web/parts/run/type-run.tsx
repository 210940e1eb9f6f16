import { useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { faultOf } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { useElsewhere } from "../../app/use-elsewhere.ts";
import { Button } from "../../ui/button.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { Conditions, type TypedConditions, typedFrom } from "./conditions.tsx";
import { toRunInput } from "./to-input.ts";
import { readTyped, TypedFigures, type TypedTexts, textsOf } from "./typed-figures.tsx";

interface Draft {
  texts: TypedTexts;
  conditions: TypedConditions;
}

/** A run of which there is no log: its figures typed from paper. */
export function TypeRun({
  serviceId,
  side,
  like,
  onClose,
}: {
  serviceId: string;
  side: "before" | "after";
  like: Partial<TypedConditions>;
  onClose: () => void;
}) {
  const form = `typed run ${serviceId} ${side}`;
  const dispatch = useAppDispatch();
  const go = useNavigate();
  const draft = useAppSelector((state) => state.drafts[form]) as Draft | undefined;
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [addRun, { error, isLoading }] = api.useAddRunMutation();
  const texts = draft?.texts ?? textsOf(null);
  const conditions = draft?.conditions ?? { ...typedFrom({}), ...like, ambientC: "" };
  const set = (more: Partial<Draft>): void =>
    void dispatch(keepDraft({ form, value: { texts, conditions, ...more } satisfies Draft }));
  useElsewhere(form, (value) => void dispatch(keepDraft({ form, value })));
  const fault = faultOf(error);
  const keep = async (): Promise<void> => {
    const read = readTyped(texts);
    const made = toRunInput(conditions, {
      side,
      mapping: [],
      intervalS: null,
      window: null,
      load: null,
      attempt: null,
      leftOut: "",
      typed: "typed" in read ? read.typed : null,
    });
    const found = { ...("errors" in read ? read.errors : {}), ...("errors" in made ? made.errors : {}) };
    setErrors(found);
    if (!("input" in made) || Object.keys(found).length > 0) return;
    const answer = await addRun({ serviceId, form: { run: made.input } });
    if (!answer.data) return;
    dispatch(dropDraft(form));
    onClose();
    await go(`/runs/${answer.data.id}`);
  };
  return (
    <Sheet title={side === "before" ? "Figures from paper, before the work" : "Figures from paper, after the work"}>
      <form
        noValidate
        className="space-y-5"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <p className="max-w-prose text-soft">
          What the display showed at the end of the run. One look is worth two or three kelvins either way, so only
          large changes will show; a log tells smaller ones.
        </p>
        <TypedFigures texts={texts} onChange={(next) => set({ texts: next })} errors={errors} />
        {conditions.ambientC.trim() === "" && (
          <Note kind="caution" title="Room air is missing">
            Without it the run can be kept, but not compared.
          </Note>
        )}
        <Conditions
          value={conditions}
          onChange={(next) => set({ conditions: next })}
          errors={{ ...errors, ...fault?.errors }}
          hasRoomColumn={false}
        />
        <FaultNote fault={fault} />
        <div className="flex flex-wrap justify-end gap-2">
          <Button
            onClick={() => {
              dispatch(dropDraft(form));
              onClose();
            }}
          >
            Cancel
          </Button>
          <Button look="main" type="submit" disabled={isLoading}>
            {isLoading ? "Keeping the run…" : "Keep this run"}
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
