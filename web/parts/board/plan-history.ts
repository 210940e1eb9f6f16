/** A drawing being edited: a board’s map or a cooler. */
export interface PlanHistory<T> {
  map: T;
  past: Array<{ map: T; what: string }>;
  future: Array<{ map: T; what: string }>;
  picked: string[];
}

export type PlanStep<T> =
  | { type: "change"; map: T; what: string; picked?: string[]; merge?: boolean }
  | { type: "pick"; ids: string[] }
  | { type: "undo" }
  | { type: "redo" };

/** Undo and redo without limit: drawings share what they don't change, so a step costs little. */
export function historyAfter<T>(state: PlanHistory<T>, action: PlanStep<T>): PlanHistory<T> {
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
