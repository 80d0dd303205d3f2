import {
  type Edit,
  edit,
  isSame,
  LISTS,
  type RailwayRecord,
  RecordError,
  type Touch,
  type Turns,
  touchedThings,
} from "@alderman/core";
import type { Mine } from "../store/notices.ts";
import { fieldName, valueWords } from "./fieldWords.ts";

/** Something that was done in this window and is on its way to the server. */
export type Entry = {
  /** The stamp of the revision that it will make; the server applies it once, however often it is sent. */
  id: string;
} & (
  | {
      kind: "edits";
      words: string;
      edits: Edit[];
      /** What it changed as it stood before, so that it can be done on what others make of it meanwhile; null for what is new. */
      before?: Before[];
    }
  | { kind: "undo" | "redo" }
);

/** A thing by its key, as it stood. */
type Before = [key: string, value: object | null];

/** An entry that cannot be kept, and why, in a sentence for the owner. */
export interface Lost {
  entryId: string;
  /** What was done; null for an undo or redo. */
  words: string | null;
  why: string;
  /** The rest of it is kept: only what another window has set as well is not. */
  rest?: true;
  /** What this window had set there. */
  mine?: Mine["things"];
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

/** What some edits will change, as it stands in a record. */
export function beforeOf(record: RailwayRecord, edits: readonly Edit[]): Before[] {
  return [...touchedThings(edits)].map(([key, touch]) => [key, standsIn(record, touch)]);
}

/** A thing as it stands in a record; null when it is not there. */
function standsIn(record: RailwayRecord, touch: Touch): object | null {
  if (touch.kind === "railway") return record.railway;
  const list: readonly { id: string }[] = record[LISTS[touch.kind]];
  return list.find(({ id }) => id === touch.id) ?? null;
}

/** Said of what another window has changed as a whole, or taken away. */
export const CHANGED_ELSEWHERE =
  "The same thing was changed in another window meanwhile. Look at what it is now, and do it again if need be.";

/** What waits, as it is to be done on what others did meanwhile, and what of it is not kept. */
export interface Merged {
  queue: Entry[];
  lost: Lost[];
}

/**
 * Does what waits on what others did meanwhile, field by field: what only one side has set is kept, of what both have set otherwise
 * theirs, which is told with both values. What one side has taken away or made anew is not merged.
 * @param theirs edits of others, all of them applied in `now`
 */
export function merged(queue: readonly Entry[], theirs: readonly Edit[], now: RailwayRecord): Merged {
  const stands = new Map([...touchedThings(theirs)].map(([key, touch]) => [key, standsIn(now, touch)]));
  const lost: Lost[] = [];
  const left = queue.flatMap((entry): Entry[] => {
    if (entry.kind !== "edits" || !entry.edits.some((each) => stands.has(keyOf(each)))) return [entry];
    const { id: entryId, words } = entry;
    const own = new Map(entry.before ?? []);
    const before = new Map(own);
    const after = new Map<string, object>();
    const clashes: string[] = [];
    const mine: Mine["things"][number][] = [];
    const edits: Edit[] = [];
    for (const each of entry.edits) {
      const key = keyOf(each);
      const [was, is] = [own.get(key), after.get(key) ?? stands.get(key)];
      if (!stands.has(key)) edits.push(each);
      else if (each.op === "remove" || !was || !is) {
        lost.push({ entryId, words, why: CHANGED_ELSEWHERE });
        return [];
      } else {
        const kind = each.op === "railway" ? "railway" : each.kind;
        const say = (field: string, of: unknown) => valueWords(now, kind, field, of);
        const { value, clashing, fields } = mergedValue(was, each.value, is, say);
        clashes.push(...clashing);
        if (clashing.length > 0 && each.op === "put") mine.push({ kind: each.kind, id: each.value.id, fields });
        edits.push({ ...each, value } as Edit);
        if (!after.has(key)) before.set(key, is);
        after.set(key, value);
        own.set(key, each.value);
      }
    }
    for (const [key, value] of after) stands.set(key, value);
    if (clashes.length > 0) lost.push({ entryId, words, why: `${clashes.join("; ")}.`, rest: true, mine });
    return [{ ...entry, edits, before: [...before] }];
  });
  return { queue: left, lost };
}

function keyOf(each: Edit): string {
  const [key = ""] = touchedThings([each]).keys();
  return key;
}

type Fields = Readonly<Record<string, unknown>>;

/** Ours on theirs, field by field. @param was what both began with @param say a value in words */
function mergedValue(
  was: object,
  ours: object,
  theirs: object,
  say: (field: string, value: unknown) => string,
): { value: object; clashing: string[]; fields: Record<string, unknown> } {
  const value: Record<string, unknown> = { ...theirs };
  const fields: Record<string, unknown> = {};
  const clashing: string[] = [];
  for (const [field, mine] of Object.entries(ours)) {
    const [before, other] = [(was as Fields)[field], (theirs as Fields)[field]];
    if (isSame(mine, before) || isSame(mine, other)) continue;
    if (isSame(other, before)) value[field] = mine;
    else {
      fields[field] = mine;
      clashing.push(
        `${fieldName(field)} was set to ${say(field, other)} in another window, which stays, and to ${say(field, mine)} here`,
      );
    }
  }
  return { value, clashing, fields };
}

/** What another window had set otherwise than it stands in a record, in words. */
export function clashWords(record: RailwayRecord, things: Mine["things"]): string[] {
  return things.flatMap(({ kind, id, fields }) => {
    const is = standsIn(record, { kind, id }) as Fields | null;
    return Object.entries(fields).flatMap(([field, theirs]) => {
      if (is === null || isSame(is[field], theirs)) return [];
      const [other, stays] = [theirs, is[field]].map((value) => valueWords(record, kind, field, value));
      return [`${fieldName(field)} was set to ${other} in another window, and stays ${stays}`];
    });
  });
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
