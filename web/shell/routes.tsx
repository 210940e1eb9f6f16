import { lazy } from "react";
import { createBrowserRouter } from "react-router";
import { OverviewPage } from "../features/overview/page.tsx";
import { FaultPage } from "./fault-page.tsx";
import { Shell } from "./shell.tsx";

const TakeInPage = lazy(() => import("../features/take-in/page.tsx").then((file) => ({ default: file.TakeInPage })));
const CardsPage = lazy(() => import("../features/cards/page.tsx").then((file) => ({ default: file.CardsPage })));
const ServicePage = lazy(() => import("../features/service/page.tsx").then((file) => ({ default: file.ServicePage })));
const RunPage = lazy(() => import("../features/run/page.tsx").then((file) => ({ default: file.RunPage })));
const BoardsPage = lazy(() => import("../features/boards/page.tsx").then((file) => ({ default: file.BoardsPage })));
const BoardMapPage = lazy(() =>
  import("../features/board-map/page.tsx").then((file) => ({ default: file.BoardMapPage })),
);
const PadSheetsPage = lazy(() =>
  import("../stations/pads/print.tsx").then((file) => ({ default: file.PadSheetsPage })),
);
const StoresPage = lazy(() => import("../features/stores/page.tsx").then((file) => ({ default: file.StoresPage })));
const WorkshopPage = lazy(() =>
  import("../features/workshop/page.tsx").then((file) => ({ default: file.WorkshopPage })),
);
const TestBenchPage = lazy(() =>
  import("../features/test-bench/page.tsx").then((file) => ({ default: file.TestBenchPage })),
);
const LivePage = lazy(() => import("../features/live/page.tsx").then((file) => ({ default: file.LivePage })));

export const makeRouter = () =>
  createBrowserRouter([
    {
      path: "/",
      element: <Shell />,
      errorElement: <FaultPage />,
      children: [
        { index: true, element: <OverviewPage /> },
        { path: "take-in", element: <TakeInPage /> },
        { path: "cards", element: <CardsPage /> },
        { path: "cards/:cardId", element: <ServicePage /> },
        { path: "cards/:cardId/pad-sheets", element: <PadSheetsPage /> },
        { path: "cards/:cardId/:station", element: <ServicePage /> },
        { path: "runs/:runId", element: <RunPage /> },
        { path: "live/:liveId", element: <LivePage /> },
        { path: "test-bench", element: <TestBenchPage /> },
        { path: "boards", element: <BoardsPage /> },
        { path: "boards/:boardId/map", element: <BoardMapPage /> },
        { path: "stores", element: <StoresPage /> },
        { path: "workshop", element: <WorkshopPage /> },
        { path: "*", element: <FaultPage /> },
      ],
    },
  ]);
