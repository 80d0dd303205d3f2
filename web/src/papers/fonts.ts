import headUrl from "@fontsource/archivo-narrow/files/archivo-narrow-latin-700-normal.woff?url";
import bodyUrl from "@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url";
import boldUrl from "@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url";
import monoUrl from "@fontsource/b612-mono/files/b612-mono-latin-400-normal.woff?url";
import monoBoldUrl from "@fontsource/b612-mono/files/b612-mono-latin-700-normal.woff?url";
import wideUrl from "dejavu-fonts-ttf/ttf/DejaVuSans.ttf?url";
import wideBoldUrl from "dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf?url";

/** Faces of a printed paper: headings, text, what stands beside terminals, and a wide one for letters that these lack. */
export type Face = "Head" | "Body" | "Mono" | "Wide";

/** Where the files of each face are: plain, and bold. */
export const FACES: Record<Face, [plain: string, bold: string]> = {
  Head: [headUrl, headUrl],
  Body: [bodyUrl, boldUrl],
  Mono: [monoUrl, monoBoldUrl],
  Wide: [wideUrl, wideBoldUrl],
};

/** Letters that the files of the house's faces hold: Latin of western Europe, and signs of print. */
const LATIN = /^[ -~ -ÿ–—‘’“”…€−]*$/;

/** The face in which a text can be set: the wanted one, or the wide one for letters that it lacks. */
export function faceFor(text: string, wanted: Face): Face {
  return LATIN.test(text) ? wanted : "Wide";
}
