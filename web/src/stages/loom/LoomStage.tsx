import type { Cable } from "@alderman/core";
import { useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { ScaledDrawing } from "../../drawing/ScaledDrawing.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { PapersDialog } from "../../papers/PapersDialog.tsx";
import { CableDrawing } from "./CableDrawing.tsx";
import { Schedule } from "./Schedule.tsx";
import { WorkSheet } from "./WorkSheet.tsx";

/** So many cables are shown side by side to choose from; more in a list. */
const MOST_TABS = 7;

/** Cables, strips and the wire schedule, and how far the work on them is. */
export function LoomStage() {
  const overview = useOverview();
  const [chosen, setChosen] = useState("");
  const [papers, setPapers] = useState(false);
  const cables = overview?.loom.cables ?? [];
  const shown = cables.find(({ id }) => id === chosen) ?? cables[0];
  return (
    <StageMain title="Loom" about="Strips, cables, wires and the flags on them">
      <Sheets rows="auto minmax(0,1fr)">
        {shown && overview && (
          <Sheet
            title={`Cable ${shown.label}, panel to layout`}
            about="flags read as they will print; dashed is not labelled yet"
            actions={<CableChoice cables={cables} value={shown.id} onChange={setChosen} />}
          >
            <ScaledDrawing>
              <CableDrawing overview={overview} cable={shown} />
            </ScaledDrawing>
          </Sheet>
        )}
        <Sheets columns="minmax(0,1fr) 280px">
          <Schedule papers={() => setPapers(true)} />
          <WorkSheet />
        </Sheets>
      </Sheets>
      {papers && <PapersDialog close={() => setPapers(false)} />}
    </StageMain>
  );
}

function CableChoice({
  cables,
  value,
  onChange,
}: {
  cables: readonly Cable[];
  value: string;
  onChange: (id: string) => void;
}) {
  const options = cables.map(({ id, label }) => ({ value: id, text: label }));
  return cables.length > MOST_TABS ? (
    <Choice size="small" label="Cable" value={value} options={options} onChange={onChange} />
  ) : (
    <Segmented label="Cable" value={value} segments={options} onChange={onChange} />
  );
}
