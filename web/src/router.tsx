import { createBrowserRouter, Navigate } from "react-router";
import { App } from "./App.tsx";
import { PageFailure } from "./parts/PageFailure.tsx";
import { RailwayFrame } from "./RailwayFrame.tsx";

const page = (load: () => Promise<() => React.ReactNode>) => async () => ({ Component: await load() });

/** Addresses of the interface; each stage is loaded when it is first opened. */
export const router = createBrowserRouter([
  {
    path: "/",
    Component: App,
    ErrorBoundary: PageFailure,
    HydrateFallback: () => <p className="quiet p-6">Opening ...</p>,
    children: [
      { index: true, element: <Navigate to="/railways" replace /> },
      { path: "railways", lazy: page(async () => (await import("./pages/RailwaysPage.tsx")).RailwaysPage) },
      { path: "quick-sums", lazy: page(async () => (await import("./pages/QuickSumsPage.tsx")).QuickSumsPage) },
      { path: "quick-sums/:name", lazy: page(async () => (await import("./pages/QuickSumsPage.tsx")).QuickSumsPage) },
      {
        path: "r/:railwayId",
        Component: RailwayFrame,
        children: [
          // within the frame, so that it and what is still to be saved stay when a stage fails
          {
            ErrorBoundary: PageFailure,
            children: [
              { index: true, element: <Navigate to="equip" replace /> },
              { path: "equip", lazy: page(async () => (await import("./stages/equip/EquipStage.tsx")).EquipStage) },
              { path: "types", lazy: page(async () => (await import("./stages/equip/TypesSheet.tsx")).TypesSheet) },
              { path: "loom", lazy: page(async () => (await import("./stages/loom/LoomStage.tsx")).LoomStage) },
              {
                path: "numbers",
                lazy: page(async () => (await import("./stages/numbers/NumbersStage.tsx")).NumbersStage),
              },
              { path: "prove", lazy: page(async () => (await import("./stages/prove/ProveStage.tsx")).ProveStage) },
              { path: "open-ends", lazy: page(async () => (await import("./pages/OpenEndsPage.tsx")).OpenEndsPage) },
              { path: "findings", lazy: page(async () => (await import("./pages/FindingsSheet.tsx")).FindingsSheet) },
            ],
          },
        ],
      },
      { path: "*", element: <Navigate to="/railways" replace /> },
    ],
  },
]);
