import { type Paper, tablesOf } from "@alderman/core";
import ExcelJS from "exceljs";

/** The largest sheet's name that spreadsheets take, and letters that they do not. */
const NAME = 31;
const FORBIDDEN = /[\\/?*[\]:]/g;

/**
 * The tables of papers as a workbook, one sheet each. Text is written as text, whatever it begins with: what looks like a
 * formula is none.
 */
export async function xlsxOf(papers: readonly Paper[]): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const names = new Set<string>();
  for (const paper of papers) {
    for (const { name, rows } of tablesOf(paper)) {
      const sheet = book.addWorksheet(freeName(name, names), { views: [{ state: "frozen", ySplit: 1 }] });
      sheet.addRows(rows.map((row) => [...row]));
      sheet.getRow(1).font = { bold: true };
      for (const [index, column] of sheet.columns.entries()) {
        const widest = Math.max(...rows.slice(0, MEASURED).map((row) => String(row[index] ?? "").length));
        column.width = Math.min(Math.max(widest + 2, 8), 60);
      }
    }
  }
  return new Uint8Array(await book.xlsx.writeBuffer());
}

/** Rows by which the width of columns is judged. */
const MEASURED = 200;

function freeName(wish: string, taken: Set<string>): string {
  const stem = wish.replace(FORBIDDEN, " ").trim().slice(0, NAME) || "table";
  let name = stem;
  for (let more = 2; taken.has(name.toLowerCase()); more++) name = `${stem.slice(0, NAME - 4)} ${more}`;
  taken.add(name.toLowerCase());
  return name;
}
