import type { Column, Turnout } from "@alderman/core";
import type { KeyboardEvent } from "react";
import type { Place } from "./range.ts";
import type { GridEdits } from "./useGridEdits.ts";
import type { Selection } from "./useSelection.ts";

/** What a key does on a cell. @returns whether it was the cell's to take */
export function onCellKey(
  event: KeyboardEvent,
  place: Place,
  {
    turnouts,
    columns,
    selection,
    edits,
  }: {
    turnouts: readonly Turnout[];
    columns: readonly Column[];
    selection: Selection;
    edits: GridEdits;
  },
): boolean {
  const { row, column } = place;
  const turnout = turnouts[row];
  const here = columns[column]?.id;
  const key = event.key;
  if (event.altKey) {
    const step = key === "ArrowDown" ? 1 : key === "ArrowUp" ? -1 : 0;
    if (step === 0 || !turnout || here !== "driver") return false;
    edits.move(turnout.movesWith ?? turnout.id, step);
    return true;
  }
  if (event.ctrlKey || event.metaKey) {
    if (key.toLowerCase() === "d") edits.fill();
    else if (key.toLowerCase() === "a") selection.all();
    else return false;
    return true;
  }
  if (key === "ArrowUp" && row === 0 && !event.shiftKey) {
    selection.toHeading(column);
    return true;
  }
  const to = placeAfter(key, place, columns.length);
  if (to) selection.move(to, event.shiftKey);
  else if (key === "Enter" || key === "F2") selection.edit({ ...place, begin: null });
  else if (key === "Escape") selection.letGo();
  else if (key === "Delete" || key === "Backspace") edits.clear(place);
  // a letter on a label is a command, as anywhere: a turnout is not called otherwise by mistake
  else if (key.length === 1 && key !== "?" && key !== "/" && (here !== "label" || !turnout))
    selection.edit({ ...place, begin: { text: key, letter: true } });
  else return false;
  return true;
}

/** Rows that a page key goes by. */
const PAGE = 20;

function placeAfter(key: string, { row, column }: Place, columns: number): Place | undefined {
  const places: Record<string, Place> = {
    ArrowDown: { row: row + 1, column },
    ArrowUp: { row: row - 1, column },
    ArrowLeft: { row, column: column - 1 },
    ArrowRight: { row, column: column + 1 },
    Home: { row, column: 0 },
    End: { row, column: columns - 1 },
    PageDown: { row: row + PAGE, column },
    PageUp: { row: row - PAGE, column },
  };
  return Object.hasOwn(places, key) ? places[key] : undefined;
}
