import { PAPER_SIZES, type PaperSize } from "./paperSizes.ts";

/** A sheet of labels by its measures, millimetres. */
export interface LabelSheet {
  id: string;
  name: string;
  paper: PaperSize;
  columns: number;
  rows: number;
  /** Size of one label. */
  width: number;
  height: number;
  /** From the edges of the paper to the first label. */
  left: number;
  top: number;
  /** From the beginning of one label to that of the next. */
  across: number;
  down: number;
}

const { A4, Letter: LETTER } = PAPER_SIZES;

/**
 * Sheets of labels of common sizes: how many on a sheet, and their size; measures as printed on the packets of many makers
 * (common practice), from memory. A test print on plain paper, held against the sheet, tells whether they are right.
 */
export const LABEL_SHEETS: readonly LabelSheet[] = [
  // 5 x 13 of 38.1 x 21.2 mm
  sheet("a4-65", "A4, 65 of 38.1 x 21.2 mm", A4, 5, 13, 38.1, 21.2, 4.75, 10.7, 40.6, 21.2),
  // 7 x 27 of 25.4 x 10 mm
  sheet("a4-189", "A4, 189 of 25.4 x 10 mm", A4, 7, 27, 25.4, 10, 8.5, 13.5, 27.9, 10),
  // 3 x 8 of 70 x 37 mm
  sheet("a4-24", "A4, 24 of 70 x 37 mm", A4, 3, 8, 70, 37, 0, 0.5, 70, 37),
  // 4 x 12 of 45.7 x 21.2 mm
  sheet("a4-48", "A4, 48 of 45.7 x 21.2 mm", A4, 4, 12, 45.7, 21.2, 9.85, 21.6, 48.2, 21.2),
  // 3 x 10 of 2 5/8 x 1 in
  sheet("letter-30", "Letter, 30 of 2 5/8 x 1 in", LETTER, 3, 10, 66.675, 25.4, 4.7625, 12.7, 69.85, 25.4),
  // 4 x 20 of 1 3/4 x 1/2 in
  sheet("letter-80", "Letter, 80 of 1 3/4 x 1/2 in", LETTER, 4, 20, 44.45, 12.7, 7.62, 12.7, 52.07, 12.7),
];

function sheet(
  id: string,
  name: string,
  paper: PaperSize,
  columns: number,
  rows: number,
  width: number,
  height: number,
  left: number,
  top: number,
  across: number,
  down: number,
): LabelSheet {
  return { id, name, paper, columns, rows, width, height, left, top, across, down };
}

/** Rounding that sums of millimetres may have. */
const HAIR = 0.001;

/** Why labels of a sheet would not lie on its paper beside each other; empty when they do. */
export function faultsOfSheet(sheet: LabelSheet): string[] {
  const { paper, columns, rows, width, height, left, top, across, down } = sheet;
  const faults: string[] = [];
  const say = (isWrong: boolean, words: string) => isWrong && faults.push(words);
  say(!(Number.isInteger(columns) && columns >= 1), "There must be at least one label across.");
  say(!(Number.isInteger(rows) && rows >= 1), "There must be at least one label down.");
  say(!(width >= LEAST && height >= LEAST), `A label must be at least ${LEAST} mm wide and high.`);
  say(!(left >= 0 && top >= 0), "The first label cannot begin outside the paper.");
  say(columns > 1 && !(across >= width - HAIR), `Labels ${width} mm wide cannot begin every ${across} mm.`);
  say(rows > 1 && !(down >= height - HAIR), `Labels ${height} mm high cannot begin every ${down} mm.`);
  if (faults.length > 0) return faults;
  const right = left + (columns - 1) * across + width;
  const bottom = top + (rows - 1) * down + height;
  say(
    right > paper.width + HAIR,
    `${columns} labels end ${mm(right)} from the left, but the paper is ${mm(paper.width)} wide.`,
  );
  say(
    bottom > paper.height + HAIR,
    `${rows} labels end ${mm(bottom)} from the top, but the paper is ${mm(paper.height)} high.`,
  );
  return faults;
}

/** A label is not smaller, millimetres. */
const LEAST = 4;

function mm(value: number): string {
  return `${Math.round(value * 10) / 10} mm`;
}

/** flag: folded round the wire and stuck to itself, so that both sides say the same. wrap: wound round the wire. */
export type LabelStyle = "flag" | "wrap";

/** What is on one label. */
export interface LabelText {
  /** What is written, as "W17 to K1-5": its first word large, the rest below it. */
  text: string;
  /** What its QR code holds; null without one. */
  code: string | null;
}

export interface PlacedLabel extends LabelText {
  page: number;
  /** Corner of the label from the left and the top of its page, millimetres. */
  x: number;
  y: number;
}

/** Labels where they lie on their sheets. */
export interface PlacedLabels {
  kind: "labels";
  sheet: LabelSheet;
  style: LabelStyle;
  labels: PlacedLabel[];
}

/**
 * Labels on sheets, row by row.
 * @param used labels that are gone from the first sheet already
 * @throws {RangeError} when the sheet's measures contradict each other
 */
export function placeLabels(sheet: LabelSheet, style: LabelStyle, texts: readonly LabelText[], used = 0): PlacedLabels {
  const [fault] = faultsOfSheet(sheet);
  if (fault) throw new RangeError(`Sheet "${sheet.name}": ${fault}`);
  const { columns, rows, left, top, across, down } = sheet;
  const perSheet = columns * rows;
  const labels = texts.map((text, index): PlacedLabel => {
    const at = index + (used % perSheet);
    const place = at % perSheet;
    return {
      ...text,
      page: Math.floor(at / perSheet),
      x: left + (place % columns) * across,
      y: top + Math.floor(place / columns) * down,
    };
  });
  return { kind: "labels", sheet, style, labels };
}

/** Width of a character of a typewriter face, by its height (B612 Mono, as its file says). */
const CHARACTER = 0.65;
/** Height of a line by the height of its characters. */
export const LABEL_LINE = 1.215;
/** Free at each edge of a label, millimetres: printers are not exact. */
export const MARGIN = 1.2;
/** Smaller is not read under a layout, millimetres (about 5 points). */
export const LEAST_TYPE = 1.75;
/** Larger than this is of no more use, millimetres. */
const MOST_TYPE = 4.5;

/** A second line of the usual length. */
const USUAL_SECOND = "to P1-12";

/** How the text of a label is set: its lines with their heights, millimetres, in half the label for a flag. */
export interface LabelSetting {
  lines: { text: string; size: number }[];
  /** Whether everything on it can be read. */
  isReadable: boolean;
}

/** The part of a label that its text may fill, millimetres. A flag has its fold in the middle of its width. */
export function labelArea({ width, height }: LabelSheet, style: LabelStyle, hasCode: boolean) {
  const half = style === "flag" ? width / 2 : width;
  const code = hasCode ? Math.min(height - 2 * MARGIN, half / 2) : 0;
  return { width: half - 2 * MARGIN - (hasCode ? code + MARGIN : 0), height: height - 2 * MARGIN, code };
}

/** Bytes that the smallest QR codes hold at error correction L, and dots on a side of each; ISO/IEC 18004. */
const CODES: readonly [bytes: number, dots: number][] = [
  [17, 21],
  [32, 25],
  [53, 29],
  [78, 33],
  [106, 37],
  [134, 41],
];
/** A dot that is smaller is not read by a telephone, millimetres (common practice). */
const LEAST_DOT = 0.3;

/** Whether a telephone reads a label's QR code at the size that it gets; so it does when there is none. */
export function isCodeReadable({ code }: LabelText, sheet: LabelSheet, style: LabelStyle): boolean {
  if (code === null) return true;
  // each escape is a byte of UTF-8
  const bytes = encodeURIComponent(code).replace(/%../g, "x").length;
  const dots = CODES.find(([most]) => bytes <= most)?.[1] ?? Number.POSITIVE_INFINITY;
  return labelArea(sheet, style, true).code / dots >= LEAST_DOT;
}

/**
 * Sets a label's text: the name of the wire and where its other end is, as large as they fit, on two lines or, where that
 * is larger, on one.
 */
export function settingOf({ text, code }: LabelText, sheet: LabelSheet, style: LabelStyle): LabelSetting {
  const { width, height } = labelArea(sheet, style, code !== null);
  const fit = (line: string, lines: number) =>
    Math.min(width / (CHARACTER * line.length), height / lines / LABEL_LINE, MOST_TYPE);
  const [first = "", ...rest] = text.split(" ");
  const second = rest.join(" ");
  const one = fit(text, 1);
  const lines =
    second === "" || one >= fit(second, 2)
      ? [{ text, size: one }]
      : [
          { text: first, size: fit(first, 2) },
          // the second lines of a sheet are alike, unless one is longer than most
          { text: second, size: Math.min(fit(second, 2), fit(USUAL_SECOND, 2)) },
        ];
  return { lines, isReadable: lines.every(({ size }) => size >= LEAST_TYPE) };
}
