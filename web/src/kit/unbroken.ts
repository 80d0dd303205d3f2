const BETWEEN = /(?<=\d) (?=(?:[mk]?A|[mk]?V|m?W|m?J|[kM]?ohm|m?s|[cm]?m|mm2|uF|mH|K|Hz|%)(?![A-Za-z0-9]))/g;

/** A sentence in which no line ends between a number and its unit. */
export function unbroken(text: string): string {
  return text.replace(BETWEEN, "\u00a0");
}
