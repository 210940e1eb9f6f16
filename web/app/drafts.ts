import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

const KEY = "algidus-drafts";

function stored(): Record<string, unknown> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, unknown>;
  } catch {
    return {};
  }
}

/** What was typed and not yet saved, by form; kept in the browser so that a lost server or a reload loses nothing. */
export const drafts = createSlice({
  name: "drafts",
  initialState: stored,
  reducers: {
    keepDraft(state, { payload }: PayloadAction<{ form: string; value: unknown }>) {
      state[payload.form] = payload.value;
    },
    dropDraft(state, { payload }: PayloadAction<string>) {
      delete state[payload];
    },
  },
});

export function persistDrafts(state: Record<string, unknown>): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(state));
  } catch {
    // A full or forbidden store only means that drafts end with the page.
  }
}

export const { keepDraft, dropDraft } = drafts.actions;
