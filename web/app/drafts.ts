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

/** Writes what changed since `before`; the other windows' drafts stay as they are. */
export function persistDrafts(now: Record<string, unknown>, before: Record<string, unknown>): void {
  const all = stored();
  for (const form of Object.keys({ ...before, ...now })) {
    if (now[form] === before[form]) continue;
    if (form in now) all[form] = now[form];
    else delete all[form];
  }
  try {
    localStorage.setItem(KEY, JSON.stringify(all));
  } catch {
    // A full or forbidden store only means that drafts end with the page.
  }
}

export const { keepDraft, dropDraft } = drafts.actions;
