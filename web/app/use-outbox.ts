import { useCallback, useEffect } from "react";
import type { Fault } from "./fault.ts";
import { adopted, changed, dropped, keyOf, type OutboxKind, opened, takenOver, withdrawn } from "./outbox.ts";
import { type AppStore, useAppDispatch, useAppSelector, useAppStore } from "./store.ts";

export interface OutboxHandle<V> {
  /** What is not saved yet; undefined when all is. */
  value: V | undefined;
  /** The newest that the server is known to have. */
  version: number;
  phase: "idle" | "sending" | "refused" | "conflict";
  fault: Fault | null;
  unsaved: boolean;
  change: (value: V) => void;
  /** The value is what the server has anyway. */
  withdraw: (value: V) => void;
  adopt: (version: number) => void;
  takeOver: (version: number) => void;
  drop: () => void;
  /** The version under which everything of this page is saved; undefined where that can't be done now. */
  settled: () => Promise<number | undefined>;
}

/**
 * One thing that saves by itself.
 * @param version of what the server gave to this page
 */
export function useOutbox<V>(kind: OutboxKind<V>, id: string, version: number): OutboxHandle<V> {
  const key = keyOf(kind, id);
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const held = useAppSelector((state) => state.outbox[key]);
  useEffect(() => {
    dispatch(opened({ key, version }));
  }, [dispatch, key, version]);
  const change = useCallback((value: V) => void dispatch(changed({ key, value })), [dispatch, key]);
  const withdraw = useCallback((value: V) => void dispatch(withdrawn({ key, value })), [dispatch, key]);
  const adopt = useCallback((at: number) => void dispatch(adopted({ key, version: at })), [dispatch, key]);
  const takeOver = useCallback((at: number) => void dispatch(takenOver({ key, version: at })), [dispatch, key]);
  const drop = useCallback(() => void dispatch(dropped(key)), [dispatch, key]);
  const settled = useCallback(() => whenSettled(store, key), [store, key]);
  return {
    value: held?.value as V | undefined,
    version: held?.version ?? version,
    phase: held?.phase ?? "idle",
    fault: held?.fault ?? null,
    unsaved: held?.value !== undefined,
    change,
    withdraw,
    adopt,
    takeOver,
    drop,
    settled,
  };
}

/** Waits until an entry is saved or can't be just now. */
function whenSettled(store: AppStore, key: string): Promise<number | undefined> {
  return new Promise((resolve) => {
    // What stood in the way before may stand there no more: it is tried once more before it counts.
    let tried = false;
    const look = (): boolean => {
      const held = store.getState().outbox[key];
      const open = held?.value !== undefined;
      tried ||= held?.phase === "sending";
      if (open && (held.phase === "sending" || (held.phase === "idle" && !(held.fault && tried)))) return false;
      resolve(open ? undefined : held?.version);
      return true;
    };
    if (look()) return;
    const stop = store.subscribe(() => {
      if (look()) stop();
    });
  });
}
