import {
  type BusNode,
  busNodes,
  faultOf,
  giveNodeNumbers,
  type NodeVolts,
  type RailwayRecord,
  readSetting,
  typeOf,
  wantSetting,
} from "@alderman/core";
import { useMemo } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import type { Verdict } from "../../drawing/verdict.ts";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";
import { SmallSwitches } from "./Switches.tsx";

/** The nodes on the control bus: their numbers, as wanted and as read, with their switches as they must be set. */
export function NodesSheet({
  record,
  volts,
  chosen,
  choose,
}: {
  record: RailwayRecord;
  /** What arrives at each, as it was last solved. */
  volts: readonly NodeVolts[];
  chosen: string | null;
  choose: (id: string) => void;
}) {
  const act = useEdit();
  const nodes = useMemo(() => busNodes(record), [record]);
  const columns = useMemo(() => columnsWith(record, volts), [record, volts]);
  const open = nodes.filter(({ number }) => number === null);
  return (
    <Sheet
      title="Nodes"
      about={`${nodes.length} on the control bus; ${open.length} without a number`}
      actions={
        open.length > 0 && (
          <Button size="small" onClick={() => act(() => giveNodeNumbers(record))}>
            Give {open.length === 1 ? "it a number" : "them numbers"}
          </Button>
        )
      }
    >
      <DataTable
        label="Nodes"
        keptAs="nodes"
        items={nodes}
        columns={columns}
        idOf={({ line }) => line.id}
        chosen={chosen}
        onChoose={({ line }) => choose(line.id)}
        empty={<p className="p-3 text-ink-2">No node is on a control bus here.</p>}
      />
    </Sheet>
  );
}

function verdictOf({ number, sharedWith, line }: BusNode): Verdict {
  if (sharedWith.length > 0) return "wrong";
  if (number === null || line.read === null) return "open";
  return line.standing === "agrees" ? "good" : "doubtful";
}

function standingOf({ number, sharedWith, line }: BusNode): string {
  if (sharedWith.length > 0) return `also ${sharedWith.join(", ")}`;
  if (number === null) return "no number yet";
  if (line.read === null) return "to be set";
  return line.standing === "agrees" ? "as wanted" : `is ${line.read}`;
}

function columnsWith(record: RailwayRecord, volts: readonly NodeVolts[]): DataColumn<BusNode>[] {
  const at = new Map(volts.map((each) => [each.deviceId, each]));
  return [
    {
      id: "node",
      title: "Node",
      width: 70,
      value: ({ line }) => line.of,
      cell: ({ line }) => <b className="mono">{line.of}</b>,
    },
    { id: "what", title: "What", width: 140, wraps: true, value: ({ line }) => typeOf(record, line.device).name },
    {
      ...{ id: "number", title: "Number", figures: true, width: 84, value: ({ number }) => number },
      cell: (node) => <Wanted record={record} node={node} />,
    },
    {
      ...{ id: "read", title: "Read", figures: true, width: 84, value: ({ line }) => line.read },
      cell: (node) => <Read record={record} node={node} />,
    },
    {
      ...{ id: "switches", title: "Switches", width: 104 },
      cell: ({ switches }) => <SmallSwitches switches={switches} />,
    },
    {
      ...{ id: "volts", title: "Volts", width: 84, value: ({ line }) => at.get(line.device.id)?.worst ?? null },
      cell: ({ line }) => <Volts of={at.get(line.device.id)} />,
    },
    {
      ...{ id: "standing", title: "Standing", width: 108, value: standingOf },
      cell: (node) => (
        <>
          <Mark verdict={verdictOf(node)} size={14} /> {standingOf(node)}
        </>
      ),
    },
  ];
}

/** What arrives at a node at rest, and at worst when that is less. */
function Volts({ of }: { of: NodeVolts | undefined }) {
  if (!of) return null;
  const { rest, worst, least } = of;
  return (
    <>
      {worst < least && <Mark verdict="wrong" size={14} />} <span className="mono">{rest.toFixed(1)}</span>
      {rest - worst >= 0.05 && <span className="block text-[11px] text-ink-2">{worst.toFixed(1)} at worst</span>}
    </>
  );
}

function Wanted({ record, node: { line, number } }: { record: RailwayRecord; node: BusNode }) {
  const tryEdit = useTryEdit();
  const save = (value: number | null) =>
    value === null
      ? tryEdit(() => wantSetting(record, line, null))
      : (faultOf(line, String(value)) ?? tryEdit(() => wantSetting(record, line, String(value))));
  return (
    <NumberField
      goesOn
      label={`Number of ${line.of}`}
      className="ml-auto min-h-6! w-18! text-right font-mono"
      value={number}
      empty="none"
      save={save}
    />
  );
}

function Read({ record, node: { line } }: { record: RailwayRecord; node: BusNode }) {
  const tryEdit = useTryEdit();
  const save = (value: number | null) =>
    value === null
      ? null
      : (faultOf(line, String(value)) ??
        tryEdit(() => readSetting(record, line, String(value), new Date().toISOString())));
  return (
    <NumberField
      goesOn
      label={`${line.of} was read as`}
      className="ml-auto min-h-6! w-18! text-right font-mono"
      value={line.read === null ? null : Number(line.read)}
      empty="not yet"
      save={save}
    />
  );
}
