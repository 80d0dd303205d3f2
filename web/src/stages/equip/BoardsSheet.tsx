import { amps } from "@alderman/core";
import { ChevronDown, ChevronRight, Plus } from "lucide-react";
import { Collapsible } from "radix-ui";
import { type ComponentProps, memo } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { showBoards } from "../../store/view.ts";
import { Ways, WithDialogs } from "./Boards.tsx";
import { type BoardEntry, boardKind, useBoards, worstOf } from "./boardEntries.ts";
import { DROP_HERE, useDropTurnout } from "./dragging.tsx";

/** Share of what it may give from which a load is worth a look (common practice). */
const LOOK_SHARE = 0.8;

/** What a supply or a board may give, amps; null where nothing is stated. */
const rated = ({ type: { family, figures } }: BoardEntry) =>
  (family === "supply" ? figures.ratedAmps?.value : figures.boardAmps?.value) || null;

/** The greatest load as a share of what may be given; 0 where either is not known. */
const shareOf = (entry: BoardEntry) =>
  entry.load ? worstOf(entry.load) / (rated(entry) ?? Number.POSITIVE_INFINITY) : 0;

const STANDS = "at";

const COLUMNS: DataColumn<BoardEntry>[] = [
  {
    ...{ id: "board", title: "Board", value: ({ device }) => device.label },
    cell: ({ device }) => <b className="mono">{device.label}</b>,
  },
  {
    ...{ id: "kind", title: "Kind" },
    value: ({ type }) => (type.family === "supply" ? type.short : boardKind(type)),
  },
  {
    ...{ id: STANDS, spare: true, title: "Stands at, m", figures: true },
    value: ({ device, along }) => (device.place === "panel" ? "panel" : along || null),
  },
  {
    ...{ id: "ways", title: "Ways", value: ({ used }) => used.filter(Boolean).length },
    cell: ({ used }) =>
      used.length > 0 ? (
        <span className="inline-flex items-center gap-2">
          <Ways used={used} />
        </span>
      ) : null,
  },
  {
    ...{ id: "free", spare: true, title: "Free", figures: true },
    value: ({ used }) => (used.length > 0 ? used.filter((each) => !each).length : null),
  },
  {
    ...{ id: "rest", spare: true, title: "At rest", figures: true, value: ({ load }) => load?.rest ?? null },
    cell: ({ load }) => load && amps(load.rest),
  },
  {
    ...{ id: "moving", spare: true, title: "All moving", figures: true, value: ({ load }) => load?.moving ?? null },
    cell: ({ load }) => load && amps(load.moving),
  },
  {
    ...{ id: "most", title: "At most", figures: true, value: ({ load }) => (load ? worstOf(load) : null) },
    cell: (entry) =>
      entry.load && (
        <>
          {shareOf(entry) > LOOK_SHARE && <Mark verdict={shareOf(entry) > 1 ? "wrong" : "doubtful"} size={13} />}{" "}
          {amps(worstOf(entry.load))}
        </>
      ),
  },
  {
    ...{ id: "rated", spare: true, title: "May give", figures: true, value: rated },
    cell: (entry) => {
      const most = rated(entry);
      return most === null ? null : amps(most);
    },
  },
];

/** Boards and supplies below the list: ways used and free, what they give at rest, while all move, and at most. */
export function BoardsSheet() {
  return <BoardsTable entries={useBoards()} />;
}

/** Drawn anew only when something of them changes: an edit is drawn before they are looked through. */
const BoardsTable = memo(function BoardsTable({ entries }: { entries: BoardEntry[] }) {
  const shown = useAppSelector((state) => state.view.boards);
  const dispatch = useAppDispatch();
  // where they all stand together there is nothing to be said of it
  const isApart = entries.some(({ along }) => along > 0);
  const columns = isApart ? COLUMNS : COLUMNS.filter(({ id }) => id !== STANDS);
  return (
    <WithDialogs entries={entries}>
      {(open, add) => (
        <Collapsible.Root open={shown} onOpenChange={(next) => dispatch(showBoards(next))}>
          <Sheet
            title="Boards and supplies"
            about="drop a turnout on a board, or move it in the Driver column with Alt and the arrows"
            actions={
              <>
                <Button onClick={add}>
                  <Plus size={14} aria-hidden="true" /> Add board
                </Button>
                <Collapsible.Trigger asChild>
                  <Button>
                    {shown ? (
                      <ChevronDown size={14} aria-hidden="true" />
                    ) : (
                      <ChevronRight size={14} aria-hidden="true" />
                    )}
                    {shown ? "Fold" : "Unfold"}
                  </Button>
                </Collapsible.Trigger>
              </>
            }
          >
            <Collapsible.Content>
              <div className="max-h-[23vh] overflow-auto">
                <DataTable
                  flowing
                  label="Boards and supplies"
                  items={entries}
                  columns={columns}
                  idOf={({ device }) => device.id}
                  onChoose={({ device }) => open(device.id)}
                  row={BoardTableRow}
                  empty={<p className="p-3 text-ink-2">None yet. Allot outputs proposes them, or add one.</p>}
                />
              </div>
            </Collapsible.Content>
          </Sheet>
        </Collapsible.Root>
      )}
    </WithDialogs>
  );
});

/** A row on which a turnout can be dropped, for the board's first free output. */
function BoardTableRow({ item: { device }, className = "", ...rest }: { item: BoardEntry } & ComponentProps<"tr">) {
  const { ref, over } = useDropTurnout({ deviceId: device.id, way: null, name: device.label }, "boards");
  return <tr {...rest} ref={ref} className={`${className} ${over ? DROP_HERE : ""}`} />;
}
