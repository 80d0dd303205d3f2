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

/** What a page that names a railway has begun with. */
export interface Early {
  railwayId: string;
  /** The railway as the server sent it; null once it was taken. */
  railway: Promise<Came> | null;
  /** The thread that reads it, too; null once it was taken, or when it cannot be used. */
  thread: Thread | null;
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

/** Begins with the railway that an address names; null where it names none. */
export function beginEarly(path: string | undefined, start = startThread): Early | null {
  const railwayId = /^\/r\/([a-z0-9]+)(\/|$)/.exec(path ?? "")?.[1];
  if (!railwayId) return null;
  const [thread, railway] = [start(), ask(`/${railwayId}`)];
  const made: Early = { railwayId, railway, thread, record: null };
  const cannotBeUsed = () => {
    made.thread = null;
  };
  thread.worker.addEventListener("error", cannotBeUsed);
  railway
    .then(({ response, bytes }) => {
      if (response.ok) return thread.remote.readAhead([...response.headers], bytes);
    })
    // who asks for the railway is told why it did not come; a worker that could not read it is not asked about it
    .catch(cannotBeUsed);
  return made;
}

/** What this page has begun with. */
export const early = beginEarly(globalThis.location?.pathname);
