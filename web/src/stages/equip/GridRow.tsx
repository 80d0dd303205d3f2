import { COLUMNS, type Column, find, isToldByLeader, type RailwayRecord, type Turnout } from "@alderman/core";
import { memo } from "react";
import type { Verdict } from "../../drawing/verdict.ts";
import type { Begin } from "./CellInput.tsx";
import { type CellHandlers, GridCell } from "./GridCell.tsx";

interface RowProps {
  /** Only looked at while something of the row is typed into, or its texts change. */
  record: RailwayRecord;
  turnout: Turnout;
  /** The columns that are shown. */
  columns: readonly Column[];
  /** What its cells say, in the order of all columns. */
  texts: readonly string[];
  row: number;
  /** Place of the current cell's column, when it is in this row. */
  here: number | null;
  /** Place of the column that is being typed into, and how that began. */
  editing: { column: number; begin: Begin | null } | null;
  /** First and last column that are chosen here, when several cells are. */
  from: number | null;
  to: number | null;
  verdicts: ReadonlyMap<string, Verdict> | undefined;
  handlers: CellHandlers;
}

/** One turnout of the grid; drawn anew only when something of it changes, so that scrolling and typing stay smooth. */
export const GridRow = memo(function GridRow(props: RowProps) {
  const { record, turnout, columns, texts, row, here, editing, from, to, verdicts, handlers } = props;
  const leader = turnout.movesWith === null ? null : (find(record, "turnout", turnout.movesWith)?.label ?? null);
  const wash =
    here !== null && from === null ? "bg-copper-wash [&>td:first-child]:shadow-[inset_3px_0_0_var(--copper)]" : "";
  return (
    <tr aria-selected={here !== null} aria-rowindex={row + 2} className={wash}>
      {columns.map((column, index) => {
        const text = texts[COLUMNS.indexOf(column)] ?? "";
        return (
          <GridCell
            key={column.id}
            record={record}
            column={column}
            turnout={turnout}
            text={text}
            short={column.short?.(record, turnout) ?? text}
            leader={isToldByLeader(column, record, turnout) ? leader : null}
            place={{ row, column: index }}
            verdict={verdicts?.get(column.id) ?? null}
            editing={editing?.column === index ? editing : null}
            current={here === index}
            chosen={from !== null && to !== null && index >= from && index <= to}
            handlers={handlers}
          />
        );
      })}
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
    a.columns.length === b.columns.length &&
    a.columns.every((column, index) => column === b.columns[index]) &&
    a.texts.every((text, index) => text === b.texts[index]) &&
    COLUMNS.every(({ id }) => a.verdicts?.get(id) === b.verdicts?.get(id))
  );
}
