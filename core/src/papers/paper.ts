import type { Drawing } from "../diodes/boardDrawing.ts";
import type { PlacedLabels } from "./labelSheets.ts";

/** How a column of a paper's table is set. */
export interface PaperColumn {
  title: string;
  /**
   * box: an empty square to tick with a pen, or a ticked one. boxes: several in a row, with a word of the title above each.
   * colour: a swatch with its code.
   */
  kind: "text" | "mono" | "figures" | "colour" | "box" | "boxes";
  /** Its share of the width beside the other columns. */
  share: number;
}

/** A box is true when what it stands for is done; several boxes are a list of such. */
export type PaperCell = string | number | boolean | readonly boolean[];

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
  /** A drawing at true scale; it begins a page where it does not fit on what is left of one. */
  | { kind: "drawing"; drawing: Drawing }
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

const SHARES: Record<PaperColumn["kind"], number> = {
  text: 3,
  mono: 2,
  figures: 1.2,
  colour: 1.2,
  box: 0.8,
  boxes: 3.8,
};

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
    const head = columns.flatMap(({ title, kind }) => (kind === "boxes" ? title.split(" ") : [title]));
    const plain = (cell: PaperCell, { kind, title }: PaperColumn): (string | number)[] => {
      if (typeof cell === "string" || typeof cell === "number") return [cell];
      if (typeof cell === "boolean") return [done(cell)];
      return kind === "boxes" ? title.split(" ").map((_, index) => done(cell[index])) : [];
    };
    const flat = (row: PaperCell[]) => columns.flatMap((column, index) => plain(row[index] ?? "", column));
    return [{ name, rows: [head, ...rows.map(flat)] }];
  });
}

function done(isTicked: boolean | undefined): string {
  return isTicked ? "done" : "";
}
