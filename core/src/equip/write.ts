import type { EditGroup } from "../record/edits.ts";
import { turnoutOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import { COLUMNS, type Column, writeText } from "./columns.ts";
import { Draft } from "./draft.ts";
import { addTurnoutTo, turnoutCalled } from "./turnouts.ts";

/**
 * What typing `text` into one cell of the turnout list does, as a group of edits; null when it changes nothing.
 *
 * @throws {RecordError} with a sentence that says what may be typed
 */
export function writeCell(record: RailwayRecord, turnoutId: string, columnId: string, text: string): EditGroup | null {
  const column = COLUMNS.find(({ id }) => id === columnId);
  const turnout = turnoutOf(record, turnoutId);
  if (!column || column.read(record, turnout) === text.trim()) return null;
  const draft = new Draft(record);
  writeText(draft, column, turnoutId, text.trim());
  return draft.edits.length > 0 ? draft.group(wordsFor(column, turnout.label, text.trim())) : null;
}

/** A new turnout at the end of the list, as a group of edits. */
export function addTurnout(record: RailwayRecord, label: string): EditGroup {
  if (turnoutCalled(record, label))
    throw recordError(`There is already a turnout called ${label}. Choose another label.`);
  const draft = new Draft(record);
  addTurnoutTo(draft, label.trim());
  return draft.group(`Added turnout ${label.trim()}`);
}

function wordsFor(column: Column, label: string, text: string): string {
  const what = column.title.toLowerCase();
  return text === "" ? `${label}: ${what} taken away` : `${label}: ${what} is ${text}`;
}
