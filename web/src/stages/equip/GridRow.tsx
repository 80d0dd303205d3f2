import { COLUMNS, find, type RailwayRecord, type Turnout } from "@alderman/core";
import { memo } from "react";
import type { Verdict } from "../../parts/Mark.tsx";
import { type CellHandlers, GridCell } from "./GridCell.tsx";

interface RowProps {
  /** Only looked at while something of the row is typed into, or its texts change. */
  record: RailwayRecord;
  turnout: Turnout;
  /** What its cells say, in the order of columns. */
  texts: readonly string[];
  row: number;
  /** Column of the current cell, when it is in this row. */
  here: number | null;
  /** Column that is being typed into, and the letter it began with. */
  editing: { column: number; begin: string | null } | null;
  /** First and last column that are chosen here, when several cells are. */
  from: number | null;
  to: number | null;
  verdicts: ReadonlyMap<string, Verdict> | undefined;
  handlers: CellHandlers;
}

/** One turnout of the grid; drawn anew only when something of it changes, so that scrolling and typing stay smooth. */
export const GridRow = memo(function GridRow(props: RowProps) {
  const { record, turnout, texts, row, here, editing, from, to, verdicts, handlers } = props;
  const leader = turnout.movesWith === null ? null : (find(record, "turnout", turnout.movesWith)?.label ?? null);
  return (
    <tr aria-selected={here !== null} aria-rowindex={row + 2}>
      {COLUMNS.map((column, index) => (
        <GridCell
          key={column.id}
          record={record}
          column={column}
          turnout={turnout}
          text={texts[index] ?? ""}
          leader={column.leaderOnly ? leader : null}
          place={{ row, column: index }}
          verdict={verdicts?.get(column.id) ?? null}
          editing={editing?.column === index ? editing : null}
          current={here === index}
          chosen={from !== null && to !== null && index >= from && index <= to}
          handlers={handlers}
        />
      ))}
    </tr>
  );
}, isDrawnAlike);

function isDrawnAlike(a: RowProps, b: RowProps): boolean {
  if (a.editing !== b.editing || (b.editing && a.record !== b.record)) return false;
  const same = (["row", "here", "from", "to", "handlers"] as const).every((name) => a[name] === b[name]);
  return (
    same &&
    a.turnout.id === b.turnout.id &&
    a.turnout.movesWith === b.turnout.movesWith &&
    a.texts.every((text, index) => text === b.texts[index]) &&
    COLUMNS.every(({ id }) => a.verdicts?.get(id) === b.verdicts?.get(id))
  );
}

const known = new WeakMap<RailwayRecord, Map<string, readonly string[]>>();

/** What the cells of a turnout say, read once for each record. */
export function textsOf(record: RailwayRecord, turnout: Turnout): readonly string[] {
  const rows = known.get(record) ?? new Map<string, readonly string[]>();
  known.set(record, rows);
  const texts = rows.get(turnout.id) ?? COLUMNS.map(({ read }) => read(record, turnout));
  rows.set(turnout.id, texts);
  return texts;
}
