import { type Run, type Wire, wireScheduleRows } from "@alderman/core";
import { Download } from "lucide-react";
import { useMemo, useState } from "react";
import { useLeader, useOverview } from "../../derivation/hooks.ts";
import { ScaledDrawing } from "../../drawing/ScaledDrawing.tsx";
import { Swatch } from "../../drawing/Swatch.tsx";
import { Checked } from "../../findings/Checked.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import { Button } from "../../kit/Button.tsx";
import { type DataColumn, DataTable } from "../../kit/DataTable.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { saveCsv } from "../../tools/saveFile.ts";
import { CableDrawing } from "./CableDrawing.tsx";

const RUNS: { value: Run | "all"; text: string }[] = [
  { value: "all", text: "All" },
  { value: "panel", text: "Panel" },
  { value: "cable", text: "Cable" },
  { value: "layout", text: "Layout" },
];

/** Cables, strips and the wire schedule. */
export function LoomStage() {
  const overview = useOverview();
  const [cable, setCable] = useState("");
  const cables = overview?.loom.cables ?? [];
  const shown = cables.find(({ id }) => id === cable) ?? cables[0];
  return (
    <StageMain title="Loom" about="Strips, cables, wires and the flags on them">
      <Sheets rows="auto minmax(0,1fr)">
        {shown && overview && (
          <Sheet
            title={`Cable ${shown.label}, panel to layout`}
            about="flags read as they will print"
            actions={
              <Segmented
                label="Cable"
                value={shown.id}
                segments={cables.map(({ id, label }) => ({ value: id, text: label }))}
                onChange={setCable}
              />
            }
          >
            <ScaledDrawing>
              <CableDrawing overview={overview} cableId={shown.id} />
            </ScaledDrawing>
          </Sheet>
        )}
        <Schedule />
      </Sheets>
    </StageMain>
  );
}

function Schedule() {
  const overview = useOverview();
  const record = useRecord();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const [run, setRun] = useState<Run | "all">("all");
  const wires = overview?.loom.wires;
  const shown = useMemo(
    () => (run === "all" ? (wires ?? []) : (wires ?? []).filter((wire) => wire.run === run)),
    [wires, run],
  );
  const joints = overview?.loom.joints ?? { bench: 0, underneath: 0 };
  const columns = useMemo(
    () => columnsWith(new Map(record?.turnouts.map(({ id, label }) => [id, label]))),
    [record?.turnouts],
  );
  const first = shown.find(({ turnoutId }) => turnoutId !== null && turnoutId === leader);
  return (
    <Sheet
      title="Wire schedule"
      about={`${wires?.length ?? 0} wires; ${joints.bench} joints at the bench, ${joints.underneath} underneath; ${metres(wires ?? [])} m to cut`}
      actions={
        <Button
          disabled={!overview || wires?.length === 0}
          onClick={() => overview && saveCsv("wire-schedule.csv", wireScheduleRows(overview.loom))}
        >
          <Download size={14} aria-hidden="true" /> CSV
        </Button>
      }
    >
      <DataTable
        label="Wire schedule"
        keptAs="wire-schedule"
        bar={<Segmented size="small" label="Where the wire is laid" value={run} segments={RUNS} onChange={setRun} />}
        items={shown}
        columns={columns}
        idOf={({ label }) => label}
        chosen={first?.label ?? null}
        onChoose={({ turnoutId }) => turnoutId && dispatch(choose({ kind: "turnout", id: turnoutId }))}
        empty={
          <p className="p-3 text-ink-2">
            <Checked>No wires yet. They follow from Equip: give a turnout a motor and a driver.</Checked>
          </p>
        }
      />
    </Sheet>
  );
}

function columnsWith(labels: ReadonlyMap<string, string>): DataColumn<Wire>[] {
  const turnout = ({ turnoutId }: Wire) => (turnoutId ? (labels.get(turnoutId) ?? "") : "boards");
  return [
    {
      ...{ id: "wire", title: "Wire", value: ({ label }) => label },
      cell: ({ label }) => <b className="font-mono text-[12px]">{label}</b>,
    },
    { id: "from", title: "From", mono: true, value: ({ from }) => from.name },
    { id: "to", title: "To", mono: true, value: ({ to }) => to.name },
    {
      ...{ id: "colour", title: "Colour", value: ({ colour }) => colour },
      cell: ({ colour }) => <Swatch colour={colour} named />,
    },
    { id: "gauge", spare: true, title: "Gauge", mono: true, value: ({ gauge }) => gauge },
    {
      ...{ id: "cut", title: "Cut mm", figures: true },
      value: ({ cutMetres }) => Math.round(cutMetres * 1000),
    },
    {
      ...{ id: "core", spare: true, title: "Core", mono: true },
      value: ({ core }) => (core ? `${core.cable}.${core.number}` : ""),
    },
    { id: "flag-from", spare: true, title: "Flag at from", mono: true, value: ({ flags }) => flags[0] },
    { id: "flag-to", spare: true, title: "Flag at to", mono: true, value: ({ flags }) => flags[1] },
    {
      ...{ id: "for", spare: true, title: "For", value: turnout },
      cell: (wire) => (wire.turnoutId ? turnout(wire) : <span className="text-ink-2">boards</span>),
    },
  ];
}

function metres(wires: readonly Wire[]): string {
  return wires.reduce((sum, { cutMetres, run }) => (run === "cable" ? sum : sum + cutMetres), 0).toFixed(1);
}
