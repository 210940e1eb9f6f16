import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { RouterProvider } from "react-router";
import { makeStore } from "./app/store.ts";
import { beginWindow } from "./app/windows.ts";
import { makeRouter } from "./shell/routes.tsx";
import "./styles.css";

const place = document.getElementById("page");
await beginWindow();
if (place)
  createRoot(place).render(
    <StrictMode>
      <Provider store={makeStore()}>
        <RouterProvider router={makeRouter()} />
      </Provider>
    </StrictMode>,
  );
