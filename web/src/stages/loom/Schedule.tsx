import { keepWires, type Run, tickWires, type Wire, type WireStep, wireScheduleRows } from "@alderman/core";
import { Download, Printer } from "lucide-react";
import { type ReactNode, useMemo, useState } from "react";
import { useLeader, useOverview } from "../../derivation/hooks.ts";
import { Swatch } from "../../drawing/Swatch.tsx";
import { Checked } from "../../findings/Checked.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { saveCsv } from "../../tools/saveFile.ts";
import { stepColumns, type TickWires } from "./stepColumns.tsx";
import { isWanted, STEPS, WANTED, type Wanted } from "./steps.ts";
import type { OpenThing } from "./things/thing.ts";

const RUNS: { value: Run | "all"; text: string }[] = [
  { value: "all", text: "All" },
  { value: "panel", text: "Panel" },
  { value: "cable", text: "Cable" },
  { value: "layout", text: "Layout" },
];

/** Every wire with its label, colour and length, and what of the work on it is done: ticked one by one, or many at once. */
export function Schedule({
  lists,
  papers,
  open,
  ticked,
  setTicked,
}: {
  lists: ReactNode;
  papers: () => void;
  open: OpenThing;
  /** Wires that are chosen, to do something with all of them. */
  ticked: ReadonlySet<string>;
  setTicked: (ticked: ReadonlySet<string>) => void;
}) {
  const overview = useOverview();
  const record = useRecord();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const act = useEdit();
  const [run, setRun] = useState<Run | "all">("all");
  const [wanted, setWanted] = useState<Wanted>("all");
  const loom = overview?.loom;
  const wires = loom?.wires;
  const shown = useMemo(
    () => (wires ?? []).filter((wire) => (run === "all" || wire.run === run) && isWanted(wire, wanted)),
    [wires, run, wanted],
  );
  // what no longer answers to the choice above the table is not acted on; what one has found by its text adds up
  const chosen = useMemo(() => shown.flatMap(({ id }) => (ticked.has(id) ? [id] : [])), [shown, ticked]);
  const tick = useMemo<TickWires>(
    () => (ids, step, done) =>
      record && loom && act(() => tickWires(record, loom, ids, step, done ? new Date().toISOString() : null)),
    [record, loom, act],
  );
  const columns = useMemo(
    () => columnsWith(new Map(record?.turnouts.map(({ id, label }) => [id, label])), tick, open),
    [record?.turnouts, tick, open],
  );
  const first = shown.find(({ turnoutId }) => turnoutId !== null && turnoutId === leader);
  return (
    <Sheet
      title="Wire schedule"
      about={`${wires?.length ?? 0} wires; ${metres(wires ?? [])} m to cut`}
      actions={
        <>
          {lists}
          <Button onClick={papers}>
            <Printer size={14} aria-hidden="true" /> Papers
          </Button>
        </>
      }
    >
      <DataTable
        label="Wire schedule"
        keptAs="wire-schedule"
        bar={
          <>
            <Segmented size="small" label="Where the wire is laid" value={run} segments={RUNS} onChange={setRun} />
            <Choice size="small" label="Which wires" value={wanted} options={WANTED} onChange={setWanted} />
            <Button
              size="small"
              disabled={!loom || wires?.length === 0}
              onClick={() => loom && saveCsv("wire-schedule.csv", wireScheduleRows(loom))}
            >
              <Download size={13} aria-hidden="true" /> CSV
            </Button>
          </>
        }
        items={shown}
        columns={columns}
        idOf={({ id }) => id}
        chosen={first?.id ?? null}
        onChoose={({ turnoutId }) => turnoutId && dispatch(choose({ kind: "turnout", id: turnoutId }))}
        ticks={{ ticked: new Set(chosen), onTick: setTicked, nameOf: ({ label }) => label }}
        empty={
          <p className="p-3 text-ink-2">
            <Checked>
              {wires?.length ? (
                "No wire is left for that."
              ) : (
                <>No wires yet. They follow from Equip: give a turnout a motor and a driver.</>
              )}
            </Checked>
          </p>
        }
      />
      {chosen.length > 0 && (
        <ManyAtOnce
          count={chosen.length}
          tick={(step, done) => tick(chosen, step, done)}
          keep={(kept) => record && loom && act(() => keepWires(record, loom, chosen, kept))}
          letGo={() => setTicked(new Set())}
        />
      )}
    </Sheet>
  );
}

/** What can be done with all wires that are chosen. */
function ManyAtOnce({
  count,
  tick,
  keep,
  letGo,
}: {
  count: number;
  tick: (step: WireStep, done: boolean) => void;
  keep: (kept: boolean) => void;
  letGo: () => void;
}) {
  const words = {
    cutAt: "Cut",
    labelledAt: "Labelled",
    fromJoinedAt: "Joined, from",
    toJoinedAt: "Joined, to",
    testedAt: "Tested",
  };
  return (
    <section
      aria-label="Chosen wires"
      className="flex flex-none flex-wrap items-center gap-1.5 border-t border-rule-2 bg-sheet-2 px-3 py-1.5"
    >
      <b className="mr-1">{count} chosen</b>
      {STEPS.map(({ step }) => (
        <Button key={step} size="small" onClick={() => tick(step, true)}>
          {words[step]}
        </Button>
      ))}
      <Button size="small" onClick={() => keep(true)}>
        Keep as they are
      </Button>
      <Button size="small" onClick={() => keep(false)}>
        Let go
      </Button>
      <span className="flex-1" />
      <Button size="small" onClick={letGo}>
        Choose none
      </Button>
    </section>
  );
}

function columnsWith(labels: ReadonlyMap<string, string>, tick: TickWires, open: OpenThing): DataColumn<Wire>[] {
  const turnout = ({ turnoutId }: Wire) => (turnoutId ? (labels.get(turnoutId) ?? "") : "boards");
  return [
    {
      ...{ id: "wire", title: "Wire", value: ({ number }) => number },
      cell: ({ id, label, fact }) => (
        <b className="font-mono text-[12px]">
          <button
            type="button"
            className="cursor-pointer underline"
            onClick={(event) => {
              event.stopPropagation();
              open({ kind: "wire", id });
            }}
          >
            {label}
          </button>
          {fact?.kept && <span className="font-normal text-ink-2"> kept</span>}
        </b>
      ),
    },
    { id: "from", title: "From", mono: true, value: ({ from }) => from.name },
    { id: "to", title: "To", mono: true, value: ({ to }) => to.name },
    {
      ...{ id: "colour", title: "Colour", value: ({ colour }) => colour },
      cell: ({ colour }) => <Swatch colour={colour} />,
    },
    { id: "gauge", hidden: true, title: "Gauge", mono: true, value: ({ gauge }) => gauge },
    {
      ...{ id: "cut", title: "Cut mm", figures: true },
      value: ({ cutMetres }) => Math.round(cutMetres * 1000),
    },
    {
      ...{ id: "core", hidden: true, title: "Core", mono: true },
      value: ({ core }) => (core ? `${core.cable}.${core.number}` : ""),
    },
    { id: "flag-from", hidden: true, title: "Flag at from", mono: true, value: ({ flags }) => flags[0] },
    { id: "flag-to", hidden: true, title: "Flag at to", mono: true, value: ({ flags }) => flags[1] },
    {
      ...{ id: "for", title: "For", value: turnout },
      cell: (wire) => (wire.turnoutId ? turnout(wire) : <span className="text-ink-2">boards</span>),
    },
    ...stepColumns(tick),
  ];
}

function metres(wires: readonly Wire[]): string {
  return wires.reduce((sum, { cutMetres, core }) => (core ? sum : sum + cutMetres), 0).toFixed(1);
}
