import type { Loom } from "@alderman/core";
import { useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { ScaledDrawing } from "../../drawing/ScaledDrawing.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import { Combobox } from "../../kit/Combobox.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useKeptState } from "../../kit/useKeptState.ts";
import { PapersDialog } from "../../papers/PapersDialog.tsx";
import { useRecord } from "../../session/hooks.ts";
import { CableDrawing } from "./CableDrawing.tsx";
import { ColoursSheet } from "./ColoursSheet.tsx";
import { LOOM_LISTS, type LoomList } from "./listChoice.ts";
import { PartsSheet } from "./PartsSheet.tsx";
import { Schedule } from "./Schedule.tsx";
import { TasksSheet } from "./TasksSheet.tsx";
import { ThingsSheet } from "./ThingsSheet.tsx";
import { ThingDialog } from "./things/ThingDialog.tsx";
import type { LoomThing } from "./things/thing.ts";
import { WorkSheet } from "./WorkSheet.tsx";

/** So many cables are shown side by side to choose from; among more one is found by typing. */
const MOST_TABS = 7;

/** Cables and strips as they are drawn, the lists of wires, things, parts and colours, and how far the work is. */
export function LoomStage() {
  const overview = useOverview();
  const record = useRecord();
  const [chosen, setChosen] = useState("");
  const [thing, setThing] = useState<LoomThing | null>(null);
  const [papers, setPapers] = useState(false);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [list, setList] = useKeptState<LoomList>("loom-list", "wires");
  const cables = overview?.loom.cables ?? [];
  const shown = cables.find(({ id }) => id === chosen) ?? cables[0];
  const lists = <Segmented size="small" label="List" value={list} segments={LOOM_LISTS} onChange={setList} />;
  return (
    <StageMain title="Loom" about="Strips, cables, wires and the flags on them">
      <Sheets rows="auto minmax(0,1fr)">
        {shown && overview && record && (
          <Sheet
            title={`Cable ${shown.label}, panel to layout`}
            about="flags read as they will print; dashed is not there yet"
            actions={<CableChoice loom={overview.loom} value={shown.id} onChange={setChosen} />}
          >
            <ScaledDrawing className="max-h-[43vh] overflow-y-auto max-sm:max-h-none">
              <CableDrawing record={record} loom={overview.loom} cable={shown} open={setThing} />
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
          {list === "things" && <ThingsSheet lists={lists} open={setThing} />}
          {list === "parts" && <PartsSheet lists={lists} />}
          {list === "colours" && <ColoursSheet lists={lists} />}
          <WorkSheet open={setThing} />
        </Sheets>
      </Sheets>
      {thing && <ThingDialog thing={thing} open={setThing} close={() => setThing(null)} />}
      {papers && <PapersDialog close={() => setPapers(false)} />}
    </StageMain>
  );
}

function CableChoice({ loom, value, onChange }: { loom: Loom; value: string; onChange: (id: string) => void }) {
  if (loom.cables.length <= MOST_TABS) {
    const segments = loom.cables.map(({ id, label }) => ({ value: id, text: label }));
    return <Segmented label="Cable" value={value} segments={segments} onChange={onChange} />;
  }
  // a cable is found by its name, and by the strips at its ends
  const ends = new Map<string, Set<string>>();
  for (const { cableId, panel, layout } of loom.passages)
    ends.set(cableId, (ends.get(cableId) ?? new Set()).add(panel.strip).add(layout.strip));
  const options = loom.cables.map(({ id, label }) => ({
    value: id,
    text: `${label}, ${[...(ends.get(id) ?? [])].join(" to ") || "not joined"}`,
  }));
  return <Combobox className="w-52" label="Cable" value={value} options={options} onChange={onChange} />;
}
