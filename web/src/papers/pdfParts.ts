import type {
  Drawing,
  Paper,
  PaperCell,
  PaperColumn,
  PaperPart,
  PaperSize,
  PaperTable,
  WireColour,
} from "@alderman/core";
import { inkPair } from "./inks.ts";
import { INK, LINE, type Look, type PdfSheet, points, QUIET, RULE } from "./pdfSheet.ts";

/** What is printed at the edges of every page. */
export interface PaperHead {
  railway: string;
  /** As the owner's locale writes it. */
  date: string;
  size: PaperSize;
}

/** Edge of the page that stays white, millimetres. */
export const EDGE = { side: 14, top: 20, bottom: 16 };
const SIZE = 8.5;
/** Room beside the text of a cell, and above and below it, points. */
const PAD = 2.5;
const ABOVE = 1.8;
/** Height of a row of one line, and of a heading, points. */
const ROW_HEIGHT = SIZE * LINE + 2 * ABOVE;
const HEADING_HEIGHT = 28;

const BODY: Look = { face: "Body", size: SIZE };
const MONO: Look = { face: "Mono", size: SIZE - 1 };
const HEAD: Look = { face: "Head", size: SIZE, colour: QUIET };

/** Headings, texts and tables of a paper from page to page, each page with its head and foot. */
export function drawParts(sheet: PdfSheet, paper: Paper, head: PaperHead): void {
  const pages = new Pages(sheet);
  for (const [index, part] of paper.parts.entries()) {
    if (part.kind === "heading") pages.heading(part, neededBelow(paper.parts, index));
    else if (part.kind === "text") pages.paragraph(part.text);
    else if (part.kind === "table") pages.table(part);
    else if (part.kind === "drawing") pages.drawing(part.drawing);
  }
  sheet.onEachPage((page, all) => {
    const right = sheet.width - 2 * points(EDGE.side);
    sheet.text(paper.title, points(EDGE.side), points(9), { face: "Head", size: 14 });
    const about = `${head.railway}, ${head.date}`;
    sheet.text(about, points(EDGE.side), points(9) + 4, { ...BODY, colour: QUIET }, right);
    const foot = sheet.height - points(EDGE.bottom) + points(5);
    sheet.text(`${page} of ${all}`, points(EDGE.side), foot, { ...BODY, colour: QUIET }, right);
  });
}

/** Height of what stands below a heading up to the next, by rows of one line. */
function neededBelow(parts: readonly PaperPart[], index: number): number {
  const next = parts.findIndex(({ kind }, at) => at > index && kind === "heading");
  return parts
    .slice(index + 1, next < 0 ? undefined : next)
    .reduce((sum, part) => sum + (part.kind === "table" ? part.rows.length + 1 : 1) * ROW_HEIGHT, HEADING_HEIGHT);
}

/** Of a drawing over several pages: what each page shows of the one before, and the room for a line that says so, millimetres. */
const AGAIN = 10;
const NOTE_ROOM = 6;

/** A column where it stands. */
interface Placed {
  column: PaperColumn;
  x: number;
  width: number;
}

/** Pages that are filled from top to bottom. */
class Pages {
  private readonly left = points(EDGE.side);
  private readonly width: number;
  private readonly bottom: number;
  private y = 0;

  constructor(private readonly sheet: PdfSheet) {
    this.width = sheet.width - 2 * points(EDGE.side);
    this.bottom = sheet.height - points(EDGE.bottom);
    this.begin();
  }

  private begin(): void {
    this.sheet.addPage();
    this.y = points(EDGE.top);
  }

  private get isAtTop(): boolean {
    return this.y === points(EDGE.top);
  }

  /** A heading; it begins a page where what stands below it fits on one, but not on what is left of this. */
  heading({ text, about, page }: Extract<PaperPart, { kind: "heading" }>, needed: number): void {
    const whole = this.bottom - points(EDGE.top);
    const left = this.bottom - this.y;
    const isCut = needed > left && (needed <= whole || left < HEADING_HEIGHT + 3 * ROW_HEIGHT);
    if (!this.isAtTop && (page || isCut)) this.begin();
    const look: Look = { face: "Head", size: 12 };
    this.y += 8;
    this.sheet.text(text, this.left, this.y, look);
    const from = this.left + this.sheet.widthOf(text, look) + 8;
    const words: Look = { ...BODY, colour: QUIET };
    const room = this.left + this.width - from;
    const isBeside = about !== "" && this.sheet.widthOf(about, words) <= room;
    if (isBeside) this.sheet.text(about, from, this.y + 3, words);
    this.y += 12 * LINE + 3;
    if (about !== "" && !isBeside) this.paragraph(about, words);
  }

  paragraph(text: string, look = BODY): void {
    const height = this.sheet.heightOf(text, this.width, look);
    if (this.y + height > this.bottom) this.begin();
    this.y += 4;
    this.sheet.paragraph(text, this.left, this.y, this.width, look);
    this.y += height + 4;
  }

  /** A drawing at true scale; one that is higher than a page goes on over several, of which each begins with the end of the one before. */
  drawing(drawing: Drawing): void {
    const whole = points(drawing.height);
    if (this.y + whole > this.bottom && !this.isAtTop) this.begin();
    const top = points(EDGE.top);
    const room = this.bottom - top;
    if (whole <= room) {
      this.draw(drawing, this.y);
      this.y += whole + 6;
      return;
    }
    const band = room - points(NOTE_ROOM);
    const step = band - points(AGAIN);
    const pages = Math.ceil((whole - points(AGAIN)) / step);
    for (let page = 0; page < pages; page++) {
      if (page > 0) this.begin();
      this.sheet.within(0, top, this.sheet.width, band, () => this.draw(drawing, top - page * step));
      if (page === pages - 1) break;
      const note = `Goes on on the next page, which shows the last ${AGAIN} mm again.`;
      this.sheet.text(note, this.left, top + band + 2, { ...BODY, colour: QUIET });
    }
    this.y = top + whole - (pages - 1) * step + 6;
  }

  private draw({ width, lines, shapes, circles, texts }: Drawing, top: number): void {
    const left = (this.sheet.width - points(width)) / 2;
    const at = ([x, y]: readonly [number, number]): [number, number] => [left + points(x), top + points(y)];
    for (const line of lines) this.sheet.strokes([line.points.map(at)], points(line.width), INK);
    for (const shape of shapes)
      this.sheet.shape(shape.points.map(at), shape.fill === "ink" ? INK : "#ffffff", points(shape.outline));
    for (const { x, y, radius } of circles) this.sheet.circle(...at([x, y]), points(radius), 0.8);
    for (const { text, x, y, size, anchor } of texts) {
      const look: Look = { face: "Body", size: points(size) };
      const long = this.sheet.widthOf(text, look);
      const [textX, textY] = at([x, y]);
      const from = anchor === "start" ? 0 : anchor === "end" ? long : long / 2;
      this.sheet.text(text, textX - from, textY - points(size), look);
    }
  }

  /** A table; its headings stand again on each page that it goes on to, and no row is broken. */
  table({ columns, rows }: PaperTable): void {
    const shares = columns.reduce((sum, { share }) => sum + share, 0);
    let x = this.left;
    const placed = columns.map((column): Placed => {
      const width = (this.width * column.share) / shares;
      // figures end where text would begin: they get more room before it
      const at = { column, x, width: width - (column.kind === "figures" ? 4 : 2) * PAD };
      x += width;
      return at;
    });
    if (this.y + 2 * ROW_HEIGHT > this.bottom) this.begin();
    this.headings(placed);
    for (const [index, row] of rows.entries()) {
      const height = this.heightOf(placed, row);
      if (this.y + height > this.bottom && !this.isAtTop) {
        this.begin();
        this.headings(placed);
      }
      this.row(placed, row);
      this.y += height;
      const isLast = index === rows.length - 1;
      this.line(isLast ? 0.8 : 0.3, RULE);
    }
    this.y += 6;
  }

  private line(width: number, colour: string): void {
    const ends: [number, number][] = [
      [this.left, this.y],
      [this.left + this.width, this.y],
    ];
    this.sheet.strokes([ends], width, colour);
  }

  private headings(placed: readonly Placed[]): void {
    let height = ROW_HEIGHT;
    for (const { column, x, width } of placed) {
      const top = this.y + ABOVE;
      if (column.kind === "boxes") {
        const titles = column.title.split(" ");
        for (const [index, title] of titles.entries())
          this.sheet.text(title, x + (index * width) / titles.length, top + 1, { ...HEAD, size: SIZE - 1.5 });
      } else {
        this.sheet.paragraph(column.title, x, top, width, HEAD, column.kind === "figures" ? "right" : "left");
        height = Math.max(height, this.sheet.heightOf(column.title, width, HEAD) + 2 * ABOVE);
      }
    }
    this.y += height;
    this.line(0.8, INK);
  }

  private heightOf(placed: readonly Placed[], row: readonly PaperCell[]): number {
    let height = ROW_HEIGHT;
    for (const [index, { column, width }] of placed.entries()) {
      const cell = row[index];
      if (typeof cell !== "string" || column.kind === "colour") continue;
      const own = this.sheet.heightOf(cell, width, lookOf(column));
      if (own > SIZE * LINE) height = Math.max(height, own + 2 * ABOVE);
    }
    return height;
  }

  private row(placed: readonly Placed[], row: readonly PaperCell[]): void {
    const boxes: [number, number, number, number][] = [];
    const ticks: [number, number][][] = [];
    const box = (isTicked: boolean, x: number) => {
      const top = this.y + ABOVE + 1;
      boxes.push([x + 0.5, top, 7.5, 7.5]);
      if (isTicked)
        ticks.push([
          [x + 2, top + 4],
          [x + 3.8, top + 6],
          [x + 6.8, top + 1.5],
        ]);
    };
    for (const [index, { column, x, width }] of placed.entries()) {
      const cell = row[index] ?? "";
      if (typeof cell === "boolean") box(cell, x);
      else if (typeof cell === "object")
        for (const [place, isTicked] of cell.entries()) box(isTicked, x + (place * width) / cell.length);
      else this.cell(column, String(cell), x, width);
    }
    this.sheet.frames(boxes, 0.7);
    this.sheet.strokes(ticks, 1.1, INK);
  }

  private cell(column: PaperColumn, text: string, x: number, width: number): void {
    const { sheet } = this;
    const top = this.y + ABOVE;
    if (text === "") return;
    if (column.kind === "colour") {
      const [body, stripe] = inkPair(text as WireColour);
      sheet.fill(x, top + 1.5, 7, 7, body);
      if (stripe !== body) sheet.fill(x + 2.4, top + 1.5, 2.2, 7, stripe);
      sheet.frames([[x, top + 1.5, 7, 7]], 0.6);
      sheet.text(text, x + 10, top + 1, MONO);
      return;
    }
    const look = lookOf(column);
    const y = column.kind === "mono" ? top + 1 : top;
    if (sheet.heightOf(text, width, look) > look.size * LINE) sheet.paragraph(text, x, y, width, look);
    else sheet.text(text, x, y, look, column.kind === "figures" ? width : undefined);
  }
}

function lookOf({ kind }: PaperColumn): Look {
  return kind === "mono" ? MONO : BODY;
}
