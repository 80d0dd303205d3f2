import { lean, type Paper, type PaperOptions, type RailwayRecord } from "@alderman/core";
import { proxy, type Remote, wrap } from "comlink";
import type { Made, PapersWorker } from "./papers.worker.ts";
import type { PaperHead } from "./pdfDefinition.ts";

type Thread = Pick<Worker, "postMessage" | "addEventListener" | "removeEventListener" | "terminate">;

const startThread = (): Thread => new Worker(new URL("./papers.worker.ts", import.meta.url), { type: "module" });

/** Threads that set papers side by side: more than there are papers or processors do nothing. */
const MOST_THREADS = 4;

/** A file that was made. */
export interface PaperFile {
  name: string;
  type: string;
  bytes: Uint8Array;
}

/** Papers that are being made and can be stopped: stopping ends the threads, so that nothing comes of it. */
export class PaperWork {
  private readonly threads: { thread: Thread; remote: Remote<PapersWorker> }[] = [];
  private readonly died: Promise<never>;
  private fail: (error: Error) => void = () => {};

  constructor(private readonly start: () => Thread = startThread) {
    this.died = new Promise<never>((_, reject) => {
      this.fail = reject;
    });
    // nobody may be waiting when a thread ends
    this.died.catch(() => {});
  }

  /** @param tell how much is made, 0 to 1, and what is being made */
  make(
    record: RailwayRecord,
    ids: readonly string[],
    options: PaperOptions,
    tell: (share: number, what: string) => void,
  ): Promise<Made[]> {
    const light = { ...lean(record, ["plan", "proof"]), stocks: record.stocks };
    return this.orDied(this.remote(0).make(light, [...ids], options, proxy(tell)));
  }

  /** Each paper as a PDF file of its own, several at a time. */
  async pdfs(papers: readonly Paper[], head: PaperHead, tell: (done: number) => void): Promise<PaperFile[]> {
    const files: PaperFile[] = [];
    let next = 0;
    let done = 0;
    const work = async (thread: number) => {
      for (let index = next++; index < papers.length; index = next++) {
        const paper = papers[index] as Paper;
        const bytes = await this.orDied(this.remote(thread).pdf(paper, head));
        files[index] = { name: `${paper.id}.pdf`, type: "application/pdf", bytes };
        tell(++done);
      }
    };
    const count = Math.min(MOST_THREADS, papers.length, globalThis.navigator?.hardwareConcurrency ?? 1);
    await Promise.all(Array.from({ length: count }, (_, thread) => work(thread)));
    return files;
  }

  async xlsx(papers: readonly Paper[], name: string): Promise<PaperFile> {
    const bytes = await this.orDied(this.remote(0).xlsx(papers));
    return { name, type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", bytes };
  }

  stop(): void {
    for (const { thread } of this.threads) thread.terminate();
  }

  private remote(index: number): Remote<PapersWorker> {
    const known = this.threads[index];
    if (known) return known.remote;
    const thread = this.start();
    const failed = () => this.fail(new Error("Making the papers ended by itself. Try again; nothing was changed."));
    thread.addEventListener("error", failed);
    thread.addEventListener("messageerror", failed);
    const started = { thread, remote: wrap<PapersWorker>(thread as Worker) };
    this.threads[index] = started;
    return started.remote;
  }

  private orDied<T>(answer: Promise<T>): Promise<T> {
    return Promise.race([answer, this.died]);
  }
}
