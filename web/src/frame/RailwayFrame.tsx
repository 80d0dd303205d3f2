import { Suspense, useCallback, useEffect, useState } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { Outlet, useLocation, useParams } from "react-router";
import { part, partAtOnce } from "../kit/part.tsx";
import { Meter } from "../meter/Meter.tsx";
import { leaveRailway, openRailway } from "../session/actions.ts";
import { useSession } from "../session/hooks.ts";
import { notify } from "../store/notices.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { lookAtRailway } from "../store/view.ts";
import { CommandKeys } from "./CommandKeys.tsx";
import type { Panel } from "./commands.ts";
import { NotOpened } from "./NotOpened.tsx";
import { PageFailure } from "./PageFailure.tsx";
import { Spine } from "./Spine.tsx";
import { useCommandContext } from "./useCommandContext.ts";

const Panels = part(async () => (await import("../dialogs/Panels.tsx")).Panels);
const ThreadSlide = part(async () => (await import("./ThreadSlide.tsx")).ThreadSlide);
const WayOut = partAtOnce(async () => (await import("./WayOut.tsx")).WayOut);

/** The frame around the stages of one railway: spine, sheets, meter. */
export function RailwayFrame() {
  const { railwayId = "" } = useParams();
  const { pathname } = useLocation();
  const dispatch = useAppDispatch();
  const session = useSession();
  const [panel, setPanel] = useState<Panel | null>(null);
  const close = useCallback(() => setPanel(null), []);
  const context = useCommandContext(railwayId, setPanel);
  useUnkeptWarning();
  useEffect(() => {
    dispatch(lookAtRailway(railwayId));
    dispatch(openRailway(railwayId));
    return () => void dispatch(leaveRailway());
  }, [railwayId, dispatch]);

  if (session?.id !== railwayId) return <p className="p-6 text-ink-2">Opening the railway ...</p>;
  if (!session.record) return <NotOpened trouble={session.trouble} />;
  const stuck = session.trouble !== null && session.trouble.kind !== "unanswered";
  return (
    <div className="grid h-screen min-h-[560px] grid-cols-[124px_minmax(0,1fr)_200px] grid-rows-[minmax(0,1fr)] max-[1099px]:grid-cols-[124px_minmax(0,1fr)] max-[1099px]:grid-rows-[minmax(0,1fr)_auto] max-[699px]:h-auto max-[699px]:grid-cols-[minmax(0,1fr)] max-[699px]:grid-rows-[auto_1fr_auto]">
      <SkipLink />
      <Spine railwayId={railwayId} open={setPanel} />
      {/* within the frame, so that it and what is still to be saved stay when a stage fails */}
      <ErrorBoundary FallbackComponent={PageFailure} resetKeys={[pathname]}>
        <Suspense fallback={<p className="p-6 text-ink-2">Opening ...</p>}>
          <Outlet />
        </Suspense>
      </ErrorBoundary>
      <Meter />
      <CommandKeys context={context} />
      <ErrorBoundary fallback={null} onError={() => dispatch(notify(NOT_FETCHED))} resetKeys={[panel, stuck]}>
        <Suspense>
          {stuck && <WayOut />}
          {panel === "thread" && <ThreadSlide close={close} />}
          {panel && panel !== "thread" && <Panels panel={panel} close={close} context={context} />}
        </Suspense>
      </ErrorBoundary>
    </div>
  );
}

const NOT_FETCHED =
  "That could not be opened. When the server does not answer, start it again, then reload the page: what waits to be saved is kept in this browser.";

/** The first thing that Tab comes to: past the spine and the headings, to where the work is. */
function SkipLink() {
  return (
    <button
      type="button"
      className="absolute left-1 top-1 z-50 -translate-y-16 rounded-[3px] bg-ink px-3 py-1.5 font-head font-semibold text-sheet focus:translate-y-0"
      onClick={() => {
        const target = document.querySelector<HTMLElement>("[data-skip-to], main");
        const inside = target?.matches("main") ? target : target?.querySelector<HTMLElement>('[tabindex="0"]');
        (inside ?? target)?.focus();
      }}
    >
      Skip to the sheets
    </button>
  );
}

/** Asks before the page is closed, when something waits that the browser could not keep. */
function useUnkeptWarning(): void {
  const unkept = useAppSelector(({ sessions }) =>
    Object.values(sessions.byId).some((session) => session.unkept && session.queue.length > 0),
  );
  useEffect(() => {
    if (!unkept) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [unkept]);
}
