import { useEffect, useState } from "react";
import { Outlet, useParams } from "react-router";
import { CommandPalette } from "./parts/CommandPalette.tsx";
import { HistoryDialog } from "./parts/HistoryDialog.tsx";
import { KeysDialog } from "./parts/KeysDialog.tsx";
import { Meter } from "./parts/Meter.tsx";
import { RailwayDialog } from "./parts/RailwayDialog.tsx";
import { Spine } from "./parts/Spine.tsx";
import { NotOpened, WayOut } from "./parts/WayOut.tsx";
import { leaveRailway, openRailway } from "./session/actions.ts";
import { useSession } from "./session/hooks.ts";
import { useAppDispatch, useAppSelector } from "./store/store.ts";
import { choose } from "./store/view.ts";
import { type Panel, useKeys } from "./useKeys.ts";

/** The frame around the stages of one railway: spine, sheets, meter. */
export function RailwayFrame() {
  const { railwayId = "" } = useParams();
  const dispatch = useAppDispatch();
  const session = useSession();
  const [panel, setPanel] = useState<Panel | null>(null);
  useKeys(railwayId, setPanel);
  useUnkeptWarning();
  useEffect(() => {
    dispatch(choose(null));
    dispatch(openRailway(railwayId));
    return () => void dispatch(leaveRailway());
  }, [railwayId, dispatch]);

  if (session?.id !== railwayId) return <p className="quiet p-6">Opening the railway ...</p>;
  if (!session.record) return <NotOpened trouble={session.trouble} />;
  const close = () => setPanel(null);
  return (
    <div className="frame">
      <Spine railwayId={railwayId} open={setPanel} />
      <Outlet />
      <Meter />
      <WayOut />
      {panel === "history" && <HistoryDialog close={close} />}
      {panel === "keys" && <KeysDialog close={close} />}
      {panel === "railway" && <RailwayDialog close={close} />}
      {panel === "commands" && <CommandPalette close={close} open={setPanel} railwayId={railwayId} />}
    </div>
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
