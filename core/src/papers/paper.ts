import type { WireColour } from "../units/wireColours.ts";
import type { PlacedLabels } from "./labelSheets.ts";

/** How a column of a paper's table is set. */
export interface PaperColumn {
  title: string;
  /** box: an empty square to tick with a pen, or a ticked one. colour: a swatch with its code. */
  kind: "text" | "mono" | "figures" | "colour" | "box";
  /** Its share of the width beside the other columns. */
  share: number;
}

/** A box is true when what it stands for is done. */
export type PaperCell = string | number | boolean;

/** A table of a paper; in a spreadsheet it is a sheet of its own. */
export interface PaperTable {
  kind: "table";
  /** What it is called in a spreadsheet; unique within its paper. */
  name: string;
  columns: PaperColumn[];
  rows: PaperCell[][];
}

/** What a paper is made of, from top to bottom. */
export type PaperPart =
  | { kind: "heading"; text: string; about: string /** It begins a page. */; page: boolean }
  | { kind: "text"; text: string }
  | PaperTable
  | PlacedLabels;

/** Something to be printed, or taken away as tables. */
export interface Paper {
  id: string;
  title: string;
  parts: PaperPart[];
  /** What to see to before it is printed; not on the paper itself. */
  warnings?: string[];
}

/** A column; by its kind it is as wide as such columns usually have to be. */
export function column(title: string, kind: PaperColumn["kind"] = "text", share = SHARES[kind]): PaperColumn {
  return { title, kind, share };
}

const SHARES: Record<PaperColumn["kind"], number> = { text: 3, mono: 2, figures: 1.2, colour: 1.2, box: 0.8 };

export function table(name: string, columns: PaperColumn[], rows: PaperCell[][]): PaperTable {
  return { kind: "table", name, columns, rows };
}

export function heading(text: string, about = "", page = false): PaperPart {
  return { kind: "heading", text, about, page };
}

/** Tables of a paper as rows of text and numbers, headings first, to be saved as CSV or in a spreadsheet. */
export function tablesOf({ parts }: Paper): { name: string; rows: (string | number)[][] }[] {
  return parts.flatMap((part) => {
    if (part.kind === "labels") return [{ name: "labels", rows: part.labels.map(({ text }) => [text]) }];
    if (part.kind !== "table") return [];
    const { name, columns, rows } = part;
    const plain = (cell: PaperCell) => (typeof cell === "boolean" ? (cell ? "done" : "") : cell);
    return [{ name, rows: [columns.map(({ title }) => title), ...rows.map((row) => row.map(plain))] }];
  });
}

/** A swatch's cell names a wire's colour by its code. */
export function colourCell(colour: WireColour): string {
  return colour;
}
