import { createBrowserRouter } from "react-router";
import { OverviewPage } from "../features/overview/page.tsx";
import { Waiting } from "../ui/page.tsx";
import { FaultPage } from "./fault-page.tsx";
import { Shell } from "./shell.tsx";

export const makeRouter = () =>
  createBrowserRouter([
    {
      path: "/wall",
      errorElement: <FaultPage />,
      lazy: async () => ({ Component: (await import("../features/wall/page.tsx")).WallPage }),
    },
    {
      path: "/",
      element: <Shell />,
      errorElement: <FaultPage />,
      // Until the first place's file is there.
      hydrateFallbackElement: <Waiting what="the page" />,
      children: [
        { index: true, element: <OverviewPage /> },
        {
          path: "take-in",
          lazy: async () => ({ Component: (await import("../features/take-in/page.tsx")).TakeInPage }),
        },
        {
          path: "compare",
          lazy: async () => ({ Component: (await import("../features/compare/page.tsx")).ComparePage }),
        },
        { path: "cards", lazy: async () => ({ Component: (await import("../features/cards/page.tsx")).CardsPage }) },
        {
          path: "removed",
          lazy: async () => ({ Component: (await import("../features/removed/page.tsx")).RemovedPage }),
        },
        {
          path: "cards/:cardId",
          lazy: async () => ({ Component: (await import("../features/service/page.tsx")).ServicePage }),
        },
        {
          path: "cards/:cardId/pad-sheets",
          lazy: async () => ({ Component: (await import("../stations/pads/print.tsx")).PadSheetsPage }),
        },
        {
          path: "cards/:cardId/tray",
          lazy: async () => ({ Component: (await import("../stations/strip/tray.tsx")).TrayPage }),
        },
        {
          path: "cards/:cardId/cooler",
          lazy: async () => ({ Component: (await import("../features/other-cooler/page.tsx")).OtherCoolerPage }),
        },
        {
          path: "cards/:cardId/quote",
          lazy: async () => ({ Component: (await import("../features/quote/page.tsx")).QuotePage }),
        },
        {
          path: "cards/:cardId/:station",
          lazy: async () => ({ Component: (await import("../features/service/page.tsx")).ServicePage }),
        },
        { path: "runs/:runId", lazy: async () => ({ Component: (await import("../features/run/page.tsx")).RunPage }) },
        {
          path: "live/:liveId",
          lazy: async () => ({ Component: (await import("../features/live/page.tsx")).LivePage }),
        },
        {
          path: "test-bench",
          lazy: async () => ({ Component: (await import("../features/test-bench/page.tsx")).TestBenchPage }),
        },
        {
          path: "labels",
          lazy: async () => ({ Component: (await import("../features/labels/page.tsx")).LabelsPage }),
        },
        {
          path: "c/:cardId",
          lazy: async () => ({ Component: (await import("../features/labels/scanned.tsx")).ScannedPage }),
        },
        {
          path: "findings",
          lazy: async () => ({ Component: (await import("../features/findings/page.tsx")).FindingsPage }),
        },
        {
          path: "findings/paper",
          lazy: async () => ({ Component: (await import("../features/findings/paper.tsx")).PaperPage }),
        },
        { path: "boards", lazy: async () => ({ Component: (await import("../features/boards/page.tsx")).BoardsPage }) },
        {
          path: "boards/:boardId",
          lazy: async () => ({ Component: (await import("../features/boards/model-page.tsx")).ModelPage }),
        },
        {
          path: "boards/:boardId/map",
          lazy: async () => ({ Component: (await import("../features/board-map/page.tsx")).BoardMapPage }),
        },
        {
          path: "coolers",
          lazy: async () => ({ Component: (await import("../features/coolers/page.tsx")).CoolersPage }),
        },
        {
          path: "coolers/:coolerId",
          lazy: async () => ({ Component: (await import("../features/coolers/editor.tsx")).CoolerPage }),
        },
        { path: "stores", lazy: async () => ({ Component: (await import("../features/stores/page.tsx")).StoresPage }) },
        {
          path: "stores/buying",
          lazy: async () => ({ Component: (await import("../features/stores/buying.tsx")).BuyingPage }),
        },
        {
          path: "workshop",
          lazy: async () => ({ Component: (await import("../features/workshop/page.tsx")).WorkshopPage }),
        },
        { path: "*", element: <FaultPage /> },
      ],
    },
  ]);
