import { type Edit, edit, type RailwayRecord, RecordError, type Turns, touchedThings } from "@alderman/core";

/** Something that was done in this window and is on its way to the server. */
export type Entry = {
  /** The stamp of the revision that it will make; the server applies it once, however often it is sent. */
  id: string;
} & ({ kind: "edits"; words: string; edits: Edit[] } | { kind: "undo" | "redo" });

/** An entry that cannot be kept, and why, in a sentence for the owner. */
export interface Lost {
  entryId: string;
  /** What was done; null for an undo or redo. */
  words: string | null;
  why: string;
}

/** The record with a queue applied to it, and the entries that no longer can be. */
export interface Replayed {
  record: RailwayRecord;
  lost: Lost[];
}

/** What an entry does, in words; null for an undo or redo, whose words the server knows. */
export function wordsOf(entry: Entry): string | null {
  return entry.kind === "edits" ? entry.words : null;
}

/**
 * Applies what waits to the confirmed record. An undo takes back the latest edits that wait; beyond them it shows only
 * when the server has answered, unless the records before this window's own latest edits are given.
 * @param earlier the records before the latest edits that were confirmed, oldest first
 */
export function replay(
  confirmed: RailwayRecord,
  queue: readonly Entry[],
  earlier: readonly RailwayRecord[] = [],
): Replayed {
  const lost: Lost[] = [];
  const before: RailwayRecord[] = [...earlier];
  const after: RailwayRecord[] = [];
  let record = confirmed;
  for (const entry of queue) {
    if (entry.kind === "edits") {
      try {
        const edited = edit(record, entry.edits).record;
        before.push(record);
        after.length = 0;
        record = edited;
      } catch (error) {
        if (!(error instanceof RecordError)) throw error;
        lost.push({ entryId: entry.id, words: entry.words, why: error.message });
      }
      continue;
    }
    const [from, to] = entry.kind === "undo" ? [before, after] : [after, before];
    const turned = from.pop();
    if (turned === undefined) continue;
    to.push(record);
    record = turned;
  }
  return { record, lost };
}

/** The entries whose edits touch a thing that another window's edits touch as well. */
export function conflicting(queue: readonly Entry[], edits: readonly Edit[]): Entry[] {
  const theirs = touchedThings(edits);
  return queue.filter(
    (entry) => entry.kind === "edits" && [...touchedThings(entry.edits).keys()].some((key) => theirs.has(key)),
  );
}

/**
 * What undo and redo would do next, with what waits taken into account; an empty text when it is known that something
 * can be turned back, but not what.
 */
export function turnsAfter({ undo, redo }: Turns, queue: readonly Entry[]): Turns {
  const done: (string | null)[] = [undo];
  let undone: (string | null)[] = [redo];
  for (const entry of queue) {
    if (entry.kind === "edits") {
      done.push(entry.words);
      undone = [];
    } else if (entry.kind === "undo") undone.push(done.pop() ?? null);
    else done.push(undone.pop() ?? null);
  }
  // what lies deeper than the server has told of may be there or not
  const next = (stack: (string | null)[], known: string | null) =>
    stack.at(-1) ?? (stack.length === 0 && known ? "" : null);
  return { undo: next(done, undo), redo: next(undone, redo) };
}
