import { type Run, type Wire, wireScheduleCsv } from "@alderman/core";
import { useState } from "react";
import { useLeader, useResults } from "../../derivation/hooks.ts";
import { Sheet, StageMain } from "../../parts/Sheet.tsx";
import { Swatch } from "../../parts/Swatch.tsx";
import { saveText } from "../../parts/saveText.ts";
import { useRecord } from "../../session/hooks.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { CableDrawing } from "./CableDrawing.tsx";

const RUNS: { run: Run | "all"; title: string }[] = [
  { run: "all", title: "All" },
  { run: "panel", title: "Panel" },
  { run: "cable", title: "Cable" },
  { run: "layout", title: "Layout" },
];

/** Cables, strips and the wire schedule. */
export function LoomStage() {
  const { overview } = useResults();
  const [cable, setCable] = useState("C1");
  const cables = [...new Set(overview?.loom.ways.map((way) => way.cable))];
  const shown = cables.includes(cable) ? cable : cables[0];
  return (
    <StageMain title="Loom" about="Strips, cables, wires and the flags on them">
      <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)] gap-2.5">
        {shown && overview && (
          <Sheet
            title={`Cable ${shown}, panel to layout`}
            about="flags read as they will print"
            actions={
              <fieldset className="seg" aria-label="Cable">
                {cables.map((each) => (
                  <button key={each} type="button" aria-pressed={each === shown} onClick={() => setCable(each)}>
                    {each}
                  </button>
                ))}
              </fieldset>
            }
          >
            <CableDrawing overview={overview} cable={shown} />
          </Sheet>
        )}
        <Schedule />
      </div>
    </StageMain>
  );
}

function Schedule() {
  const { overview } = useResults();
  const record = useRecord();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const [run, setRun] = useState<Run | "all">("all");
  const wires = overview?.loom.wires ?? [];
  const shown = run === "all" ? wires : wires.filter((wire) => wire.run === run);
  const joints = overview?.loom.joints ?? { bench: 0, underneath: 0 };
  const labels = new Map(record?.turnouts.map(({ id, label }) => [id, label]));
  return (
    <Sheet
      title="Wire schedule"
      about={`${wires.length} wires; ${joints.bench} joints at the bench, ${joints.underneath} underneath; ${metres(wires)} m to cut`}
      actions={
        <>
          <fieldset className="seg" aria-label="Where the wire is laid">
            {RUNS.map(({ run: each, title }) => (
              <button key={each} type="button" aria-pressed={run === each} onClick={() => setRun(each)}>
                {title}
              </button>
            ))}
          </fieldset>
          <button
            type="button"
            className="btn"
            disabled={!overview || wires.length === 0}
            onClick={() => overview && saveText("wire-schedule.csv", "text/csv", wireScheduleCsv(overview.loom))}
          >
            Download CSV
          </button>
        </>
      }
    >
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must scroll by keyboard too */}
      <section className="scroll" tabIndex={0} aria-label="Wires">
        {overview && wires.length === 0 && (
          <p className="quiet p-3">
            No wires yet. They follow from what is chosen in Equip: give a turnout a motor and a driver.
          </p>
        )}
        <table className="list" aria-label="Wire schedule">
          <thead>
            <tr>
              <th>Wire</th>
              <th>From</th>
              <th>To</th>
              <th>Colour</th>
              <th>Gauge</th>
              <th className="num head">Cut mm</th>
              <th>Core</th>
              <th>Flag at from</th>
              <th>Flag at to</th>
              <th>For</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((wire) => (
              <tr
                key={wire.label}
                aria-selected={wire.turnoutId !== null && wire.turnoutId === leader}
                onClick={() => wire.turnoutId && dispatch(choose(wire.turnoutId))}
              >
                <td className="mono font-bold">{wire.label}</td>
                <td className="mono">{wire.from.name}</td>
                <td className="mono">{wire.to.name}</td>
                <td>
                  <Swatch colour={wire.colour} named />
                </td>
                <td className="mono">{wire.gauge}</td>
                <td className="num">{Math.round(wire.cutMetres * 1000)}</td>
                <td className="mono">{wire.core ? `${wire.core.cable}.${wire.core.number}` : ""}</td>
                <td className="mono">{wire.flags[0]}</td>
                <td className="mono">{wire.flags[1]}</td>
                <td>{wire.turnoutId ? labels.get(wire.turnoutId) : <span className="quiet">boards</span>}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </Sheet>
  );
}

function metres(wires: readonly Wire[]): string {
  return wires.reduce((sum, { cutMetres, run }) => (run === "cable" ? sum : sum + cutMetres), 0).toFixed(1);
}
