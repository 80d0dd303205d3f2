import { Derived, PAPERS, type Paper, type PaperOptions, type RailwayRecord } from "@alderman/core";
import { expose, transfer } from "comlink";
import type { PaperHead } from "./pdfParts.ts";

const load = async (url: string) => {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`The font ${url} could not be read.`);
  return new Uint8Array(await answer.arrayBuffer());
};

/** A paper, or the sentence that says why it could not be made. */
export type Made = { paper: Paper } | { refused: string };

let begun: { derived: Derived; options: PaperOptions } | null = null;

/** Making papers takes its time: it has threads of its own, which can be stopped at any moment. */
const worker = {
  /** Works out what the papers of a railway are made from. */
  begin(record: RailwayRecord, options: PaperOptions): void {
    begun = { derived: new Derived(record), options };
  },

  /** Makes one paper of the railway that was begun with. */
  paper(id: string): Made {
    const kind = PAPERS.find((each) => each.id === id);
    if (!begun || !kind) throw new Error(`There is no paper "${id}" to make.`);
    try {
      return { paper: kind.make(begun.derived, begun.options) };
    } catch (error) {
      if (error instanceof RangeError) return { refused: `${kind.title}: ${error.message}` };
      throw error;
    }
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
