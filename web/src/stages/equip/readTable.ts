import { columnCalled, recordError } from "@alderman/core";
import Papa from "papaparse";

/**
 * The cells of a pasted or opened table: comma, semicolon or tab between them, quotes as in RFC 4180.
 *
 * @throws {RecordError} naming the row when quotes do not close
 */
export function readTable(text: string): string[][] {
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: "greedy" });
  const [error] = errors.filter(({ type }) => type === "Quotes");
  if (error)
    throw recordError(`Row ${(error.row ?? 0) + 1}: a quotation mark is not closed. Close it, or take it away.`);
  return data;
}

/** Whether a pasted table names its columns in its first row. */
export function hasHeadings(cells: readonly (readonly string[])[]): boolean {
  return cells.length > 1 && (cells[0] ?? []).some((cell) => columnCalled(cell)?.id === "label");
}
