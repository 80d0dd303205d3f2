import type { Version } from "@alderman/core";
import { createStore, del, entries, set } from "idb-keyval";
import { keepText, keptText } from "../tools/browserStore.ts";
import type { Entry } from "./queue.ts";

/** What waits for one railway since an earlier page was closed. */
export interface Waiting {
  /** In the order in which it was done. */
  queue: Entry[];
  /** Where the railway stood when the first of it was done. */
  since: Version;
  /** Whether a stamp was made by one of the windows that the queue comes from. */
  isOwn: (stamp: string) => boolean;
}

/** What waits for the server, kept where a reload or the end of the browser does not lose it. */
export interface KeptQueue {
  /** An identifier for something that is done in this window. */
  newId(): string;
  /** Whether an identifier was made by this window. */
  isOwn(id: string): boolean;
  keep(railwayId: string, entry: Entry, against: Version): Promise<void>;
  /** When everything that is to be kept is, or cannot be. */
  settled(): Promise<void>;
  forget(entryIds: readonly string[]): Promise<void>;
  /** What waits for a railway, of this window and of windows which are gone; null when nothing does. */
  waiting(railwayId: string): Promise<Waiting | null>;
  /** Railways for which something waits. */
  railways(): Promise<string[]>;
}

interface Kept {
  railwayId: string;
  /** The window that it was done in. */
  window: string;
  /** Milliseconds since 1970, never fewer than of anything kept before it; and a number that tells two within one apart. */
  at: [number, number];
  entry: Entry;
  against: Version;
}

const LOCK = "alderman-window ";

/** Kept in IndexedDB. A window that lives holds a lock of its name, by which others know that its entries are in good hands. */
export function indexedDbQueue(): KeptQueue {
  const own = windowName();
  const store = createStore("alderman-queue", "entries");
  void navigator.locks?.request(`${LOCK}${own}`, () => new Promise(() => {}));
  let count = 0;
  let writing: Promise<unknown> = Promise.resolve();
  /** The latest moment that is taken: a clock that was set back must not bring what is done next before what waits already. */
  let latest = 0;

  const all = async (): Promise<Kept[]> => {
    const [kept, living] = await Promise.all([entries<string, Kept>(store), livingWindows()]);
    latest = Math.max(latest, ...kept.map(([, { at }]) => at[0] + 1));
    return kept
      .map(([, value]) => value)
      .filter(({ window }) => window === own || !living.has(window))
      .sort(({ at: a }, { at: b }) => a[0] - b[0] || a[1] - b[1]);
  };
  return {
    newId: () => `${own}-${crypto.randomUUID()}`,
    isOwn: (id) => id.startsWith(`${own}-`),
    // a browser that forbids pages to keep anything says so at the first question: then it waits in this window only
    keep: async (railwayId, entry, against) => {
      latest = Math.max(latest, Date.now());
      const kept: Kept = { railwayId, window: own, at: [latest, count++], entry, against };
      const written = set(entry.id, kept, store);
      writing = Promise.allSettled([writing, written]);
      await written;
    },
    settled: async () => {
      await writing;
    },
    forget: async (entryIds) => {
      // what was sent and could not be taken out is sent again, and not applied again
      await Promise.allSettled(entryIds.map(async (id) => del(id, store)));
    },
    waiting: async (railwayId) => {
      const kept = (await all()).filter((each) => each.railwayId === railwayId);
      const [first] = kept;
      if (!first) return null;
      const windows = new Set(kept.map(({ window }) => window));
      return {
        queue: kept.map(({ entry }) => entry),
        since: first.against,
        isOwn: (stamp) => windows.has(stamp.slice(0, first.window.length)),
      };
    },
    railways: async () => [...new Set((await all().catch(() => [])).map(({ railwayId }) => railwayId))],
  };
}

/** Eight letters or digits, the same after a reload. */
function windowName(): string {
  const known = keptText("alderman-window", "in this window");
  if (known) return known;
  const fresh = crypto.randomUUID().slice(0, 8);
  keepText("alderman-window", fresh, "in this window");
  return fresh;
}

async function livingWindows(): Promise<ReadonlySet<string>> {
  const held = (await navigator.locks?.query())?.held ?? [];
  return new Set(held.flatMap(({ name }) => (name?.startsWith(LOCK) ? [name.slice(LOCK.length)] : [])));
}
