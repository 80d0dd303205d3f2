import { type BusNode, busNodes, list, type RailwayRecord, readSetting, type SwitchPlace } from "@alderman/core";
import { useMemo, useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { useEdit } from "../../session/useEdit.ts";
import { CalibrateDialog } from "./CalibrateDialog.tsx";
import { Switches } from "./Switches.tsx";

/** One node: its switches as they must be set, what of them is to be changed, and reading its number back. */
export function NodeCard({ record, chosen }: { record: RailwayRecord; chosen: string | null }) {
  const act = useEdit();
  const [calibrates, setCalibrates] = useState(false);
  const nodes = useMemo(() => busNodes(record), [record]);
  const node = nodes.find(({ line }) => line.id === chosen) ?? nodes[0];
  if (!node) return <Sheet title="Node">{null}</Sheet>;
  const { line, number, switches } = node;
  return (
    <Sheet title={`Node ${line.of}`} about={number === null ? "no number yet" : ""}>
      <SheetBody label={`Node ${line.of}`}>
        <div className="grid gap-2 p-3">
          {number !== null && <b className="text-[22px]">{number}</b>}
          {switches.length > 0 && <Switches switches={switches} />}
          <p>{wordsFor(node)}</p>
          <div>
            <Button size="small" onClick={() => setCalibrates(true)}>
              Its switches count otherwise ...
            </Button>
          </div>
          {number !== null && line.read !== String(number) && (
            <div>
              <Button
                size="small"
                onClick={() => act(() => readSetting(record, line, String(number), new Date().toISOString()))}
              >
                It is set, and is {number} after power came on
              </Button>
            </div>
          )}
        </div>
      </SheetBody>
      {calibrates && <CalibrateDialog record={record} node={node} close={() => setCalibrates(false)} />}
    </Sheet>
  );
}

function wordsFor({ number, switches, line }: BusNode): string {
  const [first, last] = line.numbers ?? [1, 65_535];
  if (number === null) return `Give it a number from ${first} to ${last} that no other node has.`;
  if (switches.length === 0) return `Its switches say ${first} to ${last}; ${number} is none of them.`;
  const others = switches.filter(({ found, wanted }) => found !== null && found !== wanted);
  const read = "The number is read only when power comes on: power off and on, or it stays what it was.";
  if (line.read === null) return `Set them as drawn. ${read}`;
  if (others.length === 0) return "They are as drawn, and so was its number read.";
  const changes = list(others.map(changeWords));
  return `It was read as ${line.read}. ${changes[0]?.toUpperCase()}${changes.slice(1)}. ${read} Whatever its events were taught to is to be taught anew.`;
}

/** @example "switch 1 is to be turned on" */
function changeWords({ name, isJumper, wanted }: SwitchPlace): string {
  if (isJumper) return `jumper ${name} is to be ${wanted === "on" ? "fitted" : "taken off"}`;
  return `switch ${name} is to be turned ${wanted}`;
}
