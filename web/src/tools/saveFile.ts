import { saveAs } from "file-saver";
import Papa from "papaparse";

/** Hands a text to the browser as a file to keep. */
export function saveText(name: string, type: string, text: string): void {
  saveAs(new Blob([text], { type: `${type};charset=utf-8` }), name);
}

/** Hands bytes to the browser as a file to keep. */
export function saveBytes(name: string, type: string, bytes: Uint8Array): void {
  saveAs(new Blob([bytes as Uint8Array<ArrayBuffer>], { type }), name);
}

/** Hands a table to the browser as a CSV file (RFC 4180); a cell that a spreadsheet would take for a formula is made plain text. */
export function saveCsv(name: string, rows: readonly (readonly (string | number)[])[]): void {
  saveText(name, "text/csv", `${csvText(rows)}\r\n`);
}

/** The beginning of what a spreadsheet would run; a minus before a figure is a number. */
const FORMULA = /^[=+@\t\r]|^-(?!\d)/;

/** A table as CSV. */
export function csvText(rows: readonly (readonly (string | number)[])[]): string {
  return Papa.unparse(rows as (string | number)[][], { escapeFormulae: FORMULA, newline: "\r\n" });
}
