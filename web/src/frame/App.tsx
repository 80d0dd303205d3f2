import { Suspense, useEffect } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { fetchParts, Optional, part, partAtOnce } from "../kit/part.tsx";
import { TipsProvider } from "../kit/Tooltip.tsx";
import { useAppSelector } from "../store/store.ts";
import { keepText } from "../tools/browserStore.ts";
import { PageFailure } from "./PageFailure.tsx";
import { RailwayFrame } from "./RailwayFrame.tsx";
import { STAGES } from "./stages.ts";

const RailwaysPage = part(async () => (await import("../pages/RailwaysPage.tsx")).RailwaysPage);
const QuickSumsPage = part(async () => (await import("../pages/QuickSumsPage.tsx")).QuickSumsPage);
const Toasts = partAtOnce(async () => (await import("./Notices.tsx")).Notices);
const STAGE_PAGES = STAGES.map(({ path, load }) => ({ path, Page: part(load) }));

/** Time after which everything is fetched that the first page did without, milliseconds. */
const REST_AFTER = 5000;

const serverAnswers = () =>
  fetch("/", { method: "HEAD" }).then(
    () => true,
    () => false,
  );

/** Every address of the interface, with what surrounds each page: the theme, tips, and sentences shown for a while. */
export function App() {
  const theme = useAppSelector((state) => state.view.theme);
  const told = useAppSelector((state) => state.notices.length > 0);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    keepText("alderman-theme", theme);
  }, [theme]);
  useEffect(() => {
    const waiting = setTimeout(() => void fetchParts(serverAnswers), REST_AFTER);
    return () => clearTimeout(waiting);
  }, []);
  return (
    <TipsProvider>
      <BrowserRouter>
        <ErrorBoundary FallbackComponent={PageFailure}>
          <Suspense fallback={<p className="p-6 text-ink-2">Opening ...</p>}>
            <Routes>
              <Route path="railways" element={<RailwaysPage />} />
              <Route path="quick-sums/:name?" element={<QuickSumsPage />} />
              <Route path="r/:railwayId" element={<RailwayFrame />}>
                <Route index element={<Navigate to="equip" replace />} />
                {STAGE_PAGES.map(({ path, Page }) => (
                  <Route key={path} path={path} element={<Page />} />
                ))}
              </Route>
              <Route path="*" element={<Navigate to="/railways" replace />} />
            </Routes>
          </Suspense>
        </ErrorBoundary>
      </BrowserRouter>
      <Optional>{told && <Toasts />}</Optional>
    </TipsProvider>
  );
}
