import { useEffect, useReducer, useRef } from "react";
import type { BoardMapView } from "#contract";
import { type BoardMap, withGroups } from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { outboxKind, sentAnswer } from "../../app/outbox.ts";
import { useOutbox } from "../../app/use-outbox.ts";
import { historyAfter } from "./map-history.ts";

const MAP = outboxKind<BoardMap>({
  name: "map",
  afterMs: 400,
  async send(id, { value, version, changes }, dispatch) {
    const body = { map: value, version, changes };
    const sending = dispatch(api.endpoints.changeBoardMap.initiate({ id, body }, { track: false }));
    return sentAnswer(await sending, (view) => view.version);
  },
});

/** The map being edited, its undo and redo, and its way to the server: saved by itself after every step. */
export function useMapEditor(view: BoardMapView) {
  const out = useOutbox(MAP, view.boardModelId, view.version);
  const { unsaved, change, withdraw } = out;
  const [state, dispatch] = useReducer(historyAfter, null, () => ({
    map: out.value ?? view.map,
    past: [],
    future: [],
    picked: [],
  }));
  const { map } = state;
  /** What the server has, as far as this page knows. */
  const saved = useRef(view.map);
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
    change: (next: BoardMap, what: string, more: { picked?: string[]; merge?: boolean } = {}) =>
      dispatch({ type: "change", map: next, what, ...more }),
    pick: (ids: string[]) => dispatch({ type: "pick", ids: withGroups(map, ids) }),
    undo: () => dispatch({ type: "undo" }),
    redo: () => dispatch({ type: "redo" }),
    /** Another window saved first: take its map, or save this one over it. */
    resolve: (server: BoardMapView, keepMine: boolean) => {
      saved.current = server.map;
      if (keepMine) return out.takeOver(server.version);
      out.adopt(server.version);
      dispatch({ type: "change", map: server.map, what: "taken from the other window" });
    },
  };
}

export type MapEditor = ReturnType<typeof useMapEditor>;
