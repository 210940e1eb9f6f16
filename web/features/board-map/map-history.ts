import type { BoardMap } from "#core/boardmap/index.ts";

export interface MapHistory {
  map: BoardMap;
  past: Array<{ map: BoardMap; what: string }>;
  future: Array<{ map: BoardMap; what: string }>;
  picked: string[];
}

export type MapStep =
  | { type: "change"; map: BoardMap; what: string; picked?: string[]; merge?: boolean }
  | { type: "pick"; ids: string[] }
  | { type: "undo" }
  | { type: "redo" };

/** Undo and redo without limit: maps share what they don't change, so a step costs little. */
export function historyAfter(state: MapHistory, action: MapStep): MapHistory {
  switch (action.type) {
    case "change": {
      if (action.map === state.map) return state;
      const last = state.past.at(-1);
      // Steps of one kind on the same things, such as nudges, are one step back.
      const past =
        action.merge && last?.what === action.what
          ? state.past
          : [...state.past, { map: state.map, what: action.what }];
      return { map: action.map, past, future: [], picked: action.picked ?? state.picked };
    }
    case "pick":
      return { ...state, picked: action.ids };
    case "undo": {
      const last = state.past.at(-1);
      if (!last) return state;
      return {
        ...state,
        map: last.map,
        past: state.past.slice(0, -1),
        future: [{ map: state.map, what: last.what }, ...state.future],
      };
    }
    case "redo": {
      const [next, ...future] = state.future;
      if (!next) return state;
      return { ...state, map: next.map, past: [...state.past, { map: state.map, what: next.what }], future };
    }
  }
}
