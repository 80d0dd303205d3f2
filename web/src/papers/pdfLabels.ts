import { LABEL_LINE, labelArea, MARGIN, type PlacedLabel, type PlacedLabels, settingOf } from "@alderman/core";
import QRCode from "qrcode";
import { type PdfSheet, points, RULE } from "./pdfSheet.ts";

/** Labels where their sheet has them, to a tenth of a millimetre, with nothing else on the page. */
export function drawLabels(pdf: PdfSheet, { sheet, style, labels }: PlacedLabels): void {
  let page = -1;
  for (const label of labels) {
    for (; page < label.page; page++) pdf.addPage();
    const { lines } = settingOf(label, sheet, style);
    const halves = style === "flag" ? [0, sheet.width / 2] : [0];
    for (const from of halves) half(label, lines, from);
    if (style === "flag") fold(label);
  }
  if (page < 0) pdf.addPage();

  /** The text of a label, or of one half of it, in the middle of its height, with its code before it. */
  function half({ x, y, code }: PlacedLabel, lines: readonly { text: string; size: number }[], from: number): void {
    const area = labelArea(sheet, style, code !== null);
    const height = lines.reduce((sum, { size }) => sum + size * LABEL_LINE, 0);
    let top = y + MARGIN + (area.height - height) / 2;
    const left = x + from + MARGIN + (code === null ? 0 : area.code + MARGIN);
    for (const [index, { text, size }] of lines.entries()) {
      pdf.text(text, points(left), points(top), { face: "Mono", size: points(size), bold: index === 0 });
      top += size * LABEL_LINE;
    }
    if (code !== null)
      drawCode(
        pdf,
        code,
        points(x + from + MARGIN),
        points(y + MARGIN + (area.height - area.code) / 2),
        points(area.code),
      );
  }

  /** Two short strokes where a flag is folded round the wire. */
  function fold({ x, y }: PlacedLabel): void {
    const middle = points(x + sheet.width / 2);
    const stroke = (from: number, to: number): [number, number][] => [
      [middle, points(y + from)],
      [middle, points(y + to)],
    ];
    pdf.strokes([stroke(0, 1), stroke(sheet.height - 1, sheet.height)], 0.4, RULE);
  }
}

/** A QR code as filled rectangles, those beside each other as one. @param side of the whole code, points */
function drawCode(pdf: PdfSheet, text: string, x: number, y: number, side: number): void {
  const { size, data } = QRCode.create(text, { errorCorrectionLevel: "L" }).modules;
  const dot = side / size;
  for (let row = 0; row < size; row++) {
    for (let from = 0, to = 0; from < size; from = to + 1) {
      for (to = from; to < size && data[row * size + to]; to++);
      if (to > from) pdf.fill(x + from * dot, y + row * dot, (to - from) * dot, dot, "#000000");
    }
  }
}
