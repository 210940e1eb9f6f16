import { configureStore } from "@reduxjs/toolkit";
import { useDispatch, useSelector, useStore } from "react-redux";
import { api } from "./api.ts";
import { connection } from "./connection.ts";
import { drafts, persistDrafts } from "./drafts.ts";

export const makeStore = () => {
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, drafts: drafts.reducer, connection: connection.reducer },
    middleware: (usual) => usual().concat(api.middleware),
  });
  let kept = store.getState().drafts;
  store.subscribe(() => {
    const now = store.getState().drafts;
    if (now === kept) return;
    persistDrafts(now, kept);
    kept = now;
  });
  return store;
};

export type AppStore = ReturnType<typeof makeStore>;
export const useAppDispatch = useDispatch.withTypes<AppStore["dispatch"]>();
export const useAppSelector = useSelector.withTypes<ReturnType<AppStore["getState"]>>();
export const useAppStore = useStore.withTypes<AppStore>();
