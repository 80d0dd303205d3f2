import type { RailwayRecord } from "@alderman/core";
import type { DeriveWorker, Focus, FocusResult, ProvingCounts } from "./derive.worker.ts";
import { type Overview, withChange } from "./overview.ts";

/** The latest results; a part is null until it has been worked out once. */
export interface Results {
  overview: Overview | null;
  focus: FocusResult | null;
  proving: ProvingCounts | null;
  /** How much is left open. */
  openEnds: number | null;
  /** Sentence for the owner when something could not be worked out. */
  failure: string | null;
}

export const NO_RESULTS: Results = { overview: null, focus: null, proving: null, openEnds: null, failure: null };

/** The worker as it is called from here: each answer comes later. */
export type AskWorker = {
  [K in keyof DeriveWorker]: (...given: Parameters<DeriveWorker[K]>) => Promise<ReturnType<DeriveWorker[K]>>;
};

const nothingDone = (): Done => ({ record: null, focus: null, proving: null, openEnds: null });

/** What each question was last answered for. */
type Done = Record<"record" | "proving" | "openEnds", RailwayRecord | null> & { focus: Focus | null };

/**
 * Asks the worker for what is wanted, the newest only: whatever was wanted while the worker was busy is passed over when
 * something newer has come in since. First the overview of the record, then the focus, then how far the proving is and
 * what is left open.
 */
export class Deriver {
  private wanted: { record: RailwayRecord | null; focus: Focus | null } = { record: null, focus: null };
  private done = nothingDone();
  private running = false;
  private results = NO_RESULTS;
  /** The latest overview that came, shown or not: the worker sends only what changed since. */
  private base: Overview | null = null;

  constructor(
    private readonly worker: () => AskWorker,
    private readonly publish: (results: Results) => void,
  ) {}

  /** Says what is wanted from now on; without a record, nothing is. */
  want(record: RailwayRecord | null, focus: Focus): void {
    this.wanted = { record, focus };
    if (record) void this.work();
    else {
      this.done = nothingDone();
      this.base = null;
      this.tell(NO_RESULTS);
    }
  }

  private tell(change: Partial<Results>): void {
    this.results = { ...this.results, ...change };
    this.publish(this.results);
  }

  private async work(): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      while (await this.step()) {
        // one question after the other, until nothing is wanted that was not answered
      }
    } finally {
      this.running = false;
    }
  }

  /** Asks one question; false when all is answered. */
  private async step(): Promise<boolean> {
    const { record, focus } = this.wanted;
    if (!record) return false;
    try {
      if (record !== this.done.record) {
        const overview = withChange(this.base, await this.worker().overview(record, this.base === null));
        this.base = overview;
        this.done = { ...nothingDone(), record };
        if (this.wanted.record === record) this.tell({ overview, failure: null });
      } else if (focus && focus !== this.done.focus) {
        const result = await this.worker().focus(focus);
        this.done.focus = focus;
        if (this.wanted.focus === focus && this.wanted.record === record) this.tell({ focus: result });
      } else if (this.done.proving !== record) {
        const proving = await this.worker().proving();
        this.done.proving = record;
        if (this.wanted.record === record) this.tell({ proving });
      } else if (this.done.openEnds !== record) {
        const openEnds = await this.worker().openEnds();
        this.done.openEnds = record;
        if (this.wanted.record === record) this.tell({ openEnds });
      } else return false;
    } catch (error) {
      // the same question would fail again: wait for another one, and then ask for everything
      this.base = null;
      this.done = { record, focus, proving: record, openEnds: record };
      this.tell({ failure: error instanceof Error ? error.message : String(error) });
    }
    return true;
  }
}
