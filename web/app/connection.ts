import { createSlice, isFulfilled, isRejectedWithValue } from "@reduxjs/toolkit";
import { api } from "./api.ts";

const statusOf = (payload: unknown): unknown => (payload as { status?: unknown } | undefined)?.status;
/** A passphrase that is not the right one is refused like a session that is none. */
const TRIES = [api.endpoints.signIn, api.endpoints.setPassphrase];

/** Whether the server answers and knows us; read off the requests themselves. */
export const connection = createSlice({
  name: "connection",
  initialState: { lost: false, signedOut: false },
  reducers: {
    found(state) {
      state.lost = false;
    },
  },
  extraReducers: (builder) => {
    builder
      .addMatcher(isRejectedWithValue, (state, action) => {
        const status = statusOf(action.payload);
        if (status === "FETCH_ERROR") state.lost = true;
        if (status === 401 && !TRIES.some((one) => one.matchRejected(action))) state.signedOut = true;
      })
      .addMatcher(isFulfilled, (state, action) => {
        if (!action.type.startsWith("api/")) return;
        // Every endpoint but signing in needs a session where one is needed, and signing in makes one.
        state.lost = false;
        state.signedOut = false;
      });
  },
});
