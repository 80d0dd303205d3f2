import { lean, type Paper, type PaperOptions, type RailwayRecord } from "@alderman/core";
import { type Remote, wrap } from "comlink";
import type { Made, PapersWorker } from "./papers.worker.ts";
import type { PaperHead } from "./pdfParts.ts";

type Thread = Pick<Worker, "postMessage" | "addEventListener" | "removeEventListener" | "terminate">;

const startThread = (): Thread => new Worker(new URL("./papers.worker.ts", import.meta.url), { type: "module" });

/** Threads that set papers side by side, at most. */
const MOST_THREADS = 4;

/** A file that was made. */
export interface PaperFile {
  name: string;
  type: string;
  bytes: Uint8Array;
}

/** Hears of each paper that is made, and of each that is set. */
export type Tell = (done: { made: number; set: number; what: string }) => void;

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

  /** Works out what papers of a railway are made from. */
  begin(record: RailwayRecord, options: PaperOptions): Promise<void> {
    const light = { ...lean(record, ["plan", "proof"]), stocks: record.stocks };
    return this.orDied(this.remote(0).begin(light, options));
  }

  /** Makes papers one after the other. @param each is given each of them when it is made */
  async make(ids: readonly string[], each: (made: Made, index: number) => void): Promise<Made[]> {
    const all: Made[] = [];
    for (const [index, id] of ids.entries()) {
      const made = await this.orDied<Made>(this.remote(0).paper(id));
      all.push(made);
      each(made, index);
    }
    return all;
  }

  /** Makes papers, and sets each as a PDF file of its own as soon as it is made, several at a time. */
  async pdfs(ids: readonly string[], head: PaperHead, tell: Tell): Promise<{ made: Made[]; files: PaperFile[] }> {
    const waiting: { paper: Paper; index: number }[] = [];
    const files: PaperFile[] = [];
    const done = { made: 0, set: 0 };
    let isMade = false;
    let wake: (() => void)[] = [];
    const wakeAll = () => {
      for (const each of wake) each();
      wake = [];
    };
    const setter = async (thread: number) => {
      for (;;) {
        const next = waiting.shift();
        if (!next) {
          if (isMade) return;
          await new Promise<void>((go) => wake.push(go));
          continue;
        }
        const { paper, index } = next;
        const bytes = await this.orDied(this.remote(thread).pdf(paper, head));
        files[index] = { name: `${paper.id}.pdf`, type: "application/pdf", bytes };
        done.set++;
        tell({ ...done, what: paper.title });
      }
    };
    const count = Math.min(MOST_THREADS, ids.length, globalThis.navigator?.hardwareConcurrency ?? 1);
    const others = Array.from({ length: Math.max(0, count - 1) }, (_, index) => setter(index + 1));
    const made = await this.make(ids, (each, index) => {
      done.made++;
      if ("paper" in each) waiting.push({ paper: each.paper, index });
      tell({ ...done, what: "paper" in each ? each.paper.title : "" });
      wakeAll();
    });
    isMade = true;
    wakeAll();
    // the thread that made them sets what is left too
    await Promise.all([...others, setter(0)]);
    return { made, files: files.filter(Boolean) };
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
