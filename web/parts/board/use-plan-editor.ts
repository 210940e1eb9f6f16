import { useEffect, useReducer, useRef } from "react";
import type { OutboxKind } from "../../app/outbox.ts";
import { useOutbox } from "../../app/use-outbox.ts";
import { historyAfter, type PlanHistory, type PlanStep } from "./plan-history.ts";

/** A drawing being edited, its undo and redo, and its way to the server: saved by itself after every step. */
export function usePlanEditor<T>(
  kind: OutboxKind<T>,
  { id, version, stored }: { id: string; version: number; stored: T },
  widen: (map: T, ids: string[]) => string[] = (_, ids) => ids,
) {
  const out = useOutbox(kind, id, version);
  const { unsaved, change, withdraw } = out;
  const [state, dispatch] = useReducer<PlanHistory<T>, null, [PlanStep<T>]>(historyAfter<T>, null, () => ({
    map: out.value ?? stored,
    past: [],
    future: [],
    picked: [],
  }));
  const { map } = state;
  /** What the server has, as far as this page knows. */
  const saved = useRef(stored);
  const shown = useRef(map);
  useEffect(() => {
    if (map === shown.current && map !== saved.current && !unsaved) saved.current = map;
    shown.current = map;
  }, [map, unsaved]);
  useEffect(() => {
    // Undone before it was sent: the server has it.
    if (map === saved.current) withdraw(map);
    else change(map);
  }, [map, change, withdraw]);
  return {
    ...state,
    fault: out.phase === "conflict" ? null : out.fault,
    unsaved,
    conflict: out.phase === "conflict",
    change: (next: T, what: string, more: { picked?: string[]; merge?: boolean } = {}) =>
      dispatch({ type: "change", map: next, what, ...more }),
    pick: (ids: string[]) => dispatch({ type: "pick", ids: widen(map, ids) }),
    undo: () => dispatch({ type: "undo" }),
    redo: () => dispatch({ type: "redo" }),
    /** Another window saved first: take what it has, or save this over it. */
    resolve: (server: { version: number; stored: T }, keepMine: boolean) => {
      saved.current = server.stored;
      if (keepMine) return out.takeOver(server.version);
      out.adopt(server.version);
      dispatch({ type: "change", map: server.stored, what: "taken from the other window" });
    },
  };
}

export type PlanEditor<T> = ReturnType<typeof usePlanEditor<T>>;
