import { addCable, addStrip, type Loom, type RailwayRecord } from "@alderman/core";
import { Plus } from "lucide-react";
import { type ReactNode, useMemo } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
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

/** Strips, plugs, splices and cables; each opens to its card. */
export function ThingsSheet({ lists, open }: { lists: ReactNode; open: OpenThing }) {
  const record = useRecord();
  const overview = useOverview();
  const act = useEdit();
  const rows = useMemo(() => (record && overview ? rowsOf(record, overview.loom) : []), [record, overview]);
  const strips = rows.filter(({ kind, what }) => kind === "strip" && what !== "splice");
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
            <Button size="small" onClick={() => act(() => record && addStrip(record, "panel"))}>
              <Plus size={13} aria-hidden="true" /> Strip, panel
            </Button>
            <Button size="small" onClick={() => act(() => record && addStrip(record, "layout"))}>
              <Plus size={13} aria-hidden="true" /> Strip, layout
            </Button>
            <Button size="small" onClick={() => act(() => record && addCable(record))}>
              <Plus size={13} aria-hidden="true" /> Cable
            </Button>
          </>
        }
        items={rows}
        columns={COLUMNS}
        idOf={({ key }) => key}
        onChoose={({ kind, id }) => open({ kind, id })}
        empty={<p className="p-3 text-ink-2">No strips and cables yet. They follow from what is at the panel.</p>}
      />
    </Sheet>
  );
}

function rowsOf({ railway }: RailwayRecord, { strips, cables, wires }: Loom): Row[] {
  const screws = new Map<string, Set<string>>();
  const cores = new Map<string, number>();
  const firm = new Set<string>();
  for (const { from, to, core, standing } of wires) {
    for (const { key, of } of [from, to]) {
      if (of) continue;
      const id = key.slice(0, key.indexOf("/"));
      screws.set(id, (screws.get(id) ?? new Set()).add(key));
      if (standing === "made") firm.add(id);
    }
    if (!core) continue;
    cores.set(core.cableId, (cores.get(core.cableId) ?? 0) + 1);
    if (standing === "made") firm.add(core.cableId);
  }
  const standing = (id: string, done: string | null, kept: boolean) =>
    done !== null || firm.has(id) ? "there" : kept ? "kept" : "proposed";
  return [
    ...strips.map(
      ({ id, label, kind, place, ways, pinAmps, fixedAt, kept, note }): Row => ({
        ...{ key: `strip ${id}`, kind: "strip", id, label, size: ways, note },
        what: kind === "splice" ? "splice" : pinAmps === null ? "strip" : `plug, ${pinAmps} A`,
        where: place === "panel" ? "panel" : "layout",
        used: screws.get(id)?.size ?? 0,
        standing: standing(id, fixedAt, kept),
      }),
    ),
    ...cables.map(
      ({ id, label, cores: size, gauge, metres, laidAt, kept, note }): Row => ({
        ...{ key: `cable ${id}`, kind: "cable", id, label, size, note },
        what: `cable, ${gauge ?? railway.cableGauge}`,
        where: `${metres ?? railway.cableMetres} m`,
        used: cores.get(id) ?? 0,
        standing: standing(id, laidAt, kept),
      }),
    ),
  ];
}
