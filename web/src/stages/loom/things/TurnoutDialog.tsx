import { JOINT_SHORT, jointAt, type RailwayRecord, type Turnout, tickWires, type Wire } from "@alderman/core";
import { useMemo } from "react";
import { Swatch } from "../../../drawing/Swatch.tsx";
import type { DataColumn } from "../../../kit/BodyRow.tsx";
import { Button } from "../../../kit/Button.tsx";
import { DataTable } from "../../../kit/DataTable.tsx";
import { Dialog } from "../../../kit/Dialog.tsx";
import { useEdit } from "../../../session/useEdit.ts";
import { useAppDispatch } from "../../../store/store.ts";
import { choose } from "../../../store/view.ts";
import { stepColumns, type TickWires } from "../stepColumns.tsx";
import { TurnoutDrawing } from "./TurnoutDrawing.tsx";
import type { OpenThing, ThingProps } from "./thing.ts";

/** The connection sheet of a turnout: its wires from the panel to the track, how each end is joined, and the work on them. */
export function TurnoutDialog({ thing: turnout, record, loom, open, close }: ThingProps<Turnout>) {
  const act = useEdit();
  const dispatch = useAppDispatch();
  const wires = useMemo(() => wiresFor(record, loom.wires, turnout.id), [record, loom.wires, turnout.id]);
  const columns = useMemo(() => {
    const tick: TickWires = (ids, step, done) =>
      act(() => tickWires(record, loom, ids, step, done ? new Date().toISOString() : null));
    return columnsWith(record, tick, open);
  }, [record, loom, act, open]);
  const done = wires.filter(({ fact }) => fact?.fromJoinedAt && fact.toJoinedAt).length;
  return (
    <Dialog
      wide
      title={`Turnout ${turnout.label}, its wires`}
      about={`${turnout.name && `${turnout.name}; `}${done} of ${wires.length} joined at both ends`}
      close={close}
    >
      {wires.length > 0 && (
        <div className="mb-3 max-h-[40vh] overflow-y-auto border border-rule">
          <TurnoutDrawing label={turnout.label} wires={wires} open={open} />
        </div>
      )}
      <DataTable
        flowing
        label={`Wires of ${turnout.label}`}
        items={wires}
        columns={columns}
        idOf={({ id }) => id}
        empty={<p className="p-3 text-ink-2">No wires yet.</p>}
      />
      <Button
        className="mt-3"
        onClick={() => {
          dispatch(choose({ kind: "turnout", id: turnout.id }));
          close();
        }}
      >
        Find it in the wire schedule
      </Button>
    </Dialog>
  );
}

/** Places in the order in which one goes through them with the wire in hand. */
const RUNS: readonly Wire["run"][] = ["panel", "cable", "layout"];

/** Wires for the sake of a turnout and those that move with it. */
function wiresFor({ turnouts }: RailwayRecord, wires: readonly Wire[], id: string): Wire[] {
  const ids = new Set([id, ...turnouts.flatMap((each) => (each.movesWith === id ? [each.id] : []))]);
  const own = wires.filter(({ turnoutId }) => turnoutId !== null && ids.has(turnoutId));
  return own.sort((a, b) => RUNS.indexOf(a.run) - RUNS.indexOf(b.run) || a.number - b.number);
}

function columnsWith(record: RailwayRecord, tick: TickWires, open: OpenThing): DataColumn<Wire>[] {
  const how = (end: Wire["from"]) => (
    <>
      <span className="block font-mono text-[12px]">{end.name}</span>
      <span className="block text-[11px] text-ink-2">{JOINT_SHORT[jointAt(record, end)]}</span>
    </>
  );
  return [
    {
      ...{ id: "wire", title: "Wire", width: 58 },
      cell: ({ id, label }) => (
        <button
          type="button"
          className="cursor-pointer font-mono font-bold underline"
          onClick={() => open({ kind: "wire", id })}
        >
          {label}
        </button>
      ),
    },
    { id: "colour", title: "Colour", width: 74, cell: ({ colour }) => <Swatch colour={colour} /> },
    {
      ...{ id: "cut", title: "Cut mm", figures: true, width: 64 },
      value: ({ core, cutMetres }) => (core ? `${core.cable}.${core.number}` : Math.round(cutMetres * 1000)),
    },
    { id: "from", title: "From", cell: ({ from }) => how(from) },
    { id: "to", title: "To", cell: ({ to }) => how(to) },
    ...stepColumns(tick).map((column) => ({ ...column, width: 58 })),
  ];
}
