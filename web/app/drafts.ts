import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { readStored, storeChanges } from "./stored.ts";

/** What was typed and not yet saved, by form; kept in the browser so that a lost server or a reload loses nothing. */
export const drafts = createSlice({
  name: "drafts",
  initialState: readStored,
  reducers: {
    keepDraft(state, { payload }: PayloadAction<{ form: string; value: unknown }>) {
      state[payload.form] = payload.value;
    },
    dropDraft(state, { payload }: PayloadAction<string>) {
      delete state[payload];
    },
  },
});

/** Writes what changed since `before`. */
export function persistDrafts(now: Record<string, unknown>, before: Record<string, unknown>): void {
  const changes: Record<string, unknown> = {};
  for (const form of Object.keys({ ...before, ...now })) if (now[form] !== before[form]) changes[form] = now[form];
  storeChanges(changes);
}

export const { keepDraft, dropDraft } = drafts.actions;
