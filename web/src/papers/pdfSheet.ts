import PDFDocument from "pdfkit";
import { type Face, faceFor } from "./fonts.ts";

/** Points for a millimetre: a point is 1/72 in. */
const POINT = 72 / 25.4;
export const points = (millimetres: number): number => millimetres * POINT;

export const INK = "#15213a";
export const QUIET = "#465067";
export const RULE = "#b9b09c";

/** How a text is set. */
export interface Look {
  face: Face;
  bold?: boolean;
  /** Points. */
  size: number;
  colour?: string;
}

/** A width that no letters of a text of so many can pass, as a share of their size: nothing narrower is measured. */
const WIDEST = 0.75;

/** A PDF file in the making: what is drawn on its pages is in points, from the left and the top. */
export class PdfSheet {
  private readonly doc: PDFKit.PDFDocument;
  private readonly chunks: Uint8Array[] = [];
  private readonly done: Promise<void>;
  private font = "";
  private size = 0;
  private colour = "";

  /** @param fonts the files of plain and bold faces that texts may need */
  constructor(
    title: string,
    readonly width: number,
    readonly height: number,
    fonts: ReadonlyMap<Face, readonly [plain: Uint8Array, bold: Uint8Array]>,
  ) {
    this.doc = new PDFDocument({
      // none of the standard fonts: every text has its face
      ...{ size: [width, height], margin: 0, autoFirstPage: false, bufferPages: true, font: "" },
      info: { Title: title, Author: "Alderman" },
    });
    for (const [face, [plain, bold]] of fonts) {
      this.doc.registerFont(face, plain);
      this.doc.registerFont(`${face} bold`, bold);
    }
    this.doc.on("data", (chunk: Uint8Array) => this.chunks.push(chunk));
    this.done = new Promise((end) => this.doc.on("end", end));
  }

  addPage(): void {
    this.doc.addPage();
    this.forget();
  }

  /** Does something on every page. @param draw gets the page's number, and how many there are */
  onEachPage(draw: (page: number, pages: number) => void): void {
    const { start, count } = this.doc.bufferedPageRange();
    for (let page = 0; page < count; page++) {
      this.doc.switchToPage(start + page);
      this.forget();
      draw(page + 1, count);
    }
  }

  /** Draws what lies within a box, and nothing of what lies outside it. */
  within(x: number, y: number, width: number, height: number, draw: () => void): void {
    this.doc.save();
    this.doc.rect(x, y, width, height).clip();
    draw();
    this.doc.restore();
    this.forget();
  }

  /** A text in one line. @param y of the top of its line @param width that it is set to the right of */
  text(text: string, x: number, y: number, look: Look, width?: number): void {
    if (text === "") return;
    this.use(text, look);
    const left = width === undefined ? x : x + width - this.doc.widthOfString(text);
    this.doc.text(text, left, y, { lineBreak: false });
  }

  /** A text broken into lines. */
  paragraph(text: string, x: number, y: number, width: number, look: Look, align: "left" | "right" = "left"): void {
    this.use(text, look);
    this.doc.text(text, x, y, { width, align });
  }

  /** How high a text is in a width. */
  heightOf(text: string, width: number, look: Look): number {
    if (text.length * look.size * WIDEST <= width) return look.size * LINE;
    this.use(text, look);
    if (this.doc.widthOfString(text) <= width) return look.size * LINE;
    return this.doc.heightOfString(text, { width });
  }

  /** How wide a text is in one line. */
  widthOf(text: string, look: Look): number {
    this.use(text, look);
    return this.doc.widthOfString(text);
  }

  /** Lines along points, all in one stroke. */
  strokes(lines: readonly (readonly [x: number, y: number][])[], width: number, colour: string): void {
    if (lines.length === 0) return;
    for (const [first, ...others] of lines) {
      if (first) this.doc.moveTo(...first);
      for (const point of others) this.doc.lineTo(...point);
    }
    this.doc.lineWidth(width).stroke(colour);
  }

  /** Squares and rectangles, all in one stroke. */
  frames(boxes: readonly (readonly [x: number, y: number, width: number, height: number])[], width: number): void {
    if (boxes.length === 0) return;
    for (const box of boxes) this.doc.rect(...box);
    this.doc.lineWidth(width).stroke(INK);
  }

  /** A filled shape, with an outline where that has a width. */
  shape(corners: readonly (readonly [x: number, y: number])[], fill: string, outline: number): void {
    const [first, ...others] = corners;
    if (!first) return;
    this.doc.moveTo(...first);
    for (const corner of others) this.doc.lineTo(...corner);
    this.doc.closePath();
    if (outline > 0) this.doc.lineWidth(outline).fillAndStroke(fill, INK);
    else this.doc.fill(fill);
    this.colour = "";
  }

  circle(x: number, y: number, radius: number, width: number): void {
    this.doc.circle(x, y, radius).lineWidth(width).fillAndStroke("#ffffff", INK);
    this.colour = "";
  }

  fill(x: number, y: number, width: number, height: number, colour: string): void {
    this.doc.rect(x, y, width, height).fill(colour);
    this.colour = "";
  }

  async end(): Promise<Uint8Array> {
    this.doc.end();
    await this.done;
    const bytes = new Uint8Array(this.chunks.reduce((sum, { length }) => sum + length, 0));
    let at = 0;
    for (const chunk of this.chunks) {
      bytes.set(chunk, at);
      at += chunk.length;
    }
    return bytes;
  }

  /** Sets font, size and colour, where they are not set so. */
  private use(text: string, { face, bold = false, size, colour = INK }: Look): void {
    const font = `${faceFor(text, face)}${bold ? " bold" : ""}`;
    if (font !== this.font) this.doc.font(font);
    if (size !== this.size) this.doc.fontSize(size);
    if (colour !== this.colour) this.doc.fillColor(colour);
    this.font = font;
    this.size = size;
    this.colour = colour;
  }

  /** A page begins with nothing set. */
  private forget(): void {
    this.font = "";
    this.size = 0;
    this.colour = "";
  }
}

/** From one line to the next, as a share of the size. */
export const LINE = 1.2;
