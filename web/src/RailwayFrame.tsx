import { useEffect, useState } from "react";
import { Link, Outlet, useParams } from "react-router";
import { CommandPalette } from "./parts/CommandPalette.tsx";
import { HistoryDialog } from "./parts/HistoryDialog.tsx";
import { KeysDialog } from "./parts/KeysDialog.tsx";
import { Meter } from "./parts/Meter.tsx";
import { RailwayDialog } from "./parts/RailwayDialog.tsx";
import { Spine } from "./parts/Spine.tsx";
import { openRailway } from "./store/railway.ts";
import { useAppDispatch, useAppSelector } from "./store/store.ts";
import { choose } from "./store/view.ts";
import { type Panel, useKeys } from "./useKeys.ts";
import { useDeriving } from "./worker/derive.ts";

/** The frame around the stages of one railway: spine, sheets, meter. */
export function RailwayFrame() {
  const { railwayId = "" } = useParams();
  const dispatch = useAppDispatch();
  const { id, record, failure } = useAppSelector((state) => state.railway);
  const [panel, setPanel] = useState<Panel | null>(null);
  useDeriving();
  useKeys(railwayId, setPanel);
  const unsaved = useAppSelector((state) => state.railway.pending.length > 0);
  useEffect(() => {
    if (!unsaved) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [unsaved]);
  useEffect(() => {
    dispatch(choose(null));
    void dispatch(openRailway(railwayId));
  }, [railwayId, dispatch]);

  if (failure) {
    return (
      <main className="mx-auto mt-24 grid max-w-[460px] gap-4">
        <h1>This railway cannot be shown</h1>
        <p>{failure}</p>
        <Link className="btn go justify-self-start" to="/railways">
          Go to the list of railways
        </Link>
      </main>
    );
  }
  if (id !== railwayId || !record) return <p className="quiet p-6">Opening the railway ...</p>;
  const close = () => setPanel(null);
  return (
    <div className="frame">
      <Spine railwayId={railwayId} open={setPanel} />
      <Outlet />
      <Meter />
      {panel === "history" && <HistoryDialog close={close} />}
      {panel === "keys" && <KeysDialog close={close} />}
      {panel === "railway" && <RailwayDialog close={close} />}
      {panel === "commands" && <CommandPalette close={close} open={setPanel} railwayId={railwayId} />}
    </div>
  );
}
