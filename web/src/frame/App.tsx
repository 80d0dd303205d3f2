import { Suspense, useEffect } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { useStore } from "react-redux";
import { BrowserRouter, matchPath, Navigate, Route, Routes } from "react-router";
import { fetchParts, Optional, part, partAtOnce } from "../kit/part.tsx";
import { TipsProvider } from "../kit/Tooltip.tsx";
import { shownRecord } from "../session/shownSession.ts";
import { type RootState, useAppSelector } from "../store/store.ts";
import { keepText } from "../tools/browserStore.ts";
import { NoSuchPage } from "./NoSuchPage.tsx";
import { PageFailure } from "./PageFailure.tsx";
import { RailwayFrame } from "./RailwayFrame.tsx";
import { FIRST_STAGE, STAGES } from "./stages.ts";

const RailwaysPage = part(async () => (await import("../pages/RailwaysPage.tsx")).RailwaysPage);
const QuickSumsPage = part(async () => (await import("../pages/QuickSumsPage.tsx")).QuickSumsPage);
const Toasts = partAtOnce(async () => (await import("./Notices.tsx")).Notices);
/** The stage that the address names is fetched beside its railway, not after it. */
const first = matchPath("/r/:railwayId/:stage?", window.location.pathname)?.params;
const STAGE_PAGES = STAGES.map(({ path, load }) => {
  const isFirst = first && (first.stage ?? FIRST_STAGE) === path;
  return { path, Page: isFirst ? partAtOnce(load) : part(load) };
});

/** Time after which everything is fetched that the first page did without, milliseconds. */
const REST_AFTER = 5000;

const serverAnswers = () =>
  fetch("/", { method: "HEAD" }).then(
    () => true,
    () => false,
  );

/** Whether a railway is being worked out, which is not to be held up. */
const isBusy = (state: RootState) => {
  const { state: stands, share } = state.derivation;
  return shownRecord(state) !== null && (stands === "checking" || share !== null);
};

/** Every address of the interface, with what surrounds each page: the theme, tips, and sentences shown for a while. */
export function App() {
  const theme = useAppSelector((state) => state.view.theme);
  const told = useAppSelector((state) => state.notices.length > 0);
  const store = useStore<RootState>();
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    keepText("alderman-theme", theme);
  }, [theme]);
  useEffect(() => {
    const mayFetch = async () => !isBusy(store.getState()) && (await serverAnswers());
    const waiting = setTimeout(() => void fetchParts(mayFetch), REST_AFTER);
    return () => clearTimeout(waiting);
  }, [store]);
  return (
    <TipsProvider>
      <BrowserRouter>
        <ErrorBoundary FallbackComponent={PageFailure}>
          <Suspense fallback={<p className="p-6 text-ink-2">Opening ...</p>}>
            <Routes>
              <Route path="railways" element={<RailwaysPage />} />
              <Route path="quick-sums/:name?" element={<QuickSumsPage />} />
              <Route path="r/:railwayId" element={<RailwayFrame />}>
                <Route index element={<Navigate to={FIRST_STAGE} replace />} />
                {STAGE_PAGES.map(({ path, Page }) => (
                  <Route key={path} path={path} element={<Page />} />
                ))}
                <Route path="*" element={<NoSuchPage />} />
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
