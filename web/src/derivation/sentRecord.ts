import { LISTS, lean, type RailwayRecord } from "@alderman/core";
import { isSameList, type ListChange, listChange, withList } from "./listChange.ts";

/** A record on its way to the worker: whole, or what is new in it since the one that was sent before. */
export type SentRecord =
  | { whole: RailwayRecord }
  | { railway: RailwayRecord["railway"] | null; lists: { readonly [list: string]: ListChange<unknown> } };

/** What the worker gets of a record; pictures weigh more than everything else, and nothing is worked out from them. */
export const workedOn = (record: RailwayRecord): RailwayRecord => lean(record, ["plan", "proof"]);

type Lists = Readonly<Record<string, readonly unknown[]>>;
const listsOf = (record: RailwayRecord) => record as unknown as Lists;

/** A record as it has to be sent to who has another one; things that an edit left alone are the same objects in both. */
export function sentRecord(now: RailwayRecord, before: RailwayRecord | null): SentRecord {
  if (!before) return { whole: now };
  const changes = Object.values(LISTS).flatMap((name) => {
    const [list, old] = [listsOf(now)[name] ?? [], listsOf(before)[name] ?? []];
    return isSameList(list, old) ? [] : [[name, listChange(list, old)] as const];
  });
  return { railway: now.railway === before.railway ? null : now.railway, lists: Object.fromEntries(changes) };
}

/** The record that was sent, with lists and things that are as before the same ones; the one before when all are. @param before the one that came last */
export function receivedRecord(sent: SentRecord, before: RailwayRecord | null): RailwayRecord {
  if ("whole" in sent) return sent.whole;
  if (!before) throw new Error("There is no record for this change.");
  const changes = Object.entries(sent.lists);
  if (!sent.railway && changes.length === 0) return before;
  const lists = changes.map(([name, change]) => [name, withList(listsOf(before)[name] ?? [], change)]);
  return { ...before, railway: sent.railway ?? before.railway, ...Object.fromEntries(lists) };
}
