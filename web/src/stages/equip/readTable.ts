import { columnCalled, recordError } from "@alderman/core";
import Papa from "papaparse";

/**
 * The cells of a pasted or opened table: comma, semicolon or tab between them, quotes as in RFC 4180.
 *
 * @throws {RecordError} naming the row when quotes do not close
 */
export function readTable(text: string): string[][] {
  // blank lines are kept, so that rows have the numbers that they have in the file; those at the end are none
  const plain = text.replace(/^\uFEFF/, "");
  // what parts the cells is told by the lines that have some
  const { delimiter } = Papa.parse<string[]>(plain, { skipEmptyLines: "greedy", preview: 20 }).meta;
  const { data, errors } = Papa.parse<string[]>(plain, { delimiter });
  const [error] = errors.filter(({ type }) => type === "Quotes");
  if (error)
    throw recordError(`Row ${(error.row ?? 0) + 1}: a quotation mark is not closed. Close it, or take it away.`);
  return data.slice(0, data.findLastIndex((row) => row.some((cell) => cell.trim() !== "")) + 1);
}

/** Whether a pasted table names its columns in its first row. */
export function hasHeadings(cells: readonly (readonly string[])[]): boolean {
  return cells.length > 1 && (cells[0] ?? []).some((cell) => columnCalled(cell)?.id === "label");
}
