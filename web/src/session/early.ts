// A script of its own, beside what draws the page: what the address names is fetched and read while the rest is still on its way. It
// must import little.
import type { RailwayRecord } from "@alderman/core";
import { type Remote, wrap } from "comlink";
import type { DeriveWorker } from "../derivation/derive.worker.ts";

/** An answer of the server, with all that came. */
export interface Came {
  response: Response;
  bytes: ArrayBuffer;
}

/** A worker that checks, and what it is asked by: one of that kind for each, since with the first that is forgotten its worker hears no more. */
export interface Thread {
  worker: Worker;
  remote: Remote<DeriveWorker>;
}

/** A railway that is read ahead. */
interface Coming {
  railwayId: string;
  /** As the server sends it; null once it was taken. */
  railway: Promise<Came> | null;
  /** Nobody has opened it yet, so that it may be another one by then. */
  isExpected: boolean;
  /** The railway as the window has read it, if the worker has read the same. */
  record: RailwayRecord | null;
}

/** Asks the server for something of its railways. */
export async function ask(path: string, init?: RequestInit): Promise<Came> {
  const response = await fetch(`/api/railways${path}`, init);
  // of a large railway this holds the window up for less time than to ask for its text
  return { response, bytes: await response.arrayBuffer() };
}

/** Starts a worker that checks. */
export function startThread(): Thread {
  const worker = new Worker(new URL("../derivation/derive.worker.ts", import.meta.url), { type: "module" });
  return { worker, remote: wrap<DeriveWorker>(worker) };
}

/** The railway that an address names; null where it names none. */
export function railwayIn(path: string | undefined): string | null {
  return /^\/r\/([a-z0-9]+)(\/|$)/.exec(path ?? "")?.[1] ?? null;
}

/**
 * What a window reads before anything asks for it: the railway that is opened, or the one that probably will be. A worker reads it, too,
 * and begins with the checking. Once a railway was opened here, whoever checks it has a worker, and nothing is expected any more.
 */
export class Ahead {
  private coming: Coming | null = null;
  private thread: Thread | null = null;
  private isOver = false;

  constructor(private readonly start = startThread) {}

  /** Begins with a railway that is opened now. */
  begin(railwayId: string): void {
    this.read(railwayId, false);
    this.isOver = true;
  }

  /** Reads a railway that will probably be opened next, and has it checked while nobody waits for anything. */
  expect(railwayId: string): void {
    this.read(railwayId, true);
  }

  /** The railway, if it is the one that is read ahead; taken once. */
  take(railwayId: string): { railway: Promise<Came>; isExpected: boolean } | null {
    const { coming } = this;
    if (coming?.railwayId !== railwayId || !coming.railway) return null;
    const { railway, isExpected } = coming;
    coming.railway = null;
    return { railway, isExpected };
  }

  /** Says that the window has read of a railway just what the worker has read. */
  isRead(railwayId: string, record: RailwayRecord): void {
    if (this.coming?.railwayId === railwayId) this.coming.record = record;
  }

  /** The worker, and what takes the record that it has read; null when none was started, or when it cannot be used. */
  takeThread(): (Thread & { takeRead: () => RailwayRecord | null }) | null {
    const { thread, coming } = this;
    this.isOver = true;
    this.thread = null;
    if (!thread) return null;
    const takeRead = () => {
      const record = coming?.record ?? null;
      if (coming) coming.record = null;
      return record;
    };
    return { ...thread, takeRead };
  }

  private read(railwayId: string, isExpected: boolean): void {
    if (this.isOver || this.coming?.railwayId === railwayId) return;
    const thread = this.thread ?? this.startOne();
    const railway = ask(`/${railwayId}`);
    const coming: Coming = { railwayId, railway, isExpected, record: null };
    this.coming = coming;
    const cannotBeUsed = () => this.forget(thread);
    railway.then(
      ({ response, bytes }) => {
        if (this.coming !== coming) return;
        if (response.ok) return thread.remote.readAhead([...response.headers], bytes, isExpected).catch(cannotBeUsed);
        if (isExpected) this.coming = null;
      },
      // who opens it is told why it did not come, or asks again
      () => {
        if (isExpected && this.coming === coming) this.coming = null;
      },
    );
  }

  private startOne(): Thread {
    const thread = this.start();
    this.thread = thread;
    thread.worker.addEventListener("error", () => this.forget(thread));
    return thread;
  }

  /** A worker that could not be started, or could not read, is asked nothing. */
  private forget(thread: Thread): void {
    if (this.thread === thread) this.thread = null;
  }
}

/** What this window reads ahead. */
export const ahead = new Ahead();
const named = railwayIn(globalThis.location?.pathname);
if (named) ahead.begin(named);
