import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { faultOf } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { useElsewhere } from "../../app/use-elsewhere.ts";
import { numberOrNull } from "../../ui/field.tsx";
import { type TypedConditions, typedFrom } from "./conditions.tsx";
import { toRunInput } from "./to-input.ts";
import { useReadLog } from "./use-read-log.ts";

export interface NewRunProps {
  serviceId: string;
  side: "before" | "after";
  /** Conditions of the last run, offered again. */
  like: Partial<TypedConditions>;
  file: File;
  /** How many files wait behind this one. */
  waiting: number;
  onDone: () => void;
}

/** A run in the making: its log, its conditions as they are typed, and how it is kept. */
export function useNewRun({ serviceId, side, like, file, waiting, onDone }: NewRunProps) {
  const dispatch = useAppDispatch();
  const go = useNavigate();
  const draftKey = `run ${serviceId} ${side}`;
  const draft = useAppSelector((state) => state.drafts[draftKey]) as TypedConditions | undefined;
  const [typed, setTyped] = useState<TypedConditions>(draft ?? { ...typedFrom({}), ...like, ambientC: "" });
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [addRun, { error, isLoading }] = api.useAddRunMutation();
  const isFanChosen = useRef(false);
  const log = useReadLog(file, ({ mode, pct }) => {
    // What the log says comes before how the last run was driven, not before what a person chose for this one.
    if (isFanChosen.current) return;
    setTyped((old) => ({ ...old, fanMode: mode, fanPct: mode === "fixed" ? String(pct ?? old.fanPct) : "" }));
  });
  const keepTyped = (value: TypedConditions): void => {
    setTyped(value);
    dispatch(keepDraft({ form: draftKey, value }));
  };
  useElsewhere(draftKey, (value) => keepTyped(value as TypedConditions));
  const { loads, taken, mapping, interval } = log;
  const keep = async (): Promise<void> => {
    // What is chosen by itself stays so, also when the figures are computed anew.
    const wanted = loads.length > 1 ? taken : [null];
    let lastId = "";
    for (const load of wanted) {
      const name = wanted.length > 1 ? `${typed.name || file.name}, load ${load}` : typed.name;
      const made = toRunInput(
        { ...typed, name },
        { side, mapping, intervalS: numberOrNull(interval), window: null, load, attempt: null, leftOut: "" },
      );
      if ("errors" in made) {
        setErrors(made.errors);
        return;
      }
      setErrors({});
      const answer = await addRun({ serviceId, form: { log: file, run: made.input } });
      if (!answer.data) return;
      lastId = answer.data.id;
      // What is kept is not asked for again when a later one is refused.
      log.setTaken((old) => old.filter((one) => one !== load));
    }
    dispatch(dropDraft(draftKey));
    onDone();
    if (waiting === 0) await go(`/runs/${lastId}`);
  };
  const fault = faultOf(error);
  return {
    log,
    typed,
    type: (value: TypedConditions) => {
      if (value.fanMode !== typed.fanMode || value.fanPct !== typed.fanPct) isFanChosen.current = true;
      keepTyped(value);
    },
    fault,
    errors: { ...errors, ...fault?.errors },
    isLoading,
    keep,
  };
}
