import { createSlice, isFulfilled, isRejectedWithValue } from "@reduxjs/toolkit";

interface Refusal {
  status?: unknown;
  data?: { code?: unknown };
}

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
        const { status, data } = (action.payload ?? {}) as Refusal;
        if (status === "FETCH_ERROR") state.lost = true;
        if (data?.code === "signed-out") state.signedOut = true;
      })
      .addMatcher(isFulfilled, (state, action) => {
        if (!action.type.startsWith("api/")) return;
        // Every endpoint but signing in needs a session where one is needed, and signing in makes one.
        state.lost = false;
        state.signedOut = false;
      });
  },
});
