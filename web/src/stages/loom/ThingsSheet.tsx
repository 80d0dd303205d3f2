import {
  addCable,
  addStrip,
  type Cable,
  coresOf,
  count,
  type Loom,
  laidCable,
  placeWords,
  type RailwayRecord,
  screwKey,
  type Wire,
  wiresByEnd,
} from "@alderman/core";
import { Plus } from "lucide-react";
import { type ReactNode, useMemo, useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { ActionMenu } from "../../kit/Menu.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { TailDialog } from "./TailDialog.tsx";
import type { LoomThing, OpenThing } from "./things/thing.ts";

/** A strip or cable with how full it is. */
interface Row extends LoomThing {
  key: string;
  label: string;
  what: string;
  where: string;
  size: number;
  used: number;
  standing: string;
  note: string;
}

const COLUMNS: DataColumn<Row>[] = [
  { id: "label", title: "Name", value: ({ label }) => label, cell: ({ label }) => <b className="mono">{label}</b> },
  { id: "what", title: "What", value: ({ what }) => what },
  { id: "where", title: "Where", value: ({ where }) => where },
  { id: "size", title: "Ways", figures: true, value: ({ size }) => size },
  { id: "used", title: "Used", figures: true, value: ({ used }) => used },
  { id: "spare", title: "Spare", figures: true, value: ({ size, used }) => size - used },
  { id: "standing", title: "Standing", value: ({ standing }) => standing },
  { id: "note", title: "Note", value: ({ note }) => note, wraps: true },
];

type Shown = "things" | "strips" | "cables" | "splices";

const SHOWN: { value: Shown; text: string }[] = [
  { value: "things", text: "Both" },
  { value: "strips", text: "Strips" },
  { value: "cables", text: "Cables" },
  { value: "splices", text: "Splices, blocks" },
];

function isShown(shown: Shown, kind: Row["kind"], what: string): boolean {
  if (isJoint(what)) return shown === "splices";
  return shown === "things" || shown === (kind === "strip" ? "strips" : "cables");
}

/** Whether a row is of a splice or a block. */
function isJoint(what: string): boolean {
  return what === "splice" || what.startsWith("block");
}

/** Strips, plugs, splices and cables; each opens to its card. */
export function ThingsSheet({
  lists,
  open,
  compare,
}: {
  lists: ReactNode;
  open: OpenThing;
  /** Opens the comparison of ways to lay. */
  compare: () => void;
}) {
  const record = useRecord();
  const overview = useOverview();
  const act = useEdit();
  const [tail, setTail] = useState(false);
  const [shown, setShown] = useState<Shown>("things");
  const rows = useMemo(() => (record && overview ? rowsOf(record, overview.loom) : []), [record, overview]);
  const strips = rows.filter(({ kind, what }) => kind === "strip" && !isJoint(what));
  const cables = rows.filter(({ kind }) => kind === "cable");
  const sum = (all: readonly Row[], of: (row: Row) => number) => all.reduce((total, row) => total + of(row), 0);
  const about = `${strips.length} strips, ${sum(strips, ({ used }) => used)} of ${sum(strips, ({ size }) => size)} ways; ${cables.length} cables, ${sum(cables, ({ used }) => used)} of ${sum(cables, ({ size }) => size)} cores`;
  return (
    <Sheet title="Strips and cables" about={about} actions={lists}>
      <DataTable
        label="Strips and cables"
        keptAs="strips-and-cables"
        bar={
          <>
            <Segmented size="small" label="Which things" value={shown} segments={SHOWN} onChange={setShown} />
            <ActionMenu
              trigger={
                <Button size="small">
                  <Plus size={13} aria-hidden="true" /> Add
                </Button>
              }
              items={[
                { text: "Strip at the panel", act: () => act(() => record && addStrip(record, "panel")) },
                { text: "Strip under the layout", act: () => act(() => record && addStrip(record, "layout")) },
                { text: "Cable, panel to layout", act: () => act(() => record && addCable(record)) },
                { text: "Tail for a motor ...", act: () => setTail(true) },
              ]}
            />
            <Button size="small" onClick={compare}>
              Ways to lay ...
            </Button>
          </>
        }
        items={rows.filter(({ kind, what }) => isShown(shown, kind, what))}
        columns={COLUMNS}
        idOf={({ key }) => key}
        onChoose={({ kind, id }) => open({ kind, id })}
        empty={<p className="p-3 text-ink-2">No strips and cables yet. They follow from what is at the panel.</p>}
      />
      {tail && <TailDialog close={() => setTail(false)} />}
    </Sheet>
  );
}

/** Where a cable goes, and how far. */
function whereOf({ zones }: RailwayRecord, { zoneId, tail }: Cable, metres: number): string {
  const zone = tail ? undefined : zones.find(({ id }) => id === zoneId)?.label;
  return zone ? `to zone ${zone}, ${metres} m` : `${metres} m`;
}

function rowsOf(record: RailwayRecord, loom: Loom): Row[] {
  const { railway } = record;
  const at = wiresByEnd(loom);
  const standing = (wires: readonly Wire[], done: string | null, kept: boolean) =>
    done !== null || wires.some((wire) => wire.standing === "made") ? "there" : kept ? "kept" : "proposed";
  return [
    ...loom.strips.map((strip): Row => {
      const { id, label, kind, ways, pinAmps, fixedAt, kept, note } = strip;
      const used = Array.from({ length: ways }, (_, index) => at.get(screwKey(id, index + 1)) ?? []);
      return {
        ...{ key: `strip ${id}`, kind: "strip", id, label, size: ways, note, where: placeWords(record, strip) },
        what:
          kind === "splice"
            ? kind
            : kind === "block"
              ? `block, ${count(used.flat().length, "wire")}`
              : pinAmps === null
                ? "strip"
                : `plug, ${pinAmps} A`,
        used: used.filter(({ length }) => length > 0).length,
        standing: standing(used.flat(), fixedAt, kept),
      };
    }),
    ...loom.cables.map((cable): Row => {
      const { id, label, cores: size, laidAt, kept, note } = cable;
      const { gauge, metres } = laidCable(railway, loom, cable);
      const used = [...coresOf(loom, id).values()];
      return {
        ...{ key: `cable ${id}`, kind: "cable", id, label, size, note, used: used.length },
        ...{
          what: `${cable.tail ? "tail" : "cable"}, ${gauge}`,
          where: whereOf(record, cable, metres),
          standing: standing(used, laidAt, kept),
        },
      };
    }),
  ];
}
