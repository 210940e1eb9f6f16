import { createBrowserRouter } from "react-router";
import { Waiting } from "../ui/page.tsx";
import { FaultPage, NothingHere } from "./fault-page.tsx";
import { from } from "./page-file.ts";
import { Shell } from "./shell.tsx";

export const makeRouter = () =>
  createBrowserRouter([
    {
      path: "/wall",
      errorElement: <FaultPage />,
      lazy: from(
        () => import("../features/wall/page.tsx"),
        (file) => file.WallPage,
      ),
    },
    {
      path: "/",
      element: <Shell />,
      errorElement: <FaultPage />,
      // Until the first place's file is there.
      hydrateFallbackElement: <Waiting what="the page" />,
      children: [
        {
          // Inside the frame, so that the menu stays whatever a page meets.
          errorElement: <FaultPage />,
          children: [
            {
              index: true,
              lazy: from(
                () => import("../features/overview/page.tsx"),
                (file) => file.OverviewPage,
              ),
            },
            {
              path: "take-in",
              lazy: from(
                () => import("../features/take-in/page.tsx"),
                (file) => file.TakeInPage,
              ),
            },
            {
              path: "compare",
              lazy: from(
                () => import("../features/compare/page.tsx"),
                (file) => file.ComparePage,
              ),
            },
            {
              path: "cards",
              lazy: from(
                () => import("../features/cards/page.tsx"),
                (file) => file.CardsPage,
              ),
            },
            {
              path: "removed",
              lazy: from(
                () => import("../features/removed/page.tsx"),
                (file) => file.RemovedPage,
              ),
            },
            {
              path: "cards/:cardId",
              lazy: from(
                () => import("../features/service/page.tsx"),
                (file) => file.ServicePage,
              ),
            },
            {
              path: "cards/:cardId/pad-sheets",
              lazy: from(
                () => import("../stations/pads/print.tsx"),
                (file) => file.PadSheetsPage,
              ),
            },
            {
              path: "cards/:cardId/tray",
              lazy: from(
                () => import("../stations/strip/tray.tsx"),
                (file) => file.TrayPage,
              ),
            },
            {
              path: "cards/:cardId/cooler",
              lazy: from(
                () => import("../features/other-cooler/page.tsx"),
                (file) => file.OtherCoolerPage,
              ),
            },
            {
              path: "cards/:cardId/quote",
              lazy: from(
                () => import("../features/quote/page.tsx"),
                (file) => file.QuotePage,
              ),
            },
            {
              path: "cards/:cardId/:station",
              lazy: from(
                () => import("../features/service/page.tsx"),
                (file) => file.ServicePage,
              ),
            },
            {
              path: "runs/:runId",
              lazy: from(
                () => import("../features/run/page.tsx"),
                (file) => file.RunPage,
              ),
            },
            {
              path: "live/:liveId",
              lazy: from(
                () => import("../features/live/page.tsx"),
                (file) => file.LivePage,
              ),
            },
            {
              path: "test-bench",
              lazy: from(
                () => import("../features/test-bench/page.tsx"),
                (file) => file.TestBenchPage,
              ),
            },
            {
              path: "labels",
              lazy: from(
                () => import("../features/labels/page.tsx"),
                (file) => file.LabelsPage,
              ),
            },
            {
              path: "c/:cardId",
              lazy: from(
                () => import("../features/labels/scanned.tsx"),
                (file) => file.ScannedPage,
              ),
            },
            {
              path: "findings",
              lazy: from(
                () => import("../features/findings/page.tsx"),
                (file) => file.FindingsPage,
              ),
            },
            {
              path: "findings/paper",
              lazy: from(
                () => import("../features/findings/paper.tsx"),
                (file) => file.PaperPage,
              ),
            },
            {
              path: "boards",
              lazy: from(
                () => import("../features/boards/page.tsx"),
                (file) => file.BoardsPage,
              ),
            },
            {
              path: "boards/:boardId",
              lazy: from(
                () => import("../features/boards/model-page.tsx"),
                (file) => file.ModelPage,
              ),
            },
            {
              path: "boards/:boardId/map",
              lazy: from(
                () => import("../features/board-map/page.tsx"),
                (file) => file.BoardMapPage,
              ),
            },
            {
              path: "coolers",
              lazy: from(
                () => import("../features/coolers/page.tsx"),
                (file) => file.CoolersPage,
              ),
            },
            {
              path: "coolers/:coolerId",
              lazy: from(
                () => import("../features/coolers/editor.tsx"),
                (file) => file.CoolerPage,
              ),
            },
            {
              path: "stores",
              lazy: from(
                () => import("../features/stores/page.tsx"),
                (file) => file.StoresPage,
              ),
            },
            {
              path: "stores/buying",
              lazy: from(
                () => import("../features/stores/buying.tsx"),
                (file) => file.BuyingPage,
              ),
            },
            {
              path: "workshop",
              lazy: from(
                () => import("../features/workshop/page.tsx"),
                (file) => file.WorkshopPage,
              ),
            },
            { path: "*", element: <NothingHere /> },
          ],
        },
      ],
    },
  ]);
