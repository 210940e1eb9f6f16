import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import type { BoardMapChange, BoardMapView } from "#contract";
import { type BoardMap, withGroups } from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { type Fault, faultOf, passes } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { Unanswered } from "../../app/unanswered.ts";
import { stepped } from "./map-history.ts";

const SAVE_AFTER_MS = 400;

/** The map being edited, its undo and redo, and its way to the server: saved by itself after every step. */
export function useMapEditor(view: BoardMapView) {
  const key = `map ${view.boardModelId}`;
  const dispatchStore = useAppDispatch();
  const draft = useAppSelector((state) => state.drafts[key]) as BoardMapChange | undefined;
  const [state, dispatch] = useReducer(stepped, null, () => ({
    map: draft?.map ?? view.map,
    past: [],
    future: [],
    picked: [],
  }));
  const [save] = api.useChangeBoardMapMutation();
  const [fault, setFault] = useState<Fault | null>(null);
  const [conflict, setConflict] = useState(false);
  const saved = useRef({ map: view.map, version: draft?.version ?? view.version });
  const [unanswered] = useState(() => new Unanswered(draft?.changes));
  const [unsaved, setUnsaved] = useState(false);
  const busy = useRef(false);
  const latest = useRef(state.map);
  /** Sent and refused for what is in it: not sent again as it is. */
  const refused = useRef<unknown>(null);

  const settle = useCallback((): void => {
    setUnsaved(false);
    dispatchStore(dropDraft(key));
  }, [dispatchStore, key]);
  const keep = useCallback((): void => {
    const value: BoardMapChange = { map: latest.current, version: saved.current.version, changes: unanswered.ids };
    dispatchStore(keepDraft({ form: key, value }));
  }, [dispatchStore, key, unanswered]);
  const send = useCallback(
    async (map: BoardMap): Promise<void> => {
      if (busy.current) return;
      busy.current = true;
      unanswered.sending(map);
      keep();
      const { version } = saved.current;
      const answer = await save({ id: view.boardModelId, body: { map, version, changes: unanswered.ids } });
      busy.current = false;
      const found = "error" in answer ? faultOf(answer.error) : null;
      if (found?.code === "changed-elsewhere") return setConflict(true);
      setFault(found);
      if (found && !passes(found)) refused.current = map;
      if (found || !answer.data) return;
      unanswered.answered();
      saved.current = { map, version: answer.data.version };
      if (latest.current === map) settle();
    },
    [save, view.boardModelId, settle, unanswered, keep],
  );
  useEffect(() => {
    latest.current = state.map;
    // Undone before it was sent: the server has it. While something else is on its way, it will not have it any more.
    const isSaved = (): boolean => state.map === saved.current.map && unanswered.ids.length === 0;
    if (isSaved() && !busy.current) return settle();
    setUnsaved(true);
    keep();
    const timer = setInterval(() => {
      if (busy.current) return;
      if (!isSaved() && state.map !== refused.current) return void send(state.map);
      clearInterval(timer);
      if (isSaved()) settle();
    }, SAVE_AFTER_MS);
    return () => clearInterval(timer);
  }, [state.map, send, settle, keep, unanswered]);

  const { map } = state;
  return {
    ...state,
    fault,
    unsaved,
    conflict,
    change: (next: BoardMap, what: string, more: { picked?: string[]; merge?: boolean } = {}) =>
      dispatch({ type: "change", map: next, what, ...more }),
    pick: (ids: string[]) => dispatch({ type: "pick", ids: withGroups(map, ids) }),
    undo: () => dispatch({ type: "undo" }),
    redo: () => dispatch({ type: "redo" }),
    /** Another window saved first: take its map, or save this one over it. */
    resolve: (server: BoardMapView, keepMine: boolean) => {
      setConflict(false);
      unanswered.answered();
      saved.current = { map: server.map, version: server.version };
      if (keepMine) void send(map);
      else dispatch({ type: "change", map: server.map, what: "taken from the other window" });
    },
  };
}

export type MapEditor = ReturnType<typeof useMapEditor>;
