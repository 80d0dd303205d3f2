/** What somebody typed with one blank wherever there are several, none at its ends. */
export function singleBlanks(text: string): string {
  return text.trim().replaceAll(/\s+/g, " ");
}
