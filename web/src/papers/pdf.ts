import type { Paper } from "@alderman/core";
import pdfMake from "pdfmake/build/pdfmake.js";
import { FACES, type Face } from "./fonts.ts";
import { type PaperHead, pdfDefinition } from "./pdfDefinition.ts";

/** Reads a font's file by where it is. */
export type LoadFont = (url: string) => Promise<Uint8Array>;

// nothing is ever fetched for a paper but the program's own fonts
pdfMake.setUrlAccessPolicy(() => false);

// the package's types leave out where its files are kept
const { virtualfs } = pdfMake as unknown as {
  virtualfs: { writeFileSync: (name: string, content: Uint8Array) => void };
};

const loaded = new Set<string>();

/**
 * A paper as a PDF file.
 * @param load reads a font's file; a face that no text needs is not read
 */
export async function pdfOf(paper: Paper, head: PaperHead, load: LoadFont): Promise<Uint8Array> {
  const definition = pdfDefinition(paper, head);
  const text = JSON.stringify(definition);
  const faces = (Object.keys(FACES) as Face[]).filter((face) => text.includes(`"font":"${face}"`));
  for (const face of new Set<Face>([...faces, "Head", "Body"])) await provide(face, load);
  return new Uint8Array(await pdfMake.createPdf(definition).getBuffer());
}

async function provide(face: Face, load: LoadFont): Promise<void> {
  if (loaded.has(face)) return;
  const files = FACES[face].map((url, index) => ({ name: `${face}-${index}`, url }));
  for (const { name, url } of files) virtualfs.writeFileSync(name, await load(url));
  const [normal = "", bold = ""] = files.map(({ name }) => name);
  pdfMake.addFonts({ [face]: { normal, bold, italics: normal, bolditalics: bold } });
  loaded.add(face);
}
