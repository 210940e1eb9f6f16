import { configureStore } from "@reduxjs/toolkit";
import { setupListeners } from "@reduxjs/toolkit/query";
import { useDispatch, useSelector, useStore } from "react-redux";
import { api } from "./api.ts";
import { connection } from "./connection.ts";
import { drafts, persistDrafts } from "./drafts.ts";
import { outbox, outboxListener, persistOutbox, storedOutbox } from "./outbox.ts";

export const makeStore = () => {
  const store = configureStore({
    reducer: {
      [api.reducerPath]: api.reducer,
      drafts: drafts.reducer,
      outbox: outbox.reducer,
      connection: connection.reducer,
    },
    preloadedState: { outbox: storedOutbox() },
    middleware: (usual) => usual().prepend(outboxListener()).concat(api.middleware),
  });
  let kept = store.getState();
  store.subscribe(() => {
    const now = store.getState();
    if (now.drafts !== kept.drafts) persistDrafts(now.drafts, kept.drafts);
    if (now.outbox !== kept.outbox) persistOutbox(now.outbox, kept.outbox);
    kept = now;
  });
  setupListeners(store.dispatch);
  return store;
};

export type AppStore = ReturnType<typeof makeStore>;
export const useAppDispatch = useDispatch.withTypes<AppStore["dispatch"]>();
export const useAppSelector = useSelector.withTypes<ReturnType<AppStore["getState"]>>();
export const useAppStore = useStore.withTypes<AppStore>();
