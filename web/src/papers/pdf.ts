import type { Paper } from "@alderman/core";
import { FACES, type Face, faceFor } from "./fonts.ts";
import { drawLabels } from "./pdfLabels.ts";
import { drawParts, type PaperHead } from "./pdfParts.ts";
import { PdfSheet, points } from "./pdfSheet.ts";

/** Reads a font's file by where it is. */
export type LoadFont = (url: string) => Promise<Uint8Array>;

const loaded = new Map<Face, readonly [Uint8Array, Uint8Array]>();

/**
 * A paper as a PDF file.
 * @param load reads a font's file; a face that no text needs is not read
 */
export async function pdfOf(paper: Paper, head: PaperHead, load: LoadFont): Promise<Uint8Array> {
  for (const face of ["Head", "Body", "Mono"] as const) await provide(face, load);
  const text = JSON.stringify([paper, head.railway, head.date]);
  if (faceFor(text, "Body") === "Wide") await provide("Wide", load);
  const labels = paper.parts.find((part) => part.kind === "labels");
  const { width, height } = labels?.sheet.paper ?? head.size;
  const sheet = new PdfSheet(`${head.railway}: ${paper.title}`, points(width), points(height), loaded);
  if (labels) drawLabels(sheet, labels);
  else drawParts(sheet, paper, head);
  return sheet.end();
}

async function provide(face: Face, load: LoadFont): Promise<void> {
  if (loaded.has(face)) return;
  const [plain, bold] = FACES[face];
  const first = await load(plain);
  loaded.set(face, [first, bold === plain ? first : await load(bold)]);
}
