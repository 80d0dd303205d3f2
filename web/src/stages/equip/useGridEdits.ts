import {
  addTurnout,
  type Column,
  copyBlock,
  type EditGroup,
  equipLike,
  fillDown,
  type Mapping,
  moveBy,
  pasteBlock,
  type RailwayRecord,
  removeTurnouts,
  type Turnout,
  turnoutsFromTable,
  unknownHeadings,
  writeCell,
} from "@alderman/core";
import { useState } from "react";
import { useTryEdit } from "../../session/useEdit.ts";
import type { Place, Range } from "./range.ts";
import { hasHeadings, readTable } from "./readTable.ts";

/** What is chosen in the grid, in the terms of the railway. */
export interface GridChoice {
  turnouts: readonly Turnout[];
  columns: readonly Column[];
  here: Place;
  range: Range;
  /** More than one cell. */
  several: boolean;
}

export type GridEdits = ReturnType<typeof useGridEdits>;

/** What can be done to the turnouts from the grid; what cannot be is said in `problem`, and nothing changes then. */
export function useGridEdits(record: RailwayRecord, { turnouts, columns, here, range, several }: GridChoice) {
  const tryEdit = useTryEdit();
  const [problem, setProblem] = useState<string | null>(null);
  /** A table whose headings are to be explained before it is taken in. */
  const [asking, setAsking] = useState<{ cells: string[][]; before: string } | null>(null);
  const chosen = turnouts.slice(range.top, range.bottom + 1).map(({ id }) => id);
  const chosenColumns = columns.slice(range.left, range.right + 1).map(({ id }) => id);
  const make = (making: () => EditGroup | null, before = ""): boolean => {
    const refusal = tryEdit(making);
    setProblem(refusal === null ? null : `${before}${refusal}`);
    return refusal === null;
  };
  const write = ({ row, column }: Place, text: string): boolean =>
    make(() => {
      const turnout = turnouts[row];
      if (turnout) return writeCell(record, turnout.id, columns[column]?.id ?? "", text);
      return text.trim() === "" ? null : addTurnout(record, text.trim());
    });
  const clear = (place: Place) => {
    if (!several) return void write(place, "");
    const clearing = chosenColumns.filter((id) => id !== "label");
    const empty = chosen.map(() => clearing.map(() => ""));
    make(() => pasteBlock(record, chosen, clearing, empty));
  };
  /** Takes a table in; one with headings that the list does not know is asked about first. */
  const table = (cells: string[][], before: string): EditGroup | null => {
    if (cells.length < 2 || unknownHeadings(cells[0] ?? []).length === 0) return turnoutsFromTable(record, cells);
    setAsking({ cells, before });
    return null;
  };
  const paste = (text: string) =>
    make(() => {
      const cells = readTable(text);
      if (hasHeadings(cells) || turnouts.length === 0 || here.row >= turnouts.length)
        return table(cells, "Nothing was pasted. ");
      const [[only] = []] = cells;
      const single = cells.length === 1 && cells[0]?.length === 1;
      // one cell pasted over several goes into each
      if (single && several) {
        const same = chosen.map(() => chosenColumns.map(() => only ?? ""));
        return pasteBlock(record, chosen, chosenColumns, same);
      }
      const ids = turnouts.slice(range.top).map(({ id }) => id);
      const into = columns.slice(range.left).map(({ id }) => id);
      return pasteBlock(record, ids, into, cells);
    }, "Nothing was pasted. ");
  return {
    problem,
    setProblem,
    chosen,
    write,
    clear,
    paste,
    fill: () => void make(() => fillDown(record, chosen, chosenColumns)),
    alike: () => void make(() => equipLike(record, chosen[0] ?? "", chosen)),
    remove: () => void make(() => removeTurnouts(record, chosen)),
    move: (leaderId: string, step: 1 | -1) => void make(() => moveBy(record, leaderId, step)),
    importText: (text: string) =>
      make(() => table(readTable(text), "Nothing was imported. "), "Nothing was imported. "),
    asking,
    explain: (mapping: Mapping) => {
      if (asking) make(() => turnoutsFromTable(record, asking.cells, mapping), asking.before);
      setAsking(null);
    },
    leave: () => setAsking(null),
    copied: () => (chosen.length === 0 ? null : copyBlock(record, chosen, chosenColumns)),
    chosenColumns,
  };
}
