import {
  LABEL_LINE,
  labelArea,
  MARGIN,
  type Paper,
  type PaperCell,
  type PaperColumn,
  type PaperPart,
  type PaperSize,
  type PaperTable,
  type PlacedLabel,
  type PlacedLabels,
  settingOf,
  type WireColour,
} from "@alderman/core";
import type { CanvasElement, Content, CustomTableLayout, TableCell, TDocumentDefinitions } from "pdfmake/interfaces";
import QRCode from "qrcode";
import { type Face, faceFor } from "./fonts.ts";
import { inkPair } from "./inks.ts";

/** What is printed at the edges of every page. */
export interface PaperHead {
  railway: string;
  /** As the owner's locale writes it. */
  date: string;
  size: PaperSize;
}

/** Points for a millimetre: a point is 1/72 in. */
const POINT = 72 / 25.4;
const points = (millimetres: number): number => millimetres * POINT;

/** Edge of the page that stays white, millimetres. */
const EDGE = { side: 14, top: 20, bottom: 16 };
const INK = "#15213a";
const QUIET = "#465067";
const RULE = "#b9b09c";
const SIZE = 8.5;

/** A paper as the package for PDF takes it. Labels lie where their sheet has them, to a tenth of a millimetre, with nothing else on the page. */
export function pdfDefinition(paper: Paper, head: PaperHead): TDocumentDefinitions {
  const info = { title: `${head.railway}: ${paper.title}`, author: "Alderman" };
  const labels = paper.parts.find((part) => part.kind === "labels");
  const plain = { info, defaultStyle: { font: "Body", fontSize: SIZE, color: INK } };
  if (labels) {
    const { width, height } = labels.sheet.paper;
    return {
      ...plain,
      pageSize: { width: points(width), height: points(height) },
      pageMargins: 0,
      content: labelContent(labels),
    };
  }
  const { width, height } = head.size;
  const inside = width - 2 * EDGE.side;
  return {
    ...plain,
    pageSize: { width: points(width), height: points(height) },
    pageMargins: [points(EDGE.side), points(EDGE.top), points(EDGE.side), points(EDGE.bottom)],
    header: {
      margin: [points(EDGE.side), points(9), points(EDGE.side), 0],
      columns: [
        said(paper.title, "Head", { fontSize: 14 }),
        said(`${head.railway}, ${head.date}`, "Body", { alignment: "right", color: QUIET, margin: [0, 4, 0, 0] }),
      ],
    },
    footer: (page, pages) => ({
      margin: [points(EDGE.side), points(5), points(EDGE.side), 0],
      ...said(`${page} of ${pages}`, "Body", { alignment: "right", color: QUIET }),
    }),
    content: onPages(paper.parts, points(height - EDGE.top - EDGE.bottom)).map((part) =>
      contentOf(part, points(inside)),
    ),
  };
}

/** Height of a row of one line, and of a heading, points. */
const ROW_HEIGHT = SIZE * 1.2 + 3.5;
const HEADING_HEIGHT = 28;

function heightOf(part: PaperPart): number {
  return part.kind === "table" ? (part.rows.length + 1) * ROW_HEIGHT : ROW_HEIGHT;
}

/**
 * Parts with pages begun where what stands below a heading would not fit on what is left of one; by rows of one line, since
 * letting the package find out takes as long again.
 */
function onPages(parts: readonly PaperPart[], page: number): PaperPart[] {
  let used = 0;
  return parts.map((part, index) => {
    if (part.kind !== "heading") {
      used += heightOf(part);
      return part;
    }
    const next = parts.findIndex(({ kind }, at) => at > index && kind === "heading");
    const below = parts.slice(index + 1, next < 0 ? undefined : next);
    const needed = below.reduce((sum, each) => sum + heightOf(each), HEADING_HEIGHT);
    const left = page - (used % page);
    const begins = part.page || (index > 0 && needed > left && needed <= page);
    used = begins ? HEADING_HEIGHT : used + HEADING_HEIGHT;
    return { ...part, page: begins };
  });
}

interface Looks {
  fontSize?: number;
  bold?: boolean;
  color?: string;
  alignment?: "left" | "right" | "center";
  noWrap?: boolean;
  margin?: [number, number, number, number];
}

/** A text in its face. */
function said(text: string, face: Face, looks: Looks = {}) {
  return { text, font: faceFor(text, face), ...looks };
}

function contentOf(part: PaperPart, width: number): Content {
  switch (part.kind) {
    case "heading": {
      const { text, about, page } = part;
      const words = [
        said(text, "Head", { fontSize: 12 }),
        said(about === "" ? "" : `  ${about}`, "Body", { color: QUIET }),
      ];
      return { text: words, margin: [0, 8, 0, 3], headlineLevel: 1, ...(page ? { pageBreak: "before" } : {}) };
    }
    case "text":
      return said(part.text, "Body", { margin: [0, 4, 0, 4] });
    case "table":
      return tableContent(part, width);
    case "labels":
      return [];
  }
}

/** Room beside the text of a cell, points. */
const PAD = 2.5;

/** Hairlines under rows, none between columns. */
const LAYOUT: CustomTableLayout = {
  hLineWidth: (line, { table }) => (line === 0 ? 0 : line === 1 || line === table.body.length ? 0.8 : 0.3),
  vLineWidth: () => 0,
  hLineColor: (line) => (line === 1 ? INK : RULE),
  paddingLeft: (column) => (column === 0 ? 0 : PAD),
  paddingRight: () => PAD,
  paddingTop: () => 1.6,
  paddingBottom: () => 1.6,
};

function tableContent({ columns, rows }: PaperTable, width: number): Content {
  const shares = columns.reduce((sum, { share }) => sum + share, 0);
  const free = width - (2 * columns.length - 1) * PAD;
  const widths = columns.map(({ share }) => (free * share) / shares);
  const head = columns.map(({ title, kind }, index): TableCell => {
    if (kind === "boxes") return boxHeads(title.split(" "), widths[index] ?? 0);
    return said(title, "Head", { color: QUIET, alignment: kind === "figures" ? "right" : "left" });
  });
  return {
    layout: LAYOUT,
    margin: [0, 0, 0, 6],
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths,
      body: [
        head,
        ...rows.map((row) => columns.map((column, index) => cellContent(column, row[index] ?? "", widths[index] ?? 0))),
      ],
    },
  };
}

function cellContent({ kind }: PaperColumn, cell: PaperCell, width: number): TableCell {
  if (typeof cell === "boolean") return { canvas: box(cell, 0) };
  if (typeof cell === "object")
    return { canvas: cell.flatMap((isTicked, index) => box(isTicked, (index * width) / cell.length)) };
  const text = String(cell);
  switch (kind) {
    case "figures":
      return said(text, "Body", { alignment: "right" });
    case "mono":
      return said(text, "Mono", { fontSize: SIZE - 1 });
    case "colour":
      return text === "" ? "" : swatch(text as WireColour);
    default:
      return said(text, "Body");
  }
}

/** Words above boxes that stand in a row. */
function boxHeads(titles: readonly string[], width: number): TableCell {
  const looks = { color: QUIET, fontSize: SIZE - 1.5, noWrap: true };
  return { columns: titles.map((title) => ({ width: width / titles.length, ...said(title, "Head", looks) })) };
}

/** A square to tick, or a ticked one. @param x from the left of its cell, points */
function box(isTicked: boolean, x: number): CanvasElement[] {
  const square = { type: "rect" as const, x: x + 0.5, y: 1, w: 7.5, h: 7.5, lineWidth: 0.7, lineColor: INK };
  const tick = {
    type: "polyline" as const,
    points: [
      { x: x + 2, y: 5 },
      { x: x + 3.8, y: 7 },
      { x: x + 6.8, y: 2.5 },
    ],
    lineWidth: 1.1,
    lineColor: INK,
  };
  return isTicked ? [square, tick] : [square];
}

/** A wire's colour as a square with its code. */
function swatch(colour: WireColour): TableCell {
  const [body, stripe] = inkPair(colour);
  const square = { type: "rect" as const, x: 0, y: 1.5, w: 7, h: 7, lineWidth: 0.6, lineColor: INK };
  const mark =
    stripe === body ? [] : [{ type: "rect" as const, x: 2.4, y: 1.5, w: 2.2, h: 7, lineWidth: 0, color: stripe }];
  return {
    columns: [
      { width: 10, canvas: [{ ...square, color: body }, ...mark] },
      { width: "*", ...said(colour, "Mono", { fontSize: SIZE - 1 }) },
    ],
  };
}

function labelContent({ sheet, style, labels }: PlacedLabels): Content[] {
  const content: Content[] = [];
  let page = 0;
  for (const label of labels) {
    for (; page < label.page; page++) content.push({ text: "", pageBreak: "before" });
    const setting = settingOf(label, sheet, style);
    const halves = style === "flag" ? [0, sheet.width / 2] : [0];
    for (const half of halves) content.push(...textOf(label, setting.lines, half));
    if (style === "flag") content.push(fold(label.x + sheet.width / 2, label.y, sheet.height));
  }
  return content;

  /** The text of a label, or of one half of it, in the middle of its height. */
  function textOf(
    { x, y, code }: PlacedLabel,
    lines: readonly { text: string; size: number }[],
    from: number,
  ): Content[] {
    const area = labelArea(sheet, style, code !== null);
    const height = lines.reduce((sum, { size }) => sum + size * LABEL_LINE, 0);
    let top = y + MARGIN + (area.height - height) / 2;
    const left = x + from + MARGIN + (code === null ? 0 : area.code + MARGIN);
    const set = lines.map(({ text, size }, index): Content => {
      const at = { x: points(left), y: points(top) };
      top += size * LABEL_LINE;
      return {
        ...said(text, "Mono", { fontSize: points(size), bold: index === 0 }),
        lineHeight: 1,
        noWrap: true,
        absolutePosition: at,
      };
    });
    if (code === null) return set;
    const at = { x: points(x + from + MARGIN), y: points(y + MARGIN + (area.height - area.code) / 2) };
    return [...set, { canvas: codeDots(code, points(area.code)), absolutePosition: at }];
  }
}

/** Two short strokes where a flag is folded round the wire. */
function fold(x: number, y: number, height: number): Content {
  const stroke = (from: number, to: number) => ({
    ...{ type: "line" as const, x1: 0, x2: 0, y1: points(from), y2: points(to) },
    ...{ lineWidth: 0.4, lineColor: RULE },
  });
  return {
    canvas: [stroke(0, 1), stroke(height - 1, height)],
    absolutePosition: { x: points(x), y: points(y) },
  };
}

/** A QR code as filled rectangles, those beside each other as one. @param side of the whole code, points */
function codeDots(text: string, side: number): CanvasElement[] {
  const { size, data } = QRCode.create(text, { errorCorrectionLevel: "L" }).modules;
  const dot = side / size;
  const dots: CanvasElement[] = [];
  for (let row = 0; row < size; row++) {
    for (let from = 0, to = 0; from < size; from = to + 1) {
      for (to = from; to < size && data[row * size + to]; to++);
      if (to > from)
        dots.push({
          type: "rect",
          x: from * dot,
          y: row * dot,
          w: (to - from) * dot,
          h: dot,
          lineWidth: 0,
          color: "#000000",
        });
    }
  }
  return dots;
}
