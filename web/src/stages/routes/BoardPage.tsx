import { makeParts, type NamedBoard, namedBoards, type RailwayRecord, setPart } from "@alderman/core";
import { useMemo, useState } from "react";
import { useLoom } from "../../derivation/hooks.ts";
import { BoardSheet } from "../../drawing/matrix/BoardSheet.tsx";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { part as loaded, Optional } from "../../kit/part.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { SheetBody } from "../../kit/Sheet.tsx";
import { useEdit } from "../../session/useEdit.ts";

const PapersDialog = loaded(async () => (await import("../../papers/PapersDialog.tsx")).PapersDialog);

/** The diode that a meter's figures are told for: a usual rectifier. */
const RECTIFIER = { is: 14e-9, n: 1.9, rs: 0.04 };

type Join = NamedBoard["joins"][number];

const LIES = [
  { value: "proposed", text: "not soldered yet" },
  { value: "diode", text: "soldered: diode" },
  { value: "turned", text: "soldered: diode, turned round" },
  { value: "wire", text: "soldered: plain wire" },
] as const;
type Lies = (typeof LIES)[number]["value"];

/** A diode board as it is to be built: at true scale, part by part, ticked off as it is soldered, and what to measure. */
export function BoardPage({ record }: { record: RailwayRecord }) {
  const edit = useEdit();
  const loom = useLoom();
  const boards = useMemo(() => namedBoards(record, loom ?? undefined), [record, loom]);
  const [chosen, setChosen] = useState<string | null>(null);
  const [isPrinting, setPrinting] = useState(false);
  const named = boards.find(({ board }) => board.id === chosen) ?? boards[0];
  const text = JSON.stringify(named?.construction ?? null);
  // the same construction is the same object, so that its terminals are not ordered anew
  // biome-ignore lint/correctness/useExhaustiveDependencies: the text says all that the construction holds
  const construction = useMemo(() => named?.construction, [text]);
  if (!named || !construction) return <p className="p-3 text-ink-2">No route goes through a diode board yet.</p>;
  const open = named.joins.filter(({ standing }) => standing !== "made");
  const now = () => new Date().toISOString();
  return (
    <SheetBody label="The board" className="grid content-start gap-3 p-3">
      <div className="flex flex-wrap items-center gap-2">
        {boards.length > 1 && (
          <Segmented
            size="small"
            label="Board"
            value={named.board.id}
            segments={boards.map(({ board }) => ({ value: board.id, text: board.label }))}
            onChange={setChosen}
          />
        )}
        <span className="flex-1 text-ink-2">
          {named.joins.length - open.length} of {named.joins.length} parts soldered on {named.board.label}. Work on it
          with the discharge unit empty.
        </span>
        <Button size="small" disabled={open.length === 0} onClick={() => edit(() => makeParts(record, open, now()))}>
          All is soldered
        </Button>
      </div>
      <BoardSheet
        construction={construction}
        diode={RECTIFIER}
        name={named.board.label}
        actions={
          <Button size="small" onClick={() => setPrinting(true)}>
            PDF, XLSX
          </Button>
        }
      >
        <DataTable<Join>
          flowing
          label="What lies on the board"
          items={named.joins}
          idOf={({ from, to }) => `${from} ${to}`}
          columns={[
            { id: "from", title: "From", value: ({ fromName }) => fromName },
            { id: "to", title: "To, band", value: ({ toName }) => toName },
            {
              id: "lies",
              title: "As it lies",
              width: 230,
              cell: (join) => (
                <Choice<Lies>
                  size="small"
                  label={`${join.fromName} to ${join.toName}`}
                  value={liesOf(join)}
                  options={LIES}
                  onChange={(lies) => edit(() => setLies(record, join, lies, now()))}
                />
              ),
            },
            {
              id: "planned",
              title: "Planned",
              width: 110,
              value: (join) => (join.with === "wire" ? "plain wire" : "diode"),
            },
          ]}
        />
      </BoardSheet>
      {isPrinting && (
        <Optional>
          <PapersDialog close={() => setPrinting(false)} only={["route-sheets"]} />
        </Optional>
      )}
    </SheetBody>
  );
}

function liesOf({ standing, turned, with: by }: Join): Lies {
  if (standing !== "made") return "proposed";
  return by === "wire" ? "wire" : turned ? "turned" : "diode";
}

function setLies(record: RailwayRecord, { boardId, from, to }: Join, lies: Lies, at: string) {
  if (lies === "proposed") return setPart(record, boardId, [from, to], null);
  return setPart(record, boardId, [from, to], {
    with: lies === "wire" ? "wire" : "diode",
    turned: lies === "turned",
    madeAt: at,
  });
}
