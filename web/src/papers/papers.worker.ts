import { Derived, PAPERS, type Paper, type PaperOptions, type RailwayRecord } from "@alderman/core";
import { expose, transfer } from "comlink";
import type { PaperHead } from "./pdfDefinition.ts";

const load = async (url: string) => {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`The font ${url} could not be read.`);
  return new Uint8Array(await answer.arrayBuffer());
};

/** A paper, or the sentence that says why it could not be made. */
export type Made = { paper: Paper } | { refused: string };

/** Making papers takes its time: it has a thread of its own, which can be stopped at any moment. */
const worker = {
  /** @param tell how much of all is made, 0 to 1, and what is being made */
  make(
    record: RailwayRecord,
    ids: readonly string[],
    options: PaperOptions,
    tell: (share: number, what: string) => void,
  ): Made[] {
    const wanted = PAPERS.filter(({ id }) => ids.includes(id));
    tell(0, "Working the railway out");
    const derived = new Derived(record);
    return wanted.map(({ title, make }, index) => {
      tell((index + 0.5) / (wanted.length + 1), title);
      try {
        return { paper: make(derived, options, () => {}) };
      } catch (error) {
        if (error instanceof RangeError) return { refused: `${title}: ${error.message}` };
        throw error;
      }
    });
  },

  async pdf(paper: Paper, head: PaperHead): Promise<Uint8Array> {
    const { pdfOf } = await import("./pdf.ts");
    const bytes = await pdfOf(paper, head, load);
    return transfer(bytes, [bytes.buffer]);
  },

  async xlsx(papers: readonly Paper[]): Promise<Uint8Array> {
    const { xlsxOf } = await import("./xlsx.ts");
    const bytes = await xlsxOf(papers);
    return transfer(bytes, [bytes.buffer]);
  },
};

export type PapersWorker = typeof worker;
expose(worker);
