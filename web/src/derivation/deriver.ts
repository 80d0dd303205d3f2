import type { Consequence, EditGroup, LaidAs, RailwayRecord, RoutePress, UnitDesign, Version } from "@alderman/core";
import type { DeriveWorker, Focus, FocusResult, ProvingCounts } from "./derive.worker.ts";
import { type Overview, type OverviewChange, withChange } from "./overview.ts";
import { sentRecord } from "./sentRecord.ts";

/** The latest results; a part is null until it has been worked out once for this railway. */
export interface Results {
  /** Railway that they are of. */
  railwayId: string | null;
  /**
   * Whether what is shown is of the record as it is: still being worked out; known from earlier as far as findings go, while the
   * rest is worked out; all here; or not to be worked out.
   */
  state: "checking" | "known" | "checked" | "failed";
  overview: Overview | null;
  focus: FocusResult | null;
  proving: ProvingCounts | null;
  /** How much is left open. */
  openEnds: number | null;
  /** How far the checking is, 0 to 1, once it takes a while; what is known before it has come to its end is looked at once more. */
  share: number | null;
  /** Sentence for the owner when something could not be worked out, or is tried again. */
  failure: string | null;
}

export const NO_RESULTS: Results = {
  ...{ railwayId: null, state: "checking", overview: null, focus: null, proving: null, openEnds: null },
  ...{ share: null, failure: null },
};

/** The worker as it is called from here: each answer comes later. */
export type AskWorker = {
  [K in keyof DeriveWorker]: (...given: Parameters<DeriveWorker[K]>) => Promise<Awaited<ReturnType<DeriveWorker[K]>>>;
};

/** A worker that runs, until it is stopped or dies. */
export interface RunningWorker {
  ask: AskWorker;
  stop: () => void;
  /** The record that it has read before it was asked anything, as this window has it; taken once. */
  takeRead?: () => RailwayRecord | null;
}

/**
 * Starts a worker.
 * @param died is called, with a sentence, when it ends by itself or can no longer be understood
 * @param beat is called while it works, with how far it is
 */
export type StartWorker = (died: (why: string) => void, beat: (share: number) => void) => RunningWorker;

/** Time without an answer or a beat after which a worker is taken to hang, milliseconds: the longest step on a slow machine is far below. */
export const LONGEST_SILENCE = 60_000;

/** A worker ended, or was ended because it hung. */
class WorkerEnded extends Error {
  override readonly name = "WorkerEnded";
}

/** What each question was last answered for; of the record what was found at once, and all of it. */
type Done = Record<"record" | "checked" | "proving" | "openEnds", RailwayRecord | null> & {
  focus: Focus | null;
  kept: Version | null;
};

const nothingDone = (): Done => ({
  ...{ record: null, checked: null, focus: null, proving: null, openEnds: null, kept: null },
});

/** A question whether a remedy cures, and who waits for the answer. */
interface Doubt {
  key: string;
  label: string;
  tell: (cures: boolean | null) => void;
}

interface Wanted {
  railwayId: string | null;
  record: RailwayRecord | null;
  focus: Focus | null;
  /** How the record stands on the server; null while something of it waits. */
  version: Version | null;
}

/**
 * Asks the worker for what is wanted. Requests still queued are dropped when a newer one arrives, and so is what is left of a long
 * checking. First comes the overview of the record as far as it is checked in a moment, then the focus once the circuit is made, then the
 * rest of the checking in parts, how far the proving is and what is left open; then what was found is kept where the railway stands so on
 * the server; last whether remedies that are looked at cure.
 *
 * A worker that throws is told of once, and started anew with the next record or when asked to. One that dies or hangs is started
 * anew at once, which is said; when that happens to the same record again, it is left at that.
 */
export class Deriver {
  /** Is told the results whenever they change. */
  publish: (results: Results) => void = () => {};
  private wanted: Wanted = { railwayId: null, record: null, focus: null, version: null };
  private done = nothingDone();
  private running = false;
  /** Remedies that somebody looks at; they are solved when nothing else is to be worked out. */
  private doubts: Doubt[] = [];
  private results = NO_RESULTS;
  /** The latest overview that came, shown or not: the worker sends only what changed since. */
  private base: Overview | null = null;
  /** How far its checking was then, 0 to 1. */
  private share = 0;
  /** The record that the worker has. */
  private sent: RailwayRecord | null = null;
  private worker: (RunningWorker & { death: Promise<never>; end: (why: string) => void }) | null = null;
  private silence: ReturnType<typeof setTimeout> | null = null;
  /** The record for which a worker was started anew after one had ended. */
  private triedAgain: RailwayRecord | null = null;

  constructor(private readonly start: StartWorker) {}

  /**
   * Says what is wanted from now on; without a record, nothing is.
   * @param version at which the record stands on the server, so that what is found of it can be kept; null while it does not
   */
  want(railwayId: string | null, record: RailwayRecord | null, focus: Focus, version: Version | null = null): void {
    const other = railwayId !== this.wanted.railwayId;
    const changed = other || record !== this.wanted.record;
    // what is wanted now is asked as soon as the question before it is answered
    if (this.running && (changed || focus !== this.wanted.focus)) void this.worker?.ask.hurry();
    this.wanted = { railwayId, record, focus, version };
    if (other || !record) {
      this.done = nothingDone();
      this.base = null;
      this.tell({ ...NO_RESULTS, railwayId });
    } else if (changed) this.tell({ state: "checking", share: null });
    if (changed) this.dropDoubts();
    if (record) void this.work();
  }

  /** Starts a new worker and asks it for everything. */
  restart(): void {
    this.discard();
    this.triedAgain = null;
    this.done = nothingDone();
    this.tell({ state: "checking", failure: null });
    void this.work();
  }

  /** Whether a remedy, made and solved, cures a finding; null when the record moved on before it was known. */
  cures(key: string, label: string): Promise<boolean | null> {
    return new Promise((tell) => {
      this.doubts.push({ key, label, tell });
      void this.work();
    });
  }

  private dropDoubts(): void {
    for (const { tell } of this.doubts) tell(null);
    this.doubts = [];
  }

  /** What an edit would do to the findings, asked of the worker before it is made; null when it cannot say. */
  async consequences(group: EditGroup): Promise<Consequence | null> {
    try {
      return await this.ask((worker) => worker.consequences(group));
    } catch {
      // the edit may be made all the same; what is wrong with the worker is told where its results are shown
      return null;
    }
  }

  /** A net, or the commons of a zone, laid in each way, asked of the worker; empty when it cannot say. */
  async layings(of: { netId: string } | { zoneId: string }): Promise<LaidAs[]> {
    try {
      return await this.ask((worker) => worker.layings(of));
    } catch {
      return [];
    }
  }

  /** The button of a route pressed, asked of the worker; null when it cannot say. */
  async routePress(boardId: string, key: string): Promise<RoutePress | null> {
    try {
      return await this.ask((worker) => worker.routePress(boardId, key));
    } catch {
      return null;
    }
  }

  /** What the discharge units of routes could be, asked of the worker; empty when it cannot say. */
  async unitDesigns(): Promise<UnitDesign[]> {
    try {
      return await this.ask((worker) => worker.unitDesigns());
    } catch {
      return [];
    }
  }

  private tell(change: Partial<Results>): void {
    this.results = { ...this.results, ...change };
    this.publish(this.results);
  }

  private async ask<T>(question: (worker: AskWorker) => Promise<T>): Promise<T> {
    const worker = this.worker ?? this.begin();
    this.worker = worker;
    this.watch(worker);
    try {
      return await Promise.race([question(worker.ask), worker.death]);
    } finally {
      this.unwatch();
    }
  }

  /** Ends a worker that neither answers nor beats for too long. */
  private watch(worker: { end: (why: string) => void }): void {
    this.unwatch();
    this.silence = setTimeout(
      () => worker.end(`The checking did not come on for ${LONGEST_SILENCE / 1000} seconds.`),
      LONGEST_SILENCE,
    );
  }

  private unwatch(): void {
    if (this.silence !== null) clearTimeout(this.silence);
    this.silence = null;
  }

  private begin() {
    let fail: (error: Error) => void = () => {};
    const death = new Promise<never>((_done, reject) => {
      fail = reject;
    });
    // nobody may be waiting for an answer when it dies
    death.catch(() => {});
    const end = (why: string) => {
      if (this.worker?.death !== death) return;
      this.discard();
      fail(new WorkerEnded(why));
      // what waits for an answer is told by that
      if (!this.running && !this.tryAgain(why)) this.tell({ state: "failed", failure: why });
    };
    const beat = (share: number) => {
      if (this.worker?.death !== death) return;
      if (this.silence !== null) this.watch({ end });
      if (this.results.state === "checking") this.tell({ share });
    };
    return { ...this.start(end, beat), death, end };
  }

  /** Asks a new worker for everything, once for each record. @returns whether it is tried */
  private tryAgain(why: string): boolean {
    const { record } = this.wanted;
    if (!record || this.triedAgain === record) return false;
    this.triedAgain = record;
    this.done = nothingDone();
    this.tell({ state: "checking", share: null, failure: `${why} It was started anew.` });
    void this.work();
    return true;
  }

  private discard(): void {
    this.worker?.stop();
    this.worker = null;
    this.base = null;
    this.sent = null;
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

  /** Takes a part of the overview. @param isWanted its record is the one that is wanted */
  private take(change: OverviewChange, isWanted: boolean): void {
    this.base = withChange(this.base, change);
    this.share = change.share;
    const isAll = change.share === 1;
    if (isAll) this.done.checked = this.done.record;
    if (!isWanted) return;
    const overview = this.base;
    const isHere = isAll || (change.known && overview.coming.length === 0);
    this.tell({
      ...{ overview, share: isAll ? null : change.share },
      ...(isHere ? { state: "checked", failure: null } : change.known ? { state: "known" } : {}),
    });
  }

  /** Asks for the next part of the checking. @param isWanted whether the record is still the one that is wanted */
  private async goOn(railwayId: string | null, isWanted: () => boolean): Promise<void> {
    const change = await this.ask((worker) => worker.more());
    if (this.wanted.railwayId !== railwayId) return;
    if (change) this.take(change, isWanted());
    else this.done.record = null;
  }

  /** Asks one question; false when all is answered. */
  private async step(): Promise<boolean> {
    const { railwayId, record, focus, version } = this.wanted;
    if (!record) return false;
    const standing = railwayId !== null && version ? { railwayId, ...version } : null;
    const isHere = this.done.checked === record || this.results.state === "checked";
    // the thread that is looked at is read in the circuit, and so after it is made, or taken over from before an edit
    const isCut = this.done.checked === record || (this.share > 0 && !this.base?.coming.includes("boards"));
    const isWanted = () => this.wanted.record === record && this.wanted.railwayId === railwayId;
    try {
      if (record !== this.done.record) {
        const anew = this.base === null;
        this.worker ??= this.begin();
        const sent = sentRecord(record, this.sent ?? this.worker.takeRead?.() ?? null);
        this.sent = record;
        const change = await this.ask((worker) => worker.overview(sent, anew, standing));
        if (this.wanted.railwayId !== railwayId) return true;
        this.done = { ...nothingDone(), record };
        this.take(change, isWanted());
      } else if (focus && focus !== this.done.focus && isCut) {
        const result = await this.ask((worker) => worker.focus(focus));
        this.done.focus = focus;
        if (this.wanted.focus === focus && isWanted()) this.tell({ focus: result });
      } else if (!isHere) {
        await this.goOn(railwayId, isWanted);
      } else if (this.done.proving !== record) {
        const proving = await this.ask((worker) => worker.proving());
        this.done.proving = record;
        if (isWanted()) this.tell({ proving });
      } else if (this.done.openEnds !== record) {
        const openEnds = await this.ask((worker) => worker.openEnds());
        this.done.openEnds = record;
        if (isWanted()) this.tell({ openEnds });
      } else if (this.done.checked !== record) {
        // what is known already is looked at once more
        await this.goOn(railwayId, isWanted);
      } else if (standing && version !== this.done.kept) {
        await this.ask((worker) => worker.keep(standing));
        this.done.kept = version;
      } else {
        const [doubt] = this.doubts;
        if (!doubt) return false;
        // one that cannot be solved is not offered, and takes nothing else with it
        const cures = await this.ask((worker) => worker.cures(doubt.key, doubt.label)).catch(() => false);
        if (cures === null && isWanted()) return true;
        this.doubts = this.doubts.filter((each) => each !== doubt);
        doubt.tell(isWanted() ? cures : null);
      }
    } catch (error) {
      if (this.wanted.railwayId !== railwayId) return true;
      if (error instanceof WorkerEnded && this.tryAgain(error.message)) return true;
      // the same question would fail again: wait for another record, or until the owner asks for it
      this.discard();
      this.dropDoubts();
      this.done = { record, checked: record, focus, proving: record, openEnds: record, kept: version };
      this.tell({ state: "failed", failure: error instanceof Error ? error.message : String(error) });
    }
    return true;
  }
}
