import { valibotResolver } from "@hookform/resolvers/valibot";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { type DefaultValues, type FieldPath, type FieldValues, type UseFormReturn, useForm } from "react-hook-form";
import type * as v from "valibot";
import { dropDraft, keepDraft } from "./drafts.ts";
import { type Fault, faultOf } from "./fault.ts";
import { mergeChanges } from "./merge.ts";
import { useAppDispatch, useAppSelector, useAppStore } from "./store.ts";
import { useElsewhere } from "./use-elsewhere.ts";

interface Draft<In> {
  value: In;
  /** What it was typed over, and the version of that. */
  base?: In;
  version: number;
}

export interface DraftFormOptions<In extends FieldValues, Out, Answer> {
  /** The draft it keeps in this browser. */
  name: string;
  /** From what is typed to what is sent. */
  schema: v.GenericSchema<In, Out>;
  /** What the form begins with, and the version of it. */
  load: { start: In; version: number };
  save(value: Out, version: number): PromiseLike<{ data?: Answer | undefined; error?: unknown }>;
  /** What the server has now, after another window was first; undefined when it is gone. */
  newest?(): Promise<{ start: In; version: number } | undefined>;
  onSaved?(answer: Answer): void;
  /** The other window's change is kept. */
  onKept?(): void;
}

export interface DraftForm<In extends FieldValues, Out> {
  form: UseFormReturn<In, unknown, Out>;
  submit: (event: FormEvent) => void;
  busy: boolean;
  fault: Fault | null;
  /** Something typed here is not saved. */
  drafted: boolean;
  /** Forgets what was typed. */
  discard: () => void;
  /** For the dialog that lets a person choose between two windows' changes. */
  conflict: { open: boolean; onKeep: () => void; onTakeOver: () => void };
}

/**
 * A form whose typing outlives the page, is checked as it is sent, and asks when another window was first. What was typed while it was being
 * saved stays a draft, over the version that came back.
 */
export function useDraftForm<In extends FieldValues, Out, Answer>(
  options: DraftFormOptions<In, Out, Answer>,
): DraftForm<In, Out> {
  const { name, load } = options;
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const draft = useAppSelector((state) => state.drafts[name]) as Draft<In> | undefined;
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<Fault | null>(null);
  const [waiting, setWaiting] = useState<Out | null>(null);
  const form = useForm<In, unknown, Out>({
    defaultValues: (draft?.value ?? load.start) as DefaultValues<In>,
    resolver: valibotResolver(options.schema),
  });
  const { watch, reset, setError } = form;
  const draftNow = (): Draft<In> | undefined => store.getState().drafts[name] as Draft<In> | undefined;
  const begun = useRef({ version: load.version, base: load.start });
  begun.current = { version: load.version, base: load.start };
  useElsewhere(name, (value) => {
    dispatch(keepDraft({ form: name, value }));
    reset((value as Draft<In>).value);
  });
  useEffect(() => {
    const watching = watch((value, { type, name: field }) => {
      // The form library calls back without a field name on a reset, which is not an edit.
      if (type === undefined && field === undefined) return;
      const { version, base } = (store.getState().drafts[name] as Draft<In> | undefined) ?? begun.current;
      dispatch(keepDraft({ form: name, value: { value: structuredClone(value), version, base } }));
    });
    return () => watching.unsubscribe();
  }, [watch, dispatch, store, name]);
  const start = JSON.stringify(load.start);
  useEffect(() => {
    // What is being typed when another window's version comes stays.
    if (store.getState().drafts[name] === undefined) reset(JSON.parse(start) as In);
  }, [start, name, reset, store]);
  useEffect(() => {
    for (const [field, message] of Object.entries(fault?.errors ?? {})) setError(field as FieldPath<In>, { message });
  }, [fault, setError]);

  const discard = (): void => {
    dispatch(dropDraft(name));
    reset(load.start);
  };
  const send = async (value: Out, version: number): Promise<void> => {
    const sent = draftNow();
    setBusy(true);
    const answer = await options.save(value, version);
    setBusy(false);
    const found = faultOf(answer.error);
    if (found?.code === "changed-elsewhere" && options.newest) return setWaiting(value);
    setFault(found);
    if (found) return;
    const since = draftNow();
    if (since === sent) dispatch(dropDraft(name));
    else if (since) dispatch(keepDraft({ form: name, value: { ...since, version: version + 1 } }));
    options.onSaved?.(answer.data as Answer);
  };
  /** Only what was changed here goes over what the other window saved. */
  const takeOver = async (mine: Out, base: In): Promise<void> => {
    const now = await options.newest?.();
    if (!now) return send(mine, load.version);
    const value = mergeChanges(base, structuredClone(form.getValues()), now.start);
    dispatch(keepDraft({ form: name, value: { value, version: now.version, base: now.start } }));
    reset(value);
    await form.handleSubmit((merged) => send(merged as Out, now.version))();
  };
  return {
    form,
    submit: (event) =>
      void form.handleSubmit((value) => send(value as Out, draftNow()?.version ?? load.version))(event),
    busy,
    fault,
    drafted: draft !== undefined,
    discard,
    conflict: {
      open: waiting !== null,
      onKeep: () => {
        setWaiting(null);
        dispatch(dropDraft(name));
        void options.newest?.().then(() => options.onKept?.());
      },
      onTakeOver: () => {
        const mine = waiting;
        const base = draftNow()?.base ?? load.start;
        setWaiting(null);
        if (mine !== null) void takeOver(mine, base);
      },
    },
  };
}
