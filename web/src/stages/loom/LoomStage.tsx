import type { Cable, Strip } from "@alderman/core";
import { useState } from "react";
import { useLoom } from "../../derivation/hooks.ts";
import { ScaledDrawing } from "../../drawing/ScaledDrawing.tsx";
import { Awaited } from "../../findings/Checked.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useKeptState } from "../../kit/useKeptState.ts";
import { PapersDialog } from "../../papers/PapersDialog.tsx";
import { useRecord } from "../../session/hooks.ts";
import { CableDrawing } from "./CableDrawing.tsx";
import { ColoursSheet } from "./ColoursSheet.tsx";
import { DrawnChoice } from "./DrawnChoice.tsx";
import { drawnName, drawnOf } from "./drawn.ts";
import { LOOM_LISTS, type LoomList } from "./listChoice.ts";
import { PartsSheet } from "./PartsSheet.tsx";
import { Schedule } from "./Schedule.tsx";
import { TasksSheet } from "./TasksSheet.tsx";
import { ThingsSheet } from "./ThingsSheet.tsx";
import { ThingDialog } from "./things/ThingDialog.tsx";
import type { LoomThing } from "./things/thing.ts";
import { WaysDialog } from "./WaysDialog.tsx";
import { WorkSheet } from "./WorkSheet.tsx";

/** Cables and strips as they are drawn, the lists of wires, things, parts and colours, and how far the work is. */
export function LoomStage() {
  const loom = useLoom();
  const record = useRecord();
  const [chosen, setChosen] = useState("");
  const [thing, setThing] = useState<LoomThing | null>(null);
  const [papers, setPapers] = useState(false);
  const [ways, setWays] = useState(false);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [list, setList] = useKeptState<LoomList>("loom-list", "wires");
  const [zoom, setZoom] = useState(1);
  const shown = loom && drawnOf(loom, chosen);
  const lists = <Segmented size="small" label="List" value={list} segments={LOOM_LISTS} onChange={setList} />;
  if (!loom)
    return (
      <StageMain title="Loom" about={ABOUT}>
        <Sheet title="Wire schedule">
          <Awaited />
        </Sheet>
      </StageMain>
    );
  return (
    <StageMain title="Loom" about={ABOUT}>
      <Sheets rows="auto minmax(0,1fr)">
        {shown && record && (
          <Sheet
            title={titleOf(shown)}
            about="flags read as they will print; dashed is not there yet"
            actions={<DrawnChoice {...{ record, loom, zoom, setZoom }} value={drawnName(shown)} onChange={setChosen} />}
          >
            <ScaledDrawing zoom={zoom} className="max-h-[43vh] overflow-y-auto max-sm:max-h-none">
              <CableDrawing record={record} loom={loom} drawn={shown} open={setThing} />
            </ScaledDrawing>
          </Sheet>
        )}
        <Sheets columns="minmax(0,1fr) 292px">
          {list === "wires" && (
            <Schedule
              lists={lists}
              papers={() => setPapers(true)}
              open={setThing}
              ticked={ticked}
              setTicked={setTicked}
            />
          )}
          {list === "tasks" && (
            <TasksSheet
              lists={lists}
              show={(ids) => {
                setTicked(new Set(ids));
                setList("wires");
              }}
            />
          )}
          {list === "things" && <ThingsSheet lists={lists} open={setThing} compare={() => setWays(true)} />}
          {list === "parts" && <PartsSheet lists={lists} />}
          {list === "colours" && <ColoursSheet lists={lists} />}
          <WorkSheet open={setThing} />
        </Sheets>
      </Sheets>
      {thing && <ThingDialog thing={thing} open={setThing} close={() => setThing(null)} />}
      {ways && <WaysDialog close={() => setWays(false)} />}
      {papers && <PapersDialog close={() => setPapers(false)} />}
    </StageMain>
  );
}

const ABOUT = "Strips, cables, wires and the flags on them";

function titleOf(shown: Cable | Strip): string {
  if ("cores" in shown) return shown.tail ? `Tail ${shown.label}` : `Cable ${shown.label}, panel to layout`;
  return `Strip ${shown.label}`;
}
