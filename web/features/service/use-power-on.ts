import { useCallback, useEffect, useRef, useState } from "react";
import { EMPTY_POWER_ON, type PowerOnInput, type ServiceView } from "#contract";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector, useAppStore } from "../../app/store.ts";
import { useRetry } from "../../app/use-retry.ts";

/** The answers of the first power-on: saved at once and in order, a draft until the server has them. */
export function usePowerOn(service: ServiceView) {
  const form = `power-on ${service.id}`;
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const draft = useAppSelector((state) => state.drafts[form]) as PowerOnInput | undefined;
  const [held, setHeld] = useState(draft ?? service.powerOn ?? EMPTY_POWER_ON);
  const [fault, setFault] = useState<Fault | null>(null);
  const [keep] = api.usePowerOnMutation();
  const busy = useRef(false);
  const send = useCallback(async (): Promise<void> => {
    const unsent = (): PowerOnInput | undefined => store.getState().drafts[form] as PowerOnInput | undefined;
    if (busy.current) return;
    busy.current = true;
    let found: Fault | null = null;
    for (let now = unsent(); now && !found; now = unsent()) {
      found = faultOf((await keep({ id: service.id, body: now })).error);
      setFault(found);
      if (!found && unsent() === now) dispatch(dropDraft(form));
    }
    busy.current = false;
  }, [store, form, keep, service.id, dispatch]);
  useEffect(() => {
    void send();
  }, [send]);
  useRetry(fault, send);
  /** Shown and kept in the browser; saved with the next `save`. */
  const type = (next: PowerOnInput): void => {
    setHeld(next);
    dispatch(keepDraft({ form, value: next }));
  };
  const save = (next: PowerOnInput): void => {
    type(next);
    void send();
  };
  return { held, type, save, fault, unsaved: draft !== undefined };
}
