import { edit } from "../catalogue/edit.ts";
import type { EditGroup } from "../record/edits.ts";
import { Label } from "../record/fields.ts";
import { turnoutOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Problem, RecordError, recordError } from "../record/problems.ts";
import { count, list } from "../units/format.ts";
import { COLUMNS, type Column, columnCalled, isToldByLeader, writeText } from "./columns.ts";
import { Draft } from "./draft.ts";
import { addTurnoutTo, turnoutCalled } from "./turnouts.ts";

/** Most rows that are taken in from one table. */
export const MOST_ROWS = 1000;

/**
 * Turnouts from a table with a heading row, as one group of edits. Columns are those of the turnout list.
 *
 * Rows are written in two passes, so that a turnout may move with one further down.
 * @param rows cells of the table, the heading row first
 * @param mapped columns of the list for headings that are none of it
 * @throws {RecordError} naming row and column of each thing that is wrong (rows counted as a spreadsheet does, from 1);
 *   nothing is taken over then
 */
export function turnoutsFromTable(
  record: RailwayRecord,
  rows: readonly (readonly string[])[],
  mapped: Mapping = {},
): EditGroup {
  const headings = rows[0] ?? [];
  const columns = readHeadings(headings, mapped);
  const body = rows.slice(1).filter((row) => row.some((cell) => cell.trim() !== ""));
  if (body.length === 0) throw recordError("The table has no rows below its headings.");
  if (body.length > MOST_ROWS)
    throw recordError(
      `The table has ${body.length} rows; at most ${MOST_ROWS} are taken at once. Take it in by parts.`,
    );

  const draft = new Draft(record);
  const problems: Problem[] = [];
  const labelAt = columns.findIndex((column) => column?.id === "label");
  const added: { id: string; row: readonly string[]; number: number }[] = [];
  for (const row of body) {
    const number = rows.indexOf(row) + 1;
    const fail = (column: number, message: string) => {
      problems.push({
        path: [number, headings[column] ?? column + 1],
        message: `Row ${number}, ${headings[column]?.trim() || `column ${column + 1}`}: ${message}`,
      });
    };
    if (row.length > headings.length) {
      fail(headings.length, `there are ${row.length} cells but ${headings.length} headings.`);
      continue;
    }
    const label = row[labelAt]?.trim() ?? "";
    const sound = Label.safeParse(label);
    if (label.startsWith("=")) fail(labelAt, `"${label.slice(0, 30)}" is a formula. Paste what it gives.`);
    else if (!sound.success) fail(labelAt, `the label ${sound.error.issues[0]?.message ?? "is not usable"}.`);
    else if (turnoutCalled(draft.record, label)) fail(labelAt, `there is already a turnout called ${label}.`);
    else added.push({ id: addTurnoutTo(draft, label).id, row, number });
  }
  if (problems.length === 0) {
    const order = [...COLUMNS.filter((column) => column.id !== "label")];
    for (const column of order) {
      const at = columns.indexOf(column);
      if (at >= 0) writeColumn(draft, column, at, added, headings, problems);
    }
  }
  if (problems.length > 0) throw new RecordError(problems.slice(0, 10));
  edit(record, draft.edits);
  return draft.group(`Took in ${count(added.length, "turnout")} from a table`);
}

/** Columns of the turnout list, by their identifier, for headings as the table has them; null for a column to be left out. */
export type Mapping = Readonly<Record<string, string | null>>;

/** Headings of a table that are none of the turnout list's. */
export function unknownHeadings(headings: readonly string[]): string[] {
  return headings.filter((heading) => heading.trim() !== "" && !columnCalled(heading));
}

function readHeadings(headings: readonly string[], mapped: Mapping): (Column | null)[] {
  const unknown = unknownHeadings(headings).filter((heading) => !(heading in mapped));
  if (unknown.length > 0) {
    const known = COLUMNS.map(({ id }) => id).join(", ");
    const named = list(unknown.map((heading) => `"${heading.trim().slice(0, 40)}"`));
    throw recordError(
      `Row 1: ${named} ${unknown.length === 1 ? "is no heading" : "are no headings"} of the turnout list. Its headings are ${known}.`,
    );
  }
  const columns = headings.map((heading) => {
    const id = mapped[heading];
    // a column without a heading is left out, as one that is mapped to nothing
    return id === undefined ? (columnCalled(heading) ?? null) : (COLUMNS.find((column) => column.id === id) ?? null);
  });
  const double = columns.find((column, index) => column !== null && columns.indexOf(column) !== index);
  if (double) throw recordError(`Row 1: two columns are headed ${double.id}. Keep one.`);
  if (!columns.some((column) => column?.id === "label")) throw recordError('Row 1: no column is headed "label".');
  return columns;
}

function writeColumn(
  draft: Draft,
  column: Column,
  at: number,
  added: readonly { id: string; row: readonly string[]; number: number }[],
  headings: readonly string[],
  problems: Problem[],
): void {
  for (const { id, row, number } of added) {
    const text = row[at]?.trim() ?? "";
    const turnout = turnoutOf(draft.record, id);
    if (text === "") continue;
    if (isToldByLeader(column, draft.record, turnout) && turnout.movesWith) {
      const leader = turnoutOf(draft.record, turnout.movesWith);
      // what the leading one has is true of both
      if (text === column.read(draft.record, leader)) continue;
      const { label } = turnoutOf(draft.record, id);
      problems.push({
        path: [number, headings[at] ?? at],
        message: `Row ${number}, ${headings[at]?.trim()}: ${label} moves with ${leader.label}, and this is said of ${leader.label} for both. Leave the cell empty.`,
      });
      continue;
    }
    try {
      writeText(draft, column, id, text);
    } catch (error) {
      if (!(error instanceof RecordError)) throw error;
      problems.push({
        path: [number, headings[at] ?? at],
        message: `Row ${number}, ${headings[at]?.trim()}: ${error.message}`,
      });
    }
  }
}
